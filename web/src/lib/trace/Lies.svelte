<script lang="ts">
  // What goes free or is thrown: where it lies, what it weighs there.
  import type { Assessment, Detail } from "../api/client";
  import Ground from "../draw/Ground.svelte";
  import Rests from "../ladder/Rests.svelte";
  import Mark from "../ladder/Mark.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import { sized } from "../draw/sized";

  type Landing = NonNullable<Detail["landing"]>;
  interface Props {
    session: Session;
    assessment: Assessment;
    detail: Detail;
    landing: Landing;
    /** Why its fall is not followed; empty: there is none to follow. */
    why: string;
  }

  let { session, assessment, detail, landing, why }: Props = $props();

  const tall = 170;
  let width = $state(240);
  let foot = $derived(assessment.trees[session.treeIndex]?.shape.foot ?? { x: 0, y: 0 });
  // The lay and the foot, with room round them.
  let frame = $derived.by(() => {
    const xs = [foot.x, ...landing.discs.flatMap((d) => [d.x - d.r, d.x + d.r])];
    const ys = [foot.y, ...landing.discs.flatMap((d) => [d.y - d.r, d.y + d.r])];
    const [left, right] = [Math.min(...xs), Math.max(...xs)];
    const [low, high] = [Math.min(...ys), Math.max(...ys)];
    const scale = Math.min(width / (right - left + 3), tall / (high - low + 3));
    return { x: (left + right) / 2, y: (low + high) / 2, scale };
  });
  let put = $derived((p: { x: number; y: number }) => ({
    x: width / 2 + (p.x - frame.x) * frame.scale,
    y: tall / 2 - (p.y - frame.y) * frame.scale,
  }));
</script>

<div class="flex h-full gap-3" data-testid="lies">
  <div class="min-w-0 flex-1 space-y-0.5 py-2 pl-4">
    {#if detail.piece}
      <p class="text-2xl leading-tight font-bold">
        {print("mass", detail.piece.mass_kg.likely)}
        <span class="text-sm font-semibold">
          {print("mass", detail.piece.mass_kg.low)} to {print("mass", detail.piece.mass_kg.high)}
        </span>
        {#if session.figures}<Rests basis={session.figures.basis} />{/if}
      </p>
    {/if}
    <p class="text-base leading-snug font-semibold">
      lies {landing.near_m > 0 ? `${print("height", landing.near_m)} to` : "up to"}
      {print("height", landing.far_m)} from the foot
    </p>
    <p class="flex items-start gap-1.5 text-base leading-snug">
      <span class="mt-0.5"><Mark verdict={landing.verdict} size={16} /></span>
      {landing.reason}
    </p>
    <p class="text-sm faint">
      {landing.energy_kj.toFixed(1)} kJ when it lands{why ? `. ${why}` : ""}
    </p>
  </div>
  <div class="h-full w-[45%] shrink-0 border-l border-base-300" {@attach sized((w) => (width = w))}>
    <svg
      {width}
      height={tall}
      class="block"
      role="img"
      aria-label={`Where it lies, from above, north up: ${landing.reason}`}
    >
      <Ground
        {session}
        {assessment}
        {put}
        scale={frame.scale}
        far={width + tall}
        middle={put(foot)}
      />
      <text x="6" y="14" class="fill-base-content halo text-[11px] font-bold">N ↑</text>
    </svg>
  </div>
</div>
