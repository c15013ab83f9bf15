<script lang="ts">
  import ChevronDown from "@lucide/svelte/icons/chevron-down";
  import { known } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Measure from "./Measure.svelte";
  import Name from "./Name.svelte";

  let { session }: { session: Session } = $props();

  let rig = $derived(session.job.rig);
  let settings = $derived(session.assessment?.settings);
  let ropes = $derived(known.get().ropes);

  function chooseRope(name: string) {
    const rope = ropes.find((r) => r.name === name);
    if (rope) {
      void session.change((job) => {
        job.rig.rope = structuredClone(rope);
      });
    }
  }

  function addRow() {
    void session.change((job) => {
      const rows = job.rig.rope?.elongation;
      const last = rows?.at(-1);
      if (rows && last)
        rows.push({ load_pct: Math.min(100, last.load_pct + 10), strain_pct: last.strain_pct + 1 });
    });
  }

  function removeRow(i: number) {
    void session.change((job) => {
      job.rig.rope?.elongation.splice(i, 1);
    });
  }
</script>

<div class="space-y-4">
  <label class="block">
    <span class="mb-0.5 block text-sm font-medium">Rope</span>
    <select
      class="select touch w-full text-base font-medium"
      value={rig.rope?.name ?? ""}
      onchange={(e) => chooseRope(e.currentTarget.value)}
    >
      {#if !rig.rope}<option value="">choose</option>{/if}
      {#if rig.rope && !ropes.some((r) => r.name === rig.rope?.name)}
        <option value={rig.rope.name ?? ""}>{rig.rope.name || "unnamed rope"}</option>
      {/if}
      {#each ropes as rope (rope.name)}<option value={rope.name}>{rope.name}</option>{/each}
    </select>
  </label>
  {#if rig.rope && ropes.some((r) => r.name === rig.rope?.name)}
    <p class="-mt-2 text-xs faint">{known.get().rope_source}</p>
  {/if}

  {#if rig.rope}
    <div class="grid grid-cols-2 gap-2">
      <Measure
        {session}
        path="rig.rope.mbs_kn"
        label="Breaking strength"
        quantity="force"
        value={rig.rope.mbs_kn}
        required
      />
      <Measure
        {session}
        path="rig.rope.marked_kn"
        label="Marked limit"
        quantity="force"
        value={rig.rope.marked_kn}
        hint="none"
      />
    </div>
    <details class="border-y border-base-300">
      <summary class="flex touch cursor-pointer items-center text-sm font-medium">
        Stretch of the rope, and its name
        <ChevronDown size={16} class="ml-auto" />
      </summary>
      <div class="space-y-2 pb-3">
        <Name {session} path="rig.rope.name" label="Name" value={rig.rope.name} />
        {#each rig.rope.elongation as row, i (i)}
          <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
            <Measure
              {session}
              path={`rig.rope.elongation[${i}].load_pct`}
              label="At % of strength"
              quantity="number"
              value={row.load_pct}
              required
            />
            <Measure
              {session}
              path={`rig.rope.elongation[${i}].strain_pct`}
              label="Longer by %"
              quantity="number"
              value={row.strain_pct}
              required
            />
            <button
              type="button"
              class="btn touch btn-ghost px-2"
              disabled={rig.rope.elongation.length < 2}
              aria-label={`Remove stretch row ${i + 1}`}
              onclick={() => removeRow(i)}>×</button
            >
          </div>
        {/each}
        <button type="button" class="btn touch w-full btn-outline" onclick={addRow}
          >Add a row</button
        >
        <Measure
          {session}
          path="rig.rope.dynamic_factor"
          label="Stiffer in a shock, times"
          quantity="number"
          value={settings?.dynamic_factor}
        />
      </div>
    </details>
  {/if}

  <div class="grid grid-cols-2 gap-2">
    <Measure
      {session}
      path="rig.tie_above_cut_m"
      label="Tie above cut"
      quantity="height"
      value={settings?.tie_above_cut_m}
    />
    <Measure
      {session}
      path="rig.slack_m"
      label="Slack"
      quantity="height"
      value={settings?.slack_m}
    />
  </div>

  <fieldset class="space-y-2">
    <legend class="text-sm font-bold">Block</legend>
    <Name {session} path="rig.block.name" label="Name" value={rig.block.name} />
    <div class="grid grid-cols-2 gap-2">
      <Measure
        {session}
        path="rig.block.below_cut_m"
        label="Below the cut"
        quantity="height"
        value={settings?.block_below_cut_m}
      />
      <Measure
        {session}
        path="rig.block.efficiency"
        label="Efficiency"
        quantity="number"
        value={settings?.block_efficiency}
      />
      <Measure
        {session}
        path="rig.block.marked_kn"
        label="Marked limit"
        quantity="force"
        value={rig.block.marked_kn}
        hint="none"
      />
      <Measure
        {session}
        path="rig.block.breaking_kn"
        label="Breaking strength"
        quantity="force"
        value={rig.block.breaking_kn}
        hint="none"
      />
    </div>
  </fieldset>

  <fieldset class="space-y-2">
    <legend class="text-sm font-bold">Lowering device</legend>
    <Name {session} path="rig.device.name" label="Name" value={rig.device.name} />
    <div class="grid grid-cols-2 gap-2">
      <Measure
        {session}
        path="rig.device.at_m"
        label="Height on stem"
        quantity="height"
        value={settings?.device_at_m}
      />
      <Measure
        {session}
        path="rig.device.friction"
        label="Friction"
        quantity="number"
        value={settings?.friction}
      />
      <Measure
        {session}
        path="rig.device.marked_kn"
        label="Marked limit"
        quantity="force"
        value={rig.device.marked_kn}
        hint="none"
      />
      <Measure
        {session}
        path="rig.device.breaking_kn"
        label="Breaking strength"
        quantity="force"
        value={rig.device.breaking_kn}
        hint="none"
      />
    </div>
  </fieldset>

  <div class="grid grid-cols-2 gap-2">
    <Measure
      {session}
      path="rig.anchor_stiffness_kn_m"
      label="Anchor gives, kN/m"
      quantity="number"
      value={rig.anchor_stiffness_kn_m}
      hint="rigid"
    />
    <Measure
      {session}
      path="rig.energy_lost_pct"
      label="Energy lost, %"
      quantity="number"
      value={settings?.energy_lost_pct}
    />
  </div>
</div>
