<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Item } from "../api/client";
  import Figure from "../fields/Figure.svelte";

  type Rows = NonNullable<Item["elongation"]>;

  /** How far a rope stretches at shares of its strength. */
  let {
    rows,
    fault,
    onchange,
  }: { rows: Rows; fault: string; onchange: (rows: Rows | undefined) => void } = $props();

  const put = (i: number, field: keyof Rows[number], value: number | undefined) => {
    if (value !== undefined)
      onchange(rows.map((row, k) => (k === i ? { ...row, [field]: value } : row)));
  };

  function add() {
    const last = rows.at(-1);
    onchange([
      ...rows,
      { load_pct: (last?.load_pct ?? 0) + 10, strain_pct: (last?.strain_pct ?? 0) + 1 },
    ]);
  }
</script>

<fieldset class="space-y-2">
  <legend class="text-sm font-medium">Elongation table, per cent</legend>
  {#each rows as row, i (i)}
    <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
      <Figure
        label="At % of strength"
        quantity="number"
        value={row.load_pct}
        onchange={(v) => put(i, "load_pct", v)}
      />
      <Figure
        label="Longer by %"
        quantity="number"
        value={row.strain_pct}
        onchange={(v) => put(i, "strain_pct", v)}
      />
      <button
        type="button"
        class="btn touch btn-ghost px-2"
        aria-label={`Remove elongation row ${i + 1}`}
        onclick={() => onchange(rows.toSpliced(i, 1))}><Icon of={Trash} size={18} /></button
      >
    </div>
  {/each}
  {#if fault}<p role="alert" class="text-sm text-error">{fault}</p>{/if}
  <button type="button" class="btn touch w-full btn-outline" onclick={add}>Add a row</button>
  {#if !rows.length}
    <p class="text-xs faint">
      Without a table a rig takes the stretch of a typical polyester rope of its size. High-modulus
      fibre stretches less and catches harder: give its table.
    </p>
  {/if}
</fieldset>
