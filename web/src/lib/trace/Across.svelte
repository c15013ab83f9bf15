<script lang="ts">
  // Between two points: what both lines carry on the way across.
  import { scaleLinear } from "d3-scale";
  import type { Detail } from "../api/client";
  import { path } from "../draw/view";
  import { print, unitOf } from "../reference.svelte";
  import Axes from "./Axes.svelte";
  import { sized } from "../draw/sized";

  type CarriedAt = NonNullable<Detail["carried"]>[number];
  let { carried }: { carried: CarriedAt[] } = $props();

  let width = $state(0);
  const height = 124;
  const pad = { left: 34, right: 112, top: 8, bottom: 16 };

  let unit = $derived(unitOf("height"));
  let lines = $derived(
    (["first_kn", "second_kn"] as const).map((of) => ({
      of,
      name: of === "first_kn" ? "first" : "second",
      most: carried.reduce((a, b) => (b[of] > a[of] ? b : a)),
    })),
  );
  let out = $derived(Math.max(0.1, ...carried.map((c) => c.out_m)));
  let most = $derived(Math.max(0.1, ...carried.flatMap((c) => [c.first_kn, c.second_kn])) * 1.1);
  let x = $derived(
    scaleLinear([0, out / unit.factor], [pad.left, Math.max(pad.left + 10, width - pad.right)]),
  );
  let y = $derived(scaleLinear([0, most], [height - pad.bottom, pad.top]));
  const curve = (of: "first_kn" | "second_kn") =>
    path(
      carried.map((c) => ({ x: x(c.out_m / unit.factor), y: y(c[of]) })),
      false,
    );
</script>

<p class="px-4 pt-2 text-base leading-snug font-semibold" data-testid="across">
  {#each lines as one, i (one.of)}
    {i ? " · " : ""}{one.name} line up to {print("force", one.most[one.of])}, {print(
      "height",
      one.most.out_m,
    )} across
  {/each}
</p>
<div class="w-full" {@attach sized((w) => (width = w))}>
  <svg
    {width}
    {height}
    class="block text-[11px] select-none"
    role="img"
    aria-label="Tension of both lines on the way from the first point to the second"
  >
    {#if width > 120}
      <Axes {x} {y} {width} {height} {pad} forces={4} />
      <text x={width - pad.right + 4} y={height - 3} class="fill-[var(--faint)]"
        >{unit.label} across</text
      >
      <path d={curve("first_kn")} class="fill-none stroke-info" stroke-width="2.2" />
      <path
        d={curve("second_kn")}
        class="fill-none stroke-base-content"
        stroke-width="2"
        stroke-dasharray="7 3"
      />
      <text x={width - pad.right + 4} y={pad.top + 10} class="fill-info font-bold">first line</text>
      <text x={width - pad.right + 4} y={pad.top + 24} class="fill-base-content font-bold"
        >second line</text
      >
    {/if}
  </svg>
</div>
