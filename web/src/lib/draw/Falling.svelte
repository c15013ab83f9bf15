<script lang="ts">
  // The fall of a tree seen square to it: its stations in lighter ink, and where it is at the
  // moment of the film, with its lines.
  import type { Detail, Shape, Station, Trace } from "../api/client";
  import { limbPath, path, put, stemPath, type View } from "./view";

  interface Props {
    detail: Detail;
    trace: Trace | null;
    /** Moment of the film, s. */
    at: number;
    view: View;
    shape: Shape;
    stem: Station[];
    from: number;
    to: number;
    /** Limbs that go with it, by their place in the survey, and how much of each stands. */
    limbs: { index: number; share: number }[];
  }

  let { detail, trace, at, view, shape, stem, from, to, limbs }: Props = $props();

  const id = $props.id();
  let fell = $derived(detail.fell);
  let cut = $derived(detail.piece?.cut ?? { x: 0, y: 0, z: 0 });
  let hinge = $derived.by(() => {
    const p = put(view, cut);
    return { x: p.x + (fell?.hinge.ahead_of_centre_m ?? 0) * view.perMetre, y: p.y };
  });
  let body = $derived(stemPath(view, shape, stem, from, to));
  let branches = $derived(
    limbs.flatMap(({ index, share }) => {
      const limb = shape.limbs[index];
      return limb ? [limbPath(view, limb, 0, share)] : [];
    }),
  );
  let stations = $derived.by(() => {
    if (!fell) return [];
    const lies = trace?.fall?.turned_deg ?? 90;
    const list = [
      { deg: fell.balance_deg, name: "balance" },
      { deg: Math.min(lies, fell.opening_deg), name: "face closed" },
      { deg: lies, name: "lies" },
    ];
    return list.filter((one) => one.deg > 0.5);
  });
  let now = $derived.by(() => {
    const series = trace?.fall?.series;
    if (!series || at <= 0) return null;
    const after = series.t_s.findIndex((t) => t >= at);
    const i = after < 0 ? series.t_s.length - 1 : after;
    return {
      deg: series.tilt_deg[i] ?? 0,
      kn: series.lines.map((line) => line[i] ?? 0),
      weight: series.weight?.[i],
    };
  });
  // A weight in a line is where the film has it: ahead of the hinge, to its right, above it.
  let hung = $derived.by(() => {
    const line = trace?.fall?.lines.findIndex((one) => one.anchor_peak_kn !== undefined) ?? -1;
    const place = now?.weight;
    if (line < 0 || !place || !trace?.origin) return null;
    const [ahead = 0, right = 0, up = 0] = place;
    const east = Math.sin((trace.azimuth_deg * Math.PI) / 180);
    const north = Math.cos((trace.azimuth_deg * Math.PI) / 180);
    const p = put(view, {
      x: trace.origin.x + ahead * east + right * north,
      y: trace.origin.y + ahead * north - right * east,
      z: trace.origin.z + up,
    });
    return { line, ...p };
  });
  // Its lines follow what they are tied to.
  let lines = $derived.by(() => {
    const turn = ((now?.deg ?? 0) * Math.PI) / 180;
    return detail.pulls.map((one, i) => {
      const [first, ...rest] = one.points.map((p) => put(view, p));
      const dx = (first?.x ?? 0) - hinge.x;
      const dy = (first?.y ?? 0) - hinge.y;
      const tied = {
        x: hinge.x + dx * Math.cos(turn) - dy * Math.sin(turn),
        y: hinge.y + dx * Math.sin(turn) + dy * Math.cos(turn),
      };
      const on = hung?.line === i ? [hung, ...rest.slice(1)] : rest;
      return { id: one.id, d: path([tied, ...on], false), slack: (now?.kn[i] ?? 0) <= 0.01 };
    });
  });
</script>

{#snippet tree(tone: string)}
  <path d={body} class={tone} />
  {#each branches as branch, i (i)}<path d={branch} class={tone} />{/each}
{/snippet}

<!-- Looked at, not touched. -->
<clipPath id={`${id}-above`}
  ><rect x="-4000" y="-4000" width="9000" height={4000 + view.ground} /></clipPath
>
<g class="pointer-events-none" data-testid="falling" clip-path={`url(#${id}-above)`}>
  {#each stations as one, at (at)}
    <g
      transform={`rotate(${one.deg} ${hinge.x} ${hinge.y})`}
      opacity={one.name === "lies" ? 0.5 : 0.22}
      stroke-width="1"
    >
      {@render tree(
        one.name === "lies"
          ? "fill-primary/20 stroke-primary"
          : "fill-none stroke-base-content [stroke-dasharray:4_4]",
      )}
    </g>
  {/each}
  {#if now}
    <g transform={`rotate(${now.deg} ${hinge.x} ${hinge.y})`} stroke-width="1.5" data-testid="film">
      {@render tree("fill-primary/40 stroke-primary")}
    </g>
    {#each lines as one (one.id)}
      <path
        d={one.d}
        class="fill-none stroke-info"
        stroke-width={one.slack ? 1 : 2.4}
        stroke-dasharray={one.slack ? "2 5" : undefined}
      />
    {/each}
    {#if hung}<circle cx={hung.x} cy={hung.y} r="6" class="fill-info" data-testid="hung" />{/if}
  {/if}
</g>
