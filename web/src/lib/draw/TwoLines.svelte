<script lang="ts">
  // A piece held at both ends: its two lines, its ghosts at the end of every step, and where it is
  // at the moment of the film.
  import type { Detail, Trace } from "../api/client";
  import { figure, print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import { path, put, type View } from "./view";

  interface Props {
    session: Session;
    detail: Detail;
    trace: Trace | null;
    at: number;
    view: View;
  }

  let { session, detail, trace, at, view }: Props = $props();

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

  // Where a line is tied is dragged along the piece.
  type End = "butt" | "tip";
  let moving: End | "" = "";
  let from = { x: 0, y: 0, at: 0 };
  let long = $derived(detail.piece?.length_m ?? 1);
  const tieOf = (end: string) => ends?.lines.find((l) => l.end === end)?.tie_m ?? 0;

  function tie(end: End, to: number) {
    const pick = session.pick?.id;
    const other = tieOf(end === "butt" ? "tip" : "butt");
    const [least, most] = end === "butt" ? [0.1, other - 0.1] : [other + 0.1, long - 0.1];
    const next = Math.round(Math.max(least, Math.min(most, to)) * 20) / 20;
    session.drag((job) => {
      const one = job.picks.find((p) => p.id === pick);
      if (one) (one.ends ??= { butt: {}, tip: {} })[end].tie_m = next;
    });
  }
  function grab(event: PointerEvent, end: End) {
    if (event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    session.hold();
    moving = end;
    from = { x: event.clientX, y: event.clientY, at: tieOf(end) };
  }
  function drag(event: PointerEvent) {
    if (!moving || !shown) return;
    const a = put(view, shown.butt);
    const b = put(view, shown.tip);
    const seen = Math.max(20, Math.hypot(b.x - a.x, b.y - a.y));
    const along =
      ((event.clientX - from.x) * (b.x - a.x) + (event.clientY - from.y) * (b.y - a.y)) / seen;
    tie(moving, from.at + (along / seen) * long);
  }
  function letGo() {
    moving = "";
    session.release();
  }
  function nudge(event: KeyboardEvent, end: End) {
    const step = event.shiftKey ? 0.05 : 0.25;
    const by = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    tie(end, tieOf(end) + by);
  }
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
  {#each lines as line (line.end)}
    {#if line.tied}
      <g
        role="slider"
        tabindex="0"
        aria-label={`Tie of the line at the ${line.end}`}
        aria-valuemin={0}
        aria-valuemax={long}
        aria-valuenow={line.tie_m}
        aria-valuetext={`${print("height", line.tie_m)} from the cut`}
        class="group pointer-events-auto cursor-grab touch-none outline-none"
        onpointerdown={(e) => grab(e, line.end as End)}
        onpointermove={drag}
        onpointerup={letGo}
        onpointercancel={letGo}
        onkeydown={(e) => nudge(e, line.end as End)}
        onkeyup={() => session.release()}
        onblur={() => session.release()}
      >
        <circle cx={line.tied.x} cy={line.tied.y} r="20" fill="transparent" />
        <circle
          cx={line.tied.x}
          cy={line.tied.y}
          r="5"
          class="fill-info stroke-base-content stroke-0 group-focus-visible:stroke-[3px]"
        />
      </g>
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
