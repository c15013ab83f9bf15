<script lang="ts">
  import { untrack } from "svelte";
  import ChevronDown from "@lucide/svelte/icons/chevron-down";
  import Trash from "@lucide/svelte/icons/trash-2";
  import type { ItemRow, Job } from "../api/client";
  import ItemPicker from "../locker/ItemPicker.svelte";
  import { freshId } from "../order/edits";
  import { known } from "../reference.svelte";
  import { assign } from "../session/path";
  import type { Session } from "../session/session.svelte";
  import Choice from "./Choice.svelte";
  import Hold from "./Hold.svelte";
  import Measure from "./Measure.svelte";
  import Name from "./Name.svelte";
  import PlaceField from "./PlaceField.svelte";

  let { session }: { session: Session } = $props();

  let k = $state(untrack(() => session.rigIndex));
  let rigs = $derived(session.job.rigs);
  let rig = $derived(rigs[Math.min(k, rigs.length - 1)]);
  let at = $derived(`rigs[${Math.min(k, rigs.length - 1)}]`);
  // The defaults a rig stands at are those of a rig nobody has filled in.
  const standard = known.get().rig_defaults;
  let ropes = $derived(known.get().ropes);

  let ropeNames = $derived.by(() => {
    const list: [string, string][] = ropes.map((r) => [r.name ?? "", r.name ?? ""]);
    const own = rig?.rope?.name ?? "";
    if (!rig?.rope) list.unshift(["", "choose"]);
    else if (!ropes.some((r) => r.name === own)) list.unshift([own, own || "unnamed rope"]);
    return list;
  });

  function chooseRope(name: string) {
    const rope = ropes.find((r) => r.name === name);
    if (rope) {
      const i = k;
      void session.change((job) => {
        const one = job.rigs[i];
        if (one) one.rope = structuredClone(rope);
      });
    }
  }

  function addRig() {
    const id = freshId(session.job, "r");
    const made = rigs.length;
    const copy = structuredClone($state.snapshot(rig)) as NonNullable<typeof rig>;
    void session
      .change((job) => job.rigs.push({ ...copy, id, name: `Rig ${made + 1}` }))
      .then((faults) => {
        if (!faults.length) k = made;
      });
  }

  function removeRig() {
    const i = k;
    void session.change((job) => job.rigs.splice(i, 1));
    k = Math.max(0, i - 1);
  }

  function addTurn() {
    void session.change((job) => {
      const top = session.assessment?.stem.at(-1)?.at_m ?? 4;
      job.rigs[k]?.redirects.push({
        name: `Redirect ${(job.rigs[k]?.redirects.length ?? 0) + 1}`,
        place: { on: "stem", at_m: Math.round(top * 3) / 10 },
        efficiency: standard.block_efficiency,
      });
    });
  }

  function turnKind(i: number, kind: string) {
    void session.change((job) => {
      const turn = job.rigs[k]?.redirects[i];
      if (!turn) return;
      if (kind === "pulley") {
        delete turn.friction;
        turn.efficiency = standard.block_efficiency;
      } else {
        delete turn.efficiency;
        turn.friction = standard.friction;
      }
    });
  }

  function setSecond(on: boolean) {
    void session.change((job) => {
      const one = job.rigs[k];
      if (!one) return;
      const anchor = job.site.anchors[0];
      if (on) {
        one.second = {
          place: anchor
            ? { on: "anchor", anchor: anchor.id, at_m: anchor.height_m ?? 0.5 }
            : { on: "stem", at_m: 2 },
        };
      } else delete one.second;
    });
  }

  function pick(path: string) {
    return (value: string) => void session.change((job) => assign(job, `${at}.${path}`, value));
  }

  /** Takes an item of the locker for a part of the rig, or none. */
  function take(path: string) {
    return (item: ItemRow | null) =>
      void session.take((job) => assign(job, `${at}.${path}.item`, item?.id));
  }

  function takeRope(item: ItemRow | null) {
    const i = k;
    void session.take((job: Job) => {
      const one = job.rigs[i];
      if (!one) return;
      // A rope of the locker may have no elongation table: then that of a typical one stays.
      one.rope ??= structuredClone(ropes[1] ?? ropes[0]);
      if (!one.rope) return;
      if (item) one.rope.item = item.id;
      else delete one.rope.item;
    });
  }

  function addRow() {
    void session.change((job) => {
      const rows = job.rigs[k]?.rope?.elongation;
      const last = rows?.at(-1);
      if (rows && last)
        rows.push({ load_pct: Math.min(100, last.load_pct + 10), strain_pct: last.strain_pct + 1 });
    });
  }

  function removeRow(i: number) {
    void session.change((job) => {
      job.rigs[k]?.rope?.elongation.splice(i, 1);
    });
  }
</script>

{#if rig}
  <div class="space-y-4">
    <div class="flex items-end gap-2">
      <div class="grow">
        <Choice
          label="Rig"
          value={rig.id}
          options={rigs.map((r): [string, string] => [r.id, r.name])}
          onchoose={(id) =>
            (k = Math.max(
              0,
              rigs.findIndex((r) => r.id === id),
            ))}
        />
      </div>
      <button class="btn touch btn-outline" onclick={addRig}>Add</button>
      <button
        class="btn touch btn-ghost px-2"
        aria-label={`Remove ${rig.name}`}
        disabled={rigs.length < 2}
        onclick={removeRig}><Trash size={18} /></button
      >
    </div>
    <Name {session} path={`${at}.name`} label="Called" value={rig.name} required />
    <ItemPicker
      {session}
      label="Rope"
      kinds={["rope"]}
      value={rig.rope?.item}
      onchoose={takeRope}
    />
    {#if !rig.rope?.item}
      <Choice
        label="Or a typical rope"
        value={rig.rope?.name ?? ""}
        options={ropeNames}
        onchoose={chooseRope}
      />
    {/if}
    {#if rig.rope && !rig.rope.item && ropes.some((r) => r.name === rig.rope?.name)}
      <p class="-mt-2 text-xs faint">{known.get().rope_source}</p>
    {/if}

    {#if rig.rope && !rig.rope.item}
      <div class="grid grid-cols-2 gap-2">
        <Measure
          {session}
          path={`${at}.rope.mbs_kn`}
          label="Breaking strength"
          quantity="force"
          value={rig.rope.mbs_kn}
          required
        />
        <Measure
          {session}
          path={`${at}.rope.marked_kn`}
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
          <Name {session} path={`${at}.rope.name`} label="Name" value={rig.rope.name} />
          {#each rig.rope.elongation as row, i (i)}
            <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
              <Measure
                {session}
                path={`${at}.rope.elongation[${i}].load_pct`}
                label="At % of strength"
                quantity="number"
                value={row.load_pct}
                required
              />
              <Measure
                {session}
                path={`${at}.rope.elongation[${i}].strain_pct`}
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
            path={`${at}.rope.dynamic_factor`}
            label="Stiffer in a shock, times"
            quantity="number"
            value={rig.rope.dynamic_factor ?? 1}
          />
        </div>
      </details>
    {/if}

    <div class="grid grid-cols-2 gap-2">
      <Measure
        {session}
        path={`${at}.tie.above_cut_m`}
        label="Tie above cut"
        quantity="height"
        value={rig.tie.above_cut_m ?? standard.tie_m}
      />
      <Measure
        {session}
        path={`${at}.slack_m`}
        label="Slack"
        quantity="height"
        value={rig.slack_m ?? standard.slack_m}
      />
    </div>

    <fieldset class="space-y-2">
      <legend class="text-sm font-bold">Block</legend>
      <ItemPicker
        {session}
        label="Block"
        kinds={["block", "pulley"]}
        value={rig.block.item}
        onchoose={take("block")}
      />
      {#if !rig.block.item}
        <Name {session} path={`${at}.block.name`} label="Name" value={rig.block.name} />
      {/if}
      <PlaceField
        {session}
        path={`${at}.block.place`}
        label="Sits"
        value={rig.block.place}
        none="with the cuts, down the stem"
      />
      <div class="grid grid-cols-2 gap-2">
        <Measure
          {session}
          path={`${at}.block.below_cut_m`}
          label="Below the cut"
          quantity="height"
          value={rig.block.below_cut_m ?? standard.block_below_cut_m}
        />
        {#if !rig.block.item}
          <Measure
            {session}
            path={`${at}.block.efficiency`}
            label="Efficiency"
            quantity="number"
            value={rig.block.efficiency ?? standard.block_efficiency}
          />
          <Measure
            {session}
            path={`${at}.block.marked_kn`}
            label="Marked limit"
            quantity="force"
            value={rig.block.marked_kn}
            hint="none"
          />
          <Measure
            {session}
            path={`${at}.block.breaking_kn`}
            label="Breaking strength"
            quantity="force"
            value={rig.block.breaking_kn}
            hint="none"
          />
          <Measure
            {session}
            path={`${at}.block.bend_m`}
            label="Sheave across"
            quantity="gauge"
            value={rig.block.bend_m}
            hint="not said"
          />
        {/if}
      </div>
    </fieldset>

    <fieldset class="space-y-2">
      <legend class="text-sm font-bold">Sling of the block</legend>
      <ItemPicker
        {session}
        label="Sling"
        kinds={["sling"]}
        value={rig.sling.item}
        onchoose={take("sling")}
      />
      {#if !rig.sling.item}
        <Name {session} path={`${at}.sling.name`} label="Name" value={rig.sling.name} />
      {/if}
      <div class="grid grid-cols-2 gap-2">
        <Choice
          label="Hitch"
          value={rig.sling.hitch ?? "choker"}
          options={[
            ["choker", "choker"],
            ["basket", "basket"],
            ["vertical", "straight"],
          ]}
          onchoose={pick("sling.hitch")}
        />
        {#if !rig.sling.item}
          <Measure
            {session}
            path={`${at}.sling.marked_kn`}
            label="Marked limit"
            quantity="force"
            value={rig.sling.marked_kn}
            hint="none"
          />
        {/if}
      </div>
      {#if rig.connector}
        <ItemPicker
          {session}
          label="Connector between block and sling"
          kinds={["connector"]}
          value={rig.connector.item}
          onchoose={take("connector")}
        />
        {#if !rig.connector.item}
          <div class="grid grid-cols-2 gap-2">
            <Name {session} path={`${at}.connector.name`} label="Name" value={rig.connector.name} />
            <Measure
              {session}
              path={`${at}.connector.marked_kn`}
              label="Marked limit"
              quantity="force"
              value={rig.connector.marked_kn}
              hint="none"
            />
          </div>
        {/if}
        <button
          class="btn touch w-full btn-outline"
          onclick={() => session.change((job) => delete job.rigs[k]?.connector)}
          >Take the connector out</button
        >
      {:else}
        <button
          class="btn touch w-full btn-outline"
          onclick={() =>
            session.change((job) => {
              const one = job.rigs[k];
              if (one) one.connector = {};
            })}>Add a connector to the block</button
        >
      {/if}
    </fieldset>

    <fieldset class="space-y-2">
      <legend class="text-sm font-bold">Turns between block and device</legend>
      {#each rig.redirects as turn, i (i)}
        <div class="space-y-2 border-t border-base-300 pt-2">
          <div class="grid grid-cols-[1fr_auto] items-end gap-2">
            <Name
              {session}
              path={`${at}.redirects[${i}].name`}
              label="Name"
              value={turn.name}
              required
            />
            <button
              class="btn touch btn-ghost px-2"
              aria-label={`Remove ${turn.name}`}
              onclick={() => session.change((job) => job.rigs[k]?.redirects.splice(i, 1))}
              ><Trash size={18} /></button
            >
          </div>
          {#if turn.friction === undefined}
            <ItemPicker
              {session}
              label={`Gear of ${turn.name}`}
              kinds={["pulley", "block"]}
              value={turn.item}
              onchoose={take(`redirects[${i}]`)}
            />
          {/if}
          <PlaceField
            {session}
            path={`${at}.redirects[${i}].place`}
            label="Sits"
            value={turn.place}
          />
          <div class="grid grid-cols-3 gap-2">
            <Choice
              label="Is a"
              value={turn.friction === undefined ? "pulley" : "fork"}
              options={[
                ["pulley", "pulley"],
                ["fork", "fork, ring"],
              ]}
              onchoose={(kind) => turnKind(i, kind)}
            />
            {#if turn.friction === undefined}
              <Measure
                {session}
                path={`${at}.redirects[${i}].efficiency`}
                label="Efficiency"
                quantity="number"
                value={turn.efficiency}
                required
              />
            {:else}
              <Measure
                {session}
                path={`${at}.redirects[${i}].friction`}
                label="Friction"
                quantity="number"
                value={turn.friction}
                required
              />
            {/if}
            <Measure
              {session}
              path={`${at}.redirects[${i}].marked_kn`}
              label="Marked"
              quantity="force"
              value={turn.marked_kn}
              hint="none"
            />
          </div>
        </div>
      {/each}
      <button class="btn touch w-full btn-outline" onclick={addTurn}>Add a turn</button>
    </fieldset>

    <fieldset class="space-y-2">
      <legend class="text-sm font-bold">Lowering device</legend>
      <ItemPicker
        {session}
        label="Device"
        kinds={["device"]}
        value={rig.device.item}
        onchoose={take("device")}
      />
      {#if !rig.device.item}
        <Name {session} path={`${at}.device.name`} label="Name" value={rig.device.name} />
      {/if}
      <PlaceField
        {session}
        path={`${at}.device.place`}
        label="Sits"
        value={rig.device.place}
        none="on this stem"
      />
      <div class="grid grid-cols-2 gap-2">
        <Measure
          {session}
          path={`${at}.device.at_m`}
          label="Height on stem"
          quantity="height"
          value={rig.device.at_m ?? standard.device_at_m}
        />
        {#if !rig.device.item}
          <Measure
            {session}
            path={`${at}.device.friction`}
            label="Friction"
            quantity="number"
            value={rig.device.friction ?? standard.friction}
          />
          <Measure
            {session}
            path={`${at}.device.marked_kn`}
            label="Marked limit"
            quantity="force"
            value={rig.device.marked_kn}
            hint="none"
          />
          <Measure
            {session}
            path={`${at}.device.breaking_kn`}
            label="Breaking strength"
            quantity="force"
            value={rig.device.breaking_kn}
            hint="none"
          />
        {/if}
      </div>
    </fieldset>

    <div class="grid grid-cols-2 gap-2">
      <Measure
        {session}
        path={`${at}.anchor_stiffness_kn_m`}
        label="Anchor gives, kN/m"
        quantity="number"
        value={rig.anchor_stiffness_kn_m}
        hint="rigid"
      />
      <Measure
        {session}
        path={`${at}.energy_lost_pct`}
        label="Energy lost, %"
        quantity="number"
        value={rig.energy_lost_pct ?? standard.energy_lost_pct}
      />
    </div>

    {#if !rig.rope?.item}
      <Measure
        {session}
        path={`${at}.rope_length_m`}
        label="Length of the rope"
        quantity="height"
        value={rig.rope_length_m}
        hint="not said"
      />
    {/if}
    <ItemPicker
      {session}
      label="Sling on the piece, when there is one"
      kinds={["sling"]}
      value={rig.tie.item}
      onchoose={take("tie")}
    />
    <Choice
      label="Knot on the piece"
      value={rig.tie.knot ?? "running-bowline"}
      options={known.get().knots.map((knot): [string, string] => [knot, knot.replace("-", " ")])}
      onchoose={pick("tie.knot")}
    />
    <Choice
      label="Behind the device"
      value={rig.hands.by ?? "hand"}
      options={[
        ["hand", "a hand"],
        ["winch", "a winch"],
      ]}
      onchoose={pick("hands.by")}
    />
    {#if rig.hands.by === "winch"}
      <ItemPicker
        {session}
        label="Winch"
        kinds={["winch"]}
        value={rig.hands.item}
        onchoose={take("hands")}
      />
      {#if !rig.hands.item}
        <Measure
          {session}
          path={`${at}.hands.marked_kn`}
          label="Winch holds"
          quantity="force"
          value={rig.hands.marked_kn}
          hint="not said"
        />
      {/if}
    {/if}
    <Hold {session} {rig} {at} />
    <fieldset class="space-y-2">
      <legend class="text-sm font-bold">Second line, to carry a piece between two points</legend>
      {#if rig.second}
        <ItemPicker
          {session}
          label="Its block"
          kinds={["block", "pulley"]}
          value={rig.second.item}
          onchoose={take("second")}
        />
        {#if !rig.second.item}
          <Name {session} path={`${at}.second.name`} label="Name" value={rig.second.name} />
        {/if}
        <PlaceField {session} path={`${at}.second.place`} label="Sits" value={rig.second.place} />
        {#if !rig.second.item}
          <Measure
            {session}
            path={`${at}.second.marked_kn`}
            label="Marked limit"
            quantity="force"
            value={rig.second.marked_kn}
            hint="none"
          />
        {/if}
        <button class="btn touch w-full btn-outline" onclick={() => setSecond(false)}
          >Take the second line off</button
        >
      {:else}
        <button class="btn touch w-full btn-outline" onclick={() => setSecond(true)}
          >Add a second line</button
        >
      {/if}
    </fieldset>
  </div>
{/if}
