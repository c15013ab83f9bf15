<script lang="ts">
  // The lines of a felling, from the tree to their anchors, with what they carry.
  import type { Detail } from "../api/client";
  import { figure } from "../reference.svelte";
  import { put, type View } from "./view";

  let { detail, view, width }: { detail: Detail; view: View; width: number } = $props();

  let lines = $derived(
    detail.pulls.map((one) => {
      const [from, to] = [put(view, one.from), put(view, one.to)];
      // An anchor beyond the edge: the line runs out of the drawing, its figure stays in it.
      const share = 0.45;
      const [x, y] = [from.x + (to.x - from.x) * share, from.y + (to.y - from.y) * share];
      return { ...one, a: from, b: to, x: Math.max(4, Math.min(width - 60, x)), y };
    }),
  );
</script>

{#each lines as one, i (i)}
  <path
    d={`M${one.a.x} ${one.a.y}L${one.b.x} ${one.b.y}`}
    class="fill-none stroke-info"
    stroke-width="2"
    stroke-dasharray={one.holds ? "7 4" : undefined}
  />
  <circle cx={one.a.x} cy={one.a.y} r="4" class="fill-info" />
  <rect
    x={one.b.x - 5}
    y={one.b.y - 5}
    width="10"
    height="10"
    class="fill-base-100 stroke-base-content"
    stroke-width="2"
  />
  <text x={one.x + 6} y={one.y - 6} class="fill-info halo text-[12px] font-bold"
    >{figure("force", one.peak_kn)}</text
  >
{/each}
