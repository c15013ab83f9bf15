<script lang="ts">
  import type { ScaleLinear } from "d3-scale";
  import { figure, unitOf } from "../reference.svelte";

  // The grid of a force, or a mass, against something: that up, what it runs along below.
  let {
    x,
    y,
    width,
    height,
    pad,
    forces,
    unit = "",
    of = "force",
  }: {
    x: ScaleLinear<number, number>;
    y: ScaleLinear<number, number>;
    width: number;
    height: number;
    pad: { left: number; right: number };
    forces: number;
    unit?: string;
    /** What goes up: its figures are SI. */
    of?: "force" | "mass";
  } = $props();

  // Round in the reader's own unit.
  let ticks = $derived.by(() => {
    const { factor } = unitOf(of);
    const own = y.copy().domain(y.domain().map((si) => si / factor));
    return own.ticks(forces).map((mark) => mark * factor);
  });
</script>

{#each ticks as tick (tick)}
  <path
    d={`M${pad.left} ${y(tick)}H${width - pad.right}`}
    class="stroke-base-300"
    stroke-width="0.7"
  />
  <text x={pad.left - 4} y={y(tick) + 4} text-anchor="end" class="fill-[var(--faint)]"
    >{figure(of, tick).replace(/\.0+$/, "")}</text
  >
{/each}
{#each x.ticks(6) as tick (tick)}
  <text x={x(tick)} y={height - 3} text-anchor="middle" class="fill-[var(--faint)]"
    >{tick}{unit}</text
  >
{/each}
