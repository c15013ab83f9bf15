<script lang="ts">
  import Icon from "../../Icon.svelte";
  import ChevronDown from "lucide-static/icons/chevron-down.svg?raw";
  import ItemPicker from "../../locker/ItemPicker.svelte";
  import Choice from "../Choice.svelte";
  import Measure from "../Measure.svelte";
  import Name from "../Name.svelte";
  import { known } from "../../reference.svelte";
  import type { ItemRow } from "../../api/client";
  import { RigEdits, type PartProps } from "./parts";

  let { session, rig, at }: PartProps = $props();

  const edits = new RigEdits(() => ({ session, rig, at }));
  let ropes = $derived(known.get().ropes);

  let ropeNames = $derived.by(() => {
    const list: [string, string][] = ropes.map((r) => [r.name ?? "", r.name ?? ""]);
    const own = rig.rope?.name ?? "";
    if (!rig.rope) list.unshift(["", "choose"]);
    else if (!ropes.some((r) => r.name === own)) list.unshift([own, own || "unnamed rope"]);
    return list;
  });

  function chooseRope(name: string) {
    const rope = ropes.find((r) => r.name === name);
    if (rope) edits.change((one) => (one.rope = structuredClone(rope)));
  }

  function takeRope(item: ItemRow | null) {
    const id = rig.id;
    void session.take((job) => {
      const one = job.rigs.find((r) => r.id === id);
      if (!one) return;
      // What the item says, and what stands in for what it does not say, is the core's to fill in.
      one.rope ??= structuredClone(ropes[0]);
      if (!one.rope) return;
      if (item) one.rope.item = item.id;
      else delete one.rope.item;
    });
  }

  function addRow() {
    edits.change((one) => {
      const rows = one.rope?.elongation;
      const last = rows?.at(-1);
      if (rows && last)
        rows.push({ load_pct: Math.min(100, last.load_pct + 10), strain_pct: last.strain_pct + 1 });
    });
  }

  function removeRow(i: number) {
    edits.change((one) => one.rope?.elongation.splice(i, 1));
  }
</script>

<ItemPicker {session} label="Rope" kinds={["rope"]} value={rig.rope?.item} onchoose={takeRope} />
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
      <Icon of={ChevronDown} size={16} class="ml-auto" />
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
      <button type="button" class="btn touch w-full btn-outline" onclick={addRow}>Add a row</button>
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
