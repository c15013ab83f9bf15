<script lang="ts">
  import type { Assessment } from "../api/client";
  import type { Session } from "../session/session.svelte";
  import { alongLimb, outlineOf, path, wind } from "./view";

  interface Props {
    session: Session;
    assessment: Assessment;
    /** Azimuth to the right of the elevation, degrees; turned here. */
    right: number;
    onturn: (azimuth: number) => void;
  }

  let { session, assessment, right, onturn }: Props = $props();

  const size = 200;
  let site = $derived(session.job.site);
  let foot = $derived(assessment.trees[0]?.shape.foot ?? { x: 0, y: 0, z: 0 });
  let reach = $derived.by(() => {
    const far = [6];
    for (const p of assessment.trees.flatMap((t) => t.shape.limbs.flatMap((l) => l.points))) {
      far.push(Math.hypot((p[0] ?? 0) - foot.x, (p[1] ?? 0) - foot.y));
    }
    for (const t of assessment.trees) {
      far.push(3 + Math.hypot(t.shape.foot.x - foot.x, t.shape.foot.y - foot.y));
    }
    for (const zone of site.zones) {
      for (const c of zone.outline) far.push(Math.min(16, Math.hypot(c.x - foot.x, c.y - foot.y)));
    }
    return Math.max(...far) * 1.08;
  });
  let scale = $derived(size / 2 / reach);
  let put = $derived((p: { x: number; y: number }) => ({
    x: size / 2 + (p.x - foot.x) * scale,
    y: size / 2 - (p.y - foot.y) * scale,
  }));

  const toward = (azimuth: number, out: number) => ({
    x: size / 2 + Math.sin((azimuth * Math.PI) / 180) * out,
    y: size / 2 - Math.cos((azimuth * Math.PI) / 180) * out,
  });
  let sectors = $derived(
    site.sectors.map((s) => {
      const a = toward(s.from_deg, size);
      const b = toward(s.to_deg, size);
      const wide = (s.to_deg - s.from_deg + 360) % 360;
      return {
        ...s,
        d: `M${size / 2} ${size / 2}L${a.x} ${a.y}A${size} ${size} 0 ${wide > 180 ? 1 : 0} 1 ${b.x} ${b.y}Z`,
      };
    }),
  );
  // The elevation is seen from a quarter turn to the right of its right-hand azimuth.
  let eye = $derived(toward(right + 90, size / 2 - 9));

  let held = false;
  function turnTo(event: PointerEvent) {
    const box = (event.currentTarget as Element).getBoundingClientRect();
    const x = event.clientX - box.left - box.width / 2;
    const y = event.clientY - box.top - box.height / 2;
    const from = (Math.atan2(x, -y) * 180) / Math.PI;
    onturn(Math.round((from - 90 + 720) % 360));
  }
  function onkeydown(event: KeyboardEvent) {
    const by: Record<string, number> = { ArrowRight: 5, ArrowUp: 5, ArrowLeft: -5, ArrowDown: -5 };
    const step = by[event.key];
    if (step === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    onturn((right + step + 360) % 360);
  }
</script>

<div
  role="slider"
  tabindex="0"
  aria-label="Plan: turn the elevation"
  aria-valuemin={0}
  aria-valuemax={359}
  aria-valuenow={Math.round((right + 270) % 360)}
  aria-valuetext={`looking ${wind(right + 270)}`}
  class="size-full cursor-pointer touch-none rounded-sm border border-base-300 bg-base-100"
  onpointerdown={(e) => {
    held = true;
    (e.currentTarget as Element).setPointerCapture(e.pointerId);
    turnTo(e);
  }}
  onpointermove={(e) => held && turnTo(e)}
  onpointerup={() => (held = false)}
  {onkeydown}
>
  <svg viewBox={`0 0 ${size} ${size}`} class="block size-full" aria-hidden="true">
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
            t === session.treeIndex &&
            session.pick?.what === "limb" &&
            session.pick.limb === limb.id}
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
    {#each session.detail?.landing?.discs ?? [] as disc, i (i)}
      {@const p = put(disc)}
      <circle
        cx={p.x}
        cy={p.y}
        r={disc.r * scale}
        class={session.detail?.landing?.verdict === "over" ? "fill-error/30" : "fill-primary/25"}
      />
    {/each}
    {#each session.detail?.pulls ?? [] as line, i (i)}
      <path
        d={path([put(line.from), put(line.to)], false)}
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
    <!-- North, and where the elevation is seen from -->
    <text x={size / 2} y="12" text-anchor="middle" class="fill-base-content text-[12px] font-bold"
      >N</text
    >
    <g transform={`translate(${eye.x} ${eye.y}) rotate(${right + 270})`}>
      <path d="M-7 5L0 -7L7 5Z" class="fill-primary" />
    </g>
  </svg>
</div>
