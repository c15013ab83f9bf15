<script lang="ts">
  // The lines of a felling, from the tree over their turns to their ends, with what each leg carries.
  import type { Detail } from "../api/client";
  import { figure } from "../reference.svelte";
  import { path, put, type View } from "./view";

  let { detail, view, width }: { detail: Detail; view: View; width: number } = $props();

  let lines = $derived(
    detail.pulls.map((one) => {
      const points = one.points.map((p) => put(view, p));
      const legs = points.slice(1).map((b, i) => {
        const a = points[i] ?? b;
        // An end beyond the edge: the line runs out of the drawing, its figure stays in it.
        const share = 0.45;
        return {
          long: Math.hypot(b.x - a.x, b.y - a.y),
          x: Math.max(4, Math.min(width - 60, a.x + (b.x - a.x) * share)),
          y: a.y + (b.y - a.y) * share,
          kn: one.leg_kn[i] ?? 0,
        };
      });
      // Two legs seen one behind the other: one figure.
      return { ...one, points, legs: legs.filter((leg, i) => i === 0 || leg.long > 40) };
    }),
  );
</script>

{#each lines as one, i (one.id)}
  <path
    d={path(one.points, false)}
    class="fill-none stroke-info"
    stroke-width="2"
    stroke-dasharray={one.holds ? "7 4" : undefined}
  />
  {#each one.points as p, k (k)}
    {#if k === 0}
      <circle cx={p.x} cy={p.y} r="4" class="fill-info" />
    {:else if k < one.points.length - 1}
      <circle cx={p.x} cy={p.y} r="5" class="fill-base-100 stroke-info" stroke-width="2" />
    {:else}
      <rect
        x={p.x - 5}
        y={p.y - 5}
        width="10"
        height="10"
        class="fill-base-100 stroke-base-content"
        stroke-width="2"
      />
    {/if}
  {/each}
  {#each one.legs as leg, k (k)}
    <text
      x={leg.x + 6}
      y={leg.y - 6 - (k === 0 ? 14 * (i % 2) : 0)}
      class="fill-info halo text-[12px] font-bold">{figure("force", leg.kn)}</text
    >
  {/each}
{/each}
