<script lang="ts">
  // The lines of a felling, from the tree over their turns to their ends, with what each leg carries.
  import type { Detail } from "../api/client";
  import { figure, print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import { path, put, type View } from "./view";

  interface Props {
    session: Session;
    detail: Detail;
    view: View;
    width: number;
  }

  let { session, detail, view, width }: Props = $props();

  // Where a line is tied is dragged along the stem.
  let moving = "";
  let from = { y: 0, at: 0 };
  const lineOf = (id: string) => session.pick?.fell?.lines?.find((one) => one.id === id);

  function tie(id: string, at: number) {
    const pick = session.pick?.id;
    const least = (session.figures?.from_m ?? 0) + 0.5;
    const most = (session.figures?.to_m ?? 100) - 0.1;
    const next = Math.round(Math.max(least, Math.min(most, at)) * 10) / 10;
    session.drag((job) => {
      const line = job.picks.find((p) => p.id === pick)?.fell?.lines?.find((one) => one.id === id);
      if (line) line.at_m = next;
    });
  }
  function grab(event: PointerEvent, id: string) {
    if (event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    session.hold();
    moving = id;
    from = { y: event.clientY, at: lineOf(id)?.at_m ?? 0 };
  }
  function letGo() {
    moving = "";
    session.release();
  }
  function nudge(event: KeyboardEvent, id: string) {
    const step = event.shiftKey ? 0.1 : 0.5;
    const by = { ArrowUp: step, ArrowRight: step, ArrowDown: -step, ArrowLeft: -step }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    tie(id, (lineOf(id)?.at_m ?? 0) + by);
  }

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

{#each detail.fell?.beds ?? [] as bed, i (i)}
  {@const p = put(view, bed.at)}
  <circle
    cx={p.x}
    cy={p.y}
    r={Math.max(3, (bed.thick_m / 2) * view.perMetre)}
    class="fill-[var(--wood)] stroke-base-content"
  />
{/each}
{#each detail.fell?.straps ?? [] as strap, i (i)}
  {@const p = put(view, strap)}
  <rect x={p.x - 9} y={p.y - 2.5} width="18" height="5" class="fill-info stroke-base-100" />
{/each}
{#each lines as one, i (one.id)}
  <path
    d={path(one.points, false)}
    class="fill-none stroke-info"
    stroke-width="2"
    stroke-dasharray={one.holds ? "7 4" : undefined}
  />
  {#each one.points as p, k (k)}
    {#if k === 0}
      <g
        role="slider"
        tabindex="0"
        aria-label={`Height of the line to ${one.name}`}
        aria-valuenow={lineOf(one.id)?.at_m ?? 0}
        aria-valuetext={print("height", lineOf(one.id)?.at_m ?? 0)}
        class="group cursor-ns-resize touch-none outline-none"
        onpointerdown={(e) => grab(e, one.id)}
        onpointermove={(e) =>
          moving === one.id && tie(one.id, from.at + (from.y - e.clientY) / view.perMetre)}
        onpointerup={letGo}
        onpointercancel={letGo}
        onkeydown={(e) => nudge(e, one.id)}
        onkeyup={() => session.release()}
        onblur={() => session.release()}
      >
        <circle cx={p.x} cy={p.y} r="20" fill="transparent" />
        <circle
          cx={p.x}
          cy={p.y}
          r="5"
          class="fill-info stroke-base-content stroke-0 group-focus-visible:stroke-[3px]"
        />
      </g>
    {:else if k === 1 && lineOf(one.id)?.mid?.kind === "weight"}
      <rect x={p.x - 7} y={p.y} width="14" height="16" class="fill-base-content" />
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
