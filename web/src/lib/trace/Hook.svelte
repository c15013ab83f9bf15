<script lang="ts">
  // Under the hook: the chart against the radius, and where this piece stands on it.
  import { scaleLinear } from "d3-scale";
  import type { Detail } from "../api/client";
  import { print, unitOf } from "../reference.svelte";
  import Axes from "./Axes.svelte";
  import { sized } from "../draw/sized";

  type Lift = NonNullable<Detail["lift"]>;
  let { lift }: { lift: Lift } = $props();

  let width = $state(0);
  const height = 124;
  const pad = { left: 52, right: 92, top: 8, bottom: 16 };

  let unit = $derived(unitOf("height"));
  let places = $derived(
    [
      { name: "cut", m: lift.cut_radius_m },
      { name: "down", m: lift.down_radius_m },
    ].filter((p): p is { name: string; m: number } => p.m !== null),
  );
  let far = $derived(
    Math.max(1, lift.chart.at(-1)?.radius_m ?? 0, ...places.map((p) => p.m)) * 1.05,
  );
  // The near end of a chart dwarfs the rest: what is lifted stays readable.
  let most = $derived(
    Math.min(
      Math.max(1, ...lift.chart.map((row) => row.capacity_kg)),
      6 * Math.max(lift.hook_kg.high, lift.capacity_kg ?? 0),
    ) * 1.08,
  );
  let x = $derived(
    scaleLinear([0, far / unit.factor], [pad.left, Math.max(pad.left + 10, width - pad.right)]),
  );
  let y = $derived(scaleLinear([0, most], [height - pad.bottom, pad.top]).clamp(true));
  let steps = $derived((share: number) =>
    lift.chart
      .map((row, i) => {
        const kg = (row.capacity_kg * share) / 100;
        const out = x(row.radius_m / unit.factor);
        // Nearer than its first row nothing is on it.
        return i ? `V${y(kg)}H${out}` : `M${out} ${y(kg)}`;
      })
      .join(""),
  );
  // Where both stand near each other the second word goes above the first.
  let stacked = $derived(
    places.length > 1 &&
      Math.abs(x((places[0]?.m ?? 0) / unit.factor) - x((places[1]?.m ?? 0) / unit.factor)) < 84,
  );
  let over = $derived(places.some((p) => p.m > lift.farthest_m));
</script>

<p class="px-4 pt-2 text-base leading-snug font-semibold" data-testid="hook">
  {print("mass", lift.hook_kg.high)} on the hook at {print("height", lift.radius_m)}:
  {#if lift.allowed_kg === null}
    the chart has nothing there
  {:else}
    {lift.share_pct} % of the chart is {print("mass", lift.allowed_kg)}
  {/if}
  <span class="font-normal">
    · {lift.farthest_m > 0
      ? `by the chart to ${print("height", lift.farthest_m)}`
      : "nowhere on this boom"}
  </span>
</p>
<div class="w-full" {@attach sized((w) => (width = w))}>
  <svg
    {width}
    {height}
    class="block text-[11px] select-none"
    role="img"
    aria-label="What the chart has against the radius, and this piece"
  >
    {#if width > 120}
      <Axes {x} {y} {width} {height} {pad} forces={4} of="mass" />
      <text x={width - pad.right + 4} y={height - 3} class="fill-[var(--faint)]"
        >{unit.label} out</text
      >
      <path
        d={steps(100)}
        class="fill-none stroke-base-content"
        stroke-width="1"
        stroke-dasharray="3 3"
      />
      <path d={steps(lift.share_pct)} class="fill-none stroke-info" stroke-width="2.2" />
      <path
        d={`M${pad.left} ${y(lift.hook_kg.high)}H${width - pad.right}`}
        class="stroke-primary"
        stroke-width="1"
        stroke-dasharray="5 4"
      />
      <text x={width - pad.right + 4} y={y(lift.hook_kg.high) + 4} class="fill-primary font-bold"
        >{print("mass", lift.hook_kg.high)}</text
      >
      {#each places as place, i (i)}
        <circle
          cx={x(place.m / unit.factor)}
          cy={y(lift.hook_kg.high)}
          r="5.5"
          class={over && place.m > lift.farthest_m ? "fill-error" : "fill-primary"}
        />
        <text
          x={x(place.m / unit.factor)}
          y={y(lift.hook_kg.high) - (i && stacked ? 22 : 9)}
          text-anchor="middle"
          class="fill-base-content halo font-semibold">{place.name} {print("height", place.m)}</text
        >
      {/each}
    {/if}
  </svg>
</div>
