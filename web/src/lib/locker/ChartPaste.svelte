<script lang="ts">
  import { api, explain, type Item } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import { faultsOf, say } from "../fields/say";
  import { figure, unitOf } from "../reference.svelte";

  type Chart = NonNullable<Item["chart"]>;

  interface Props {
    chart: Chart;
    fault?: string;
    onchange: (chart: Chart) => void;
  }

  let { chart, fault = "", onchange }: Props = $props();

  const id = $props.id();
  let text = $state("");
  let lengths = $state<"m" | "ft">("m");
  let capacity = $state<"kg" | "t" | "lb">("t");
  let wrong = $state<string[]>([]);
  let booms = $derived([...new Set(chart.map((row) => row.boom_m))].toSorted((a, b) => a - b));
  let radii = $derived([...new Set(chart.map((row) => row.radius_m))].toSorted((a, b) => a - b));
  const at = (radius: number, boom: number) =>
    chart.find((row) => row.radius_m === radius && row.boom_m === boom)?.capacity_kg;

  async function read() {
    wrong = [];
    try {
      const { data, error } = await api.POST("/api/read-chart", {
        body: { text, lengths, capacity },
      });
      if (data) {
        text = "";
        onchange(data.rows);
      } else {
        wrong = faultsOf(error).map(say);
        if (!wrong.length) wrong = [explain(error)];
      }
    } catch {
      wrong = [explain(null)];
    }
  }
</script>

<fieldset class="space-y-2">
  <legend class="text-lg font-bold">Load chart</legend>
  {#if chart.length}
    <div class="relative max-h-80 overflow-auto border border-base-300">
      <table class="w-full text-right text-sm" aria-label="Load chart">
        <thead class="sticky top-0 bg-base-200">
          <tr>
            <th class="px-2 py-1 text-left font-medium"
              >{unitOf("height").label} out \ boom · {unitOf("mass").label}</th
            >
            {#each booms as boom (boom)}<th class="px-2 py-1">{figure("height", boom)}</th>{/each}
          </tr>
        </thead>
        <tbody>
          {#each radii as radius (radius)}
            <tr class="border-t border-base-300">
              <th class="px-2 py-1 text-left">{figure("height", radius)}</th>
              {#each booms as boom (boom)}
                {@const kg = at(radius, boom)}
                <td class="px-2 py-1">{kg === undefined ? "–" : figure("mass", kg)}</td>
              {/each}
            </tr>
          {/each}
        </tbody>
      </table>
    </div>
    <button type="button" class="btn touch btn-outline" onclick={() => onchange([])}
      >Clear the chart</button
    >
  {/if}
  <label for={id} class="block text-sm font-medium">Paste it from a spreadsheet</label>
  <textarea
    {id}
    class="textarea w-full px-2 font-mono text-sm"
    rows="5"
    placeholder="booms along the top, radii down the side; or radius, boom, capacity"
    bind:value={text}></textarea>
  <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
    <Choice
      label="Lengths in"
      value={lengths}
      options={[
        ["m", "m"],
        ["ft", "ft"],
      ]}
      onchoose={(v) => (lengths = v as typeof lengths)}
    />
    <Choice
      label="Capacities in"
      value={capacity}
      options={[
        ["t", "t"],
        ["kg", "kg"],
        ["lb", "lb"],
      ]}
      onchoose={(v) => (capacity = v as typeof capacity)}
    />
    <button type="button" class="btn touch btn-outline" disabled={!text.trim()} onclick={read}
      >Read it</button
    >
  </div>
  {#if wrong.length || fault}
    <div role="alert" class="border-l-4 border-error pl-3 text-sm text-error">
      {#if fault}<p>{fault}</p>{/if}
      {#each wrong.slice(0, 6) as line, at (at)}<p>{line}</p>{/each}
      {#if wrong.length > 6}<p>and {wrong.length - 6} more</p>{/if}
    </div>
  {/if}
</fieldset>
