<script lang="ts">
  // A piece held at both ends: its two lines, its ghosts at the end of every step, and where it is
  // at the moment of the film.
  import type { Detail, Trace } from "../api/client";
  import { figure } from "../reference.svelte";
  import { path, put, type View } from "./view";

  interface Props {
    detail: Detail;
    trace: Trace | null;
    at: number;
    view: View;
  }

  let { detail, trace, at, view }: Props = $props();

  let ends = $derived(detail.ends);
  let wide = $derived(Math.max(4, (detail.piece?.diameter_at_cut_m ?? 0.1) * view.perMetre * 0.8));
  let ghosts = $derived(
    (ends?.ghosts ?? []).map((g) => ({ ...g, a: put(view, g.butt), b: put(view, g.tip) })),
  );
  let first = $derived(ends?.ghosts[0]);
  let now = $derived.by(() => {
    const course = trace?.course;
    if (!course?.length) return null;
    if (at <= 0) return null;
    return course.find((f) => f.at_s >= at) ?? course.at(-1) ?? null;
  });
  let shown = $derived(now ?? first);
  let lines = $derived(
    (ends?.lines ?? []).map((line, i) => {
      const tied = shown ? put(view, i === 0 ? shown.butt_at : shown.tip_at) : null;
      const points = line.points.map((p) => put(view, p));
      const block = points[0];
      return {
        ...line,
        tied,
        block,
        rest: points,
        kn: now ? (i === 0 ? now.butt_kn : now.tip_kn) : line.peak_kn,
      };
    }),
  );
</script>

<g class="pointer-events-none" data-testid="two-lines">
  {#each ghosts as g, i (i)}
    <path
      d={path([g.a, g.b], false)}
      class="stroke-primary"
      stroke-width={wide}
      opacity={0.1 + (0.14 * i) / Math.max(1, ghosts.length - 1)}
    />
    <circle cx={g.a.x} cy={g.a.y} r={wide / 2} class="fill-none stroke-primary" opacity="0.4" />
    {#if i > 0 && i < ghosts.length - 1}
      <text x={g.b.x + 6} y={g.b.y + 4} class="fill-primary halo text-[11px] font-bold">{i}</text>
    {/if}
  {/each}
  {#each lines as line (line.end)}
    {#if line.tied && line.block}
      <path
        d={path([line.tied, ...line.rest], false)}
        class="fill-none stroke-info"
        stroke-width={line.kn > 0.01 ? 2 : 1}
        stroke-dasharray={line.kn > 0.01 ? (line.end === "tip" ? "8 3" : undefined) : "2 5"}
      />
      <circle
        cx={line.block.x}
        cy={line.block.y}
        r="6"
        class="fill-base-100 stroke-base-content"
        stroke-width="2.2"
      />
      <text
        x={line.block.x + 10}
        y={line.block.y + (line.end === "tip" ? -6 : 12)}
        class="fill-info halo text-[12px] font-bold">{line.end} {figure("force", line.kn)}</text
      >
    {/if}
  {/each}
  {#if now}
    {@const a = put(view, now.butt)}
    {@const b = put(view, now.tip)}
    <g data-testid="film">
      <path d={path([a, b], false)} class="stroke-primary" stroke-width={wide} opacity="0.8" />
      <circle cx={a.x} cy={a.y} r={wide / 2} class="fill-primary" />
    </g>
  {/if}
</g>
