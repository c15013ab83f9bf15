<script lang="ts">
  import type { Assessment } from "../api/client";
  import type { Session } from "../session/session.svelte";
  import Ground from "./Ground.svelte";
  import { wind } from "./view";

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
    <Ground {session} {assessment} {put} {scale} far={size} middle={{ x: size / 2, y: size / 2 }} />
    <!-- North, and where the elevation is seen from -->
    <text x={size / 2} y="12" text-anchor="middle" class="fill-base-content text-[12px] font-bold"
      >N</text
    >
    <g transform={`translate(${eye.x} ${eye.y}) rotate(${right + 270})`}>
      <path d="M-7 5L0 -7L7 5Z" class="fill-primary" />
    </g>
  </svg>
</div>
