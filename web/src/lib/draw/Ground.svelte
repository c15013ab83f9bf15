<script lang="ts">
  // The site from above: what stands and lies there, the trees as they stand, where the piece
  // comes down and which way its lines lead.
  import type { Assessment } from "../api/client";
  import type { Session } from "../session/session.svelte";
  import { alongLimb, outlineOf, path, type Point } from "./view";

  interface Props {
    session: Session;
    assessment: Assessment;
    /** A place of the plan on the drawing. */
    put: (place: { x: number; y: number }) => Point;
    /** Pixels to the metre. */
    scale: number;
    /** How far out a sector is drawn, pixels. */
    far: number;
    /** Where sectors are seen from, on the drawing. */
    middle: Point;
  }

  let { session, assessment, put, scale, far, middle }: Props = $props();

  let site = $derived(session.job.site);
  const toward = (azimuth: number, out: number) => ({
    x: middle.x + Math.sin((azimuth * Math.PI) / 180) * out,
    y: middle.y - Math.cos((azimuth * Math.PI) / 180) * out,
  });
  let sectors = $derived(
    site.sectors.map((s) => {
      const a = toward(s.from_deg, far);
      const b = toward(s.to_deg, far);
      const wide = (s.to_deg - s.from_deg + 360) % 360;
      return {
        ...s,
        d: `M${middle.x} ${middle.y}L${a.x} ${a.y}A${far} ${far} 0 ${wide > 180 ? 1 : 0} 1 ${b.x} ${b.y}Z`,
      };
    }),
  );
  // Behind the stump, where the butt can come back; and the logs it comes down on.
  let felled = $derived.by(() => {
    const fell = session.detail?.fell;
    const cut = session.detail?.piece?.cut;
    if (!fell || !cut) return null;
    const at = put(cut);
    const heading = session.figures?.fall_towards_deg ?? 0;
    const out = (deg: number, far: number) => ({
      x: at.x + Math.sin((deg * Math.PI) / 180) * far,
      y: at.y - Math.cos((deg * Math.PI) / 180) * far,
    });
    const far = fell.butt_back_m * scale;
    const a = out(heading + 180 - fell.butt_deg, far);
    const b = out(heading + 180 + fell.butt_deg, far);
    return {
      heading,
      butt: `M${at.x} ${at.y}L${a.x} ${a.y}A${far} ${far} 0 0 1 ${b.x} ${b.y}Z`,
      beds: fell.beds.map((bed) => ({ ...put(bed.at), thick: Math.max(3, bed.thick_m * scale) })),
    };
  });
  // Where it balances, and how far off that it may be.
  let plumb = $derived.by(() => {
    const balance = session.detail?.balance;
    if (!balance) return null;
    return { ...put(balance.at), within: Math.max(3, balance.within_m * scale) };
  });
</script>

{#each sectors as s (s.id)}
  <path d={s.d} class="fill-error/12 stroke-error" stroke-width="0.8" stroke-dasharray="4 3" />
{/each}
{#each site.zones as zone (zone.id)}
  <path
    d={path(zone.outline.map(put), true)}
    class="fill-success/15 stroke-success"
    stroke-width="1.2"
  />
{/each}
{#each site.targets as target (target.id)}
  <path
    d={path(outlineOf(target).map(put), outlineOf(target).length > 2)}
    class={target.kind === "power-line"
      ? "fill-none stroke-warning"
      : "fill-base-300/50 stroke-base-content"}
    stroke-width={target.kind === "power-line" ? 2.4 : 1}
  />
{/each}
{#each site.escapes ?? [] as escape (escape.id)}
  <path
    d={path(escape.outline.map(put), false)}
    class="fill-none stroke-success"
    stroke-width="3"
  />
{/each}
{#each site.posts ?? [] as post (post.id)}
  {@const p = put(post.at)}
  <circle cx={p.x} cy={p.y} r="4" class="fill-primary stroke-base-100" stroke-width="1.5" />
{/each}
{#each site.anchors as anchor (anchor.id)}
  {@const p = put(anchor.at)}
  <path
    d={`M${p.x - 4} ${p.y + 4}L${p.x} ${p.y - 4}L${p.x + 4} ${p.y + 4}Z`}
    class="fill-base-content"
  />
{/each}
{#each site.cranes as crane (crane.id)}
  {@const p = put(crane.at)}
  <path d={`M${p.x - 5} ${p.y}h10m-5 -5v10`} class="stroke-base-content" stroke-width="2.5" />
{/each}
{#each assessment.trees as tree, t (tree.id)}
  {@const document = session.job.trees[t]}
  {@const tips = (session.detail?.stands[t] ?? tree.left)?.tips_m ?? []}
  {#each tree.shape.limbs as limb, i (limb.id)}
    {@const whole = document?.limbs[i]?.length_m ?? 1}
    {#if (tips[i] ?? whole) > 0}
      {@const chosen =
        t === session.treeIndex && session.pick?.what === "limb" && session.pick.limb === limb.id}
      {@const end = put(alongLimb(limb, (tips[i] ?? whole) / whole).at)}
      {@const base = put({ x: limb.points[0]?.[0] ?? 0, y: limb.points[0]?.[1] ?? 0 })}
      <path
        d={`M${base.x} ${base.y}L${end.x} ${end.y}`}
        class={chosen ? "stroke-primary" : "stroke-base-content"}
        stroke-width={chosen ? 3.5 : 1.6}
        stroke-linecap="round"
      />
    {/if}
  {/each}
  {@const at = put(tree.shape.foot)}
  <circle
    cx={at.x}
    cy={at.y}
    r={Math.max(3, ((tree.stem[0]?.diameter_m ?? 0.5) / 2) * scale)}
    class="fill-[var(--wood)] stroke-base-content"
    stroke-width="1.4"
  />
{/each}
<g
  opacity="0.28"
  class={session.detail?.landing?.verdict === "over" ? "fill-error" : "fill-primary"}
>
  {#each session.detail?.landing?.discs ?? [] as disc, i (i)}
    {@const p = put(disc)}
    <circle cx={p.x} cy={p.y} r={disc.r * scale} />
  {/each}
</g>
{#if felled}
  <path
    d={felled.butt}
    class="fill-warning/25 stroke-warning"
    stroke-width="1"
    stroke-dasharray="3 2"
    data-testid="butt-zone"
    ><title>The butt can come back here when its tip meets something: nobody stands there</title
    ></path
  >
  {#each felled.beds as bed, i (i)}
    <rect
      x={bed.x - Math.max(8, 1.2 * scale)}
      y={bed.y - bed.thick / 2}
      width={2 * Math.max(8, 1.2 * scale)}
      height={bed.thick}
      transform={`rotate(${felled.heading} ${bed.x} ${bed.y})`}
      class="fill-[var(--wood)] stroke-base-content"
      data-testid="bed"
    />
  {/each}
{/if}
{#each session.detail?.pulls ?? [] as line, i (i)}
  <path
    d={path(line.points.map(put), false)}
    class="fill-none stroke-info"
    stroke-width="2"
    stroke-dasharray={line.holds ? "5 3" : undefined}
  />
{/each}
{#if (session.detail?.way.length ?? 0) > 1}
  <path
    d={path((session.detail?.way ?? []).map(put), false)}
    class="fill-none stroke-primary"
    stroke-width="1.4"
    stroke-dasharray="2 3"
  />
{/if}
{#if plumb}
  <g data-testid="plumb">
    <circle
      cx={plumb.x}
      cy={plumb.y}
      r={plumb.within}
      class="fill-none stroke-base-content"
      stroke-dasharray="2 2"
    />
    <path
      d={`M${plumb.x - 5} ${plumb.y}h10m-5 -5v10`}
      class="stroke-base-content"
      stroke-width="1.5"
    />
  </g>
{/if}
