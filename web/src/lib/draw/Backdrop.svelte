<script lang="ts">
  import type { Assessment, Job } from "../api/client";
  import { figure, print, unitOf } from "../reference.svelte";
  import { placed } from "./labels";
  import { across, markStep, outlineOf, woodRoom, type View } from "./view";

  interface Props {
    job: Job;
    assessment: Assessment;
    /** What else no name may stand over. */
    taken: ReturnType<typeof woodRoom>;
    view: View;
    width: number;
    height: number;
  }

  let { job, assessment, taken, view, width, height }: Props = $props();

  let y = $derived((z: number) => view.ground - z * view.perMetre);

  let marks = $derived.by(() => {
    const step = markStep(view.perMetre, 44, unitOf("height").factor);
    const list: number[] = [];
    for (let z = 0; y(z) > 8; z += step) list.push(z);
    return list;
  });

  let seen = $derived(
    job.site.targets.map((target) => {
      const xs = outlineOf(target).map((c) => across(view, c));
      const low = Math.min(...xs);
      const high = Math.max(...xs);
      const thin = high - low < 0.15;
      return {
        target,
        x: view.axis + (thin ? low - 0.08 : low) * view.perMetre,
        wide: Math.max(2, (thin ? 0.16 : high - low) * view.perMetre),
        top: y(target.to_m),
        tall: Math.max(2, (target.to_m - (target.from_m ?? 0)) * view.perMetre),
      };
    }),
  );
  let named = $derived(
    placed(
      seen
        .filter((s) => s.wide > 40 && s.tall > 14)
        .map((s) => ({
          id: s.target.id,
          x: Math.max(28, s.x + 5),
          y: s.top + 13,
          text: s.target.name,
          size: 11,
          anchor: "start",
          until: s.x + s.wide,
        })),
      { left: 28, right: width - 4, top: 2, bottom: height - 4 },
      [...taken, ...assessment.trees.flatMap((tree) => woodRoom(view, tree.shape, tree.stem))],
    ),
  );
  let zones = $derived(
    job.site.zones.map((zone) => {
      const xs = zone.outline.map((c) => across(view, c));
      return { zone, from: Math.min(...xs), to: Math.max(...xs) };
    }),
  );
  let hatched = $derived(
    Array.from(
      { length: Math.ceil(width / 14) },
      (_, i) => `M${i * 14 + 8} ${view.ground}l-6 7`,
    ).join(""),
  );
  let bar = $derived(markStep(view.perMetre, 34, unitOf("height").factor));
</script>

<!-- Looked at, not touched. -->
<g class="pointer-events-none">
  <g class="text-[11px]">
    {#each marks as z (z)}
      <line x1="0" x2="7" y1={y(z)} y2={y(z)} class="stroke-base-content" stroke-width="1" />
      <line
        x1="7"
        x2={width}
        y1={y(z)}
        y2={y(z)}
        class="stroke-base-300"
        stroke-width="0.5"
        stroke-dasharray="1 5"
      />
      <text x="10" y={y(z) + 4} class="fill-[var(--faint)]"
        >{figure("height", z).replace(/\.0+$/, "")}</text
      >
    {/each}
  </g>

  <!-- Drop zones: a green band on the ground -->
  {#each zones as { zone, from, to } (zone.id)}
    <rect
      x={view.axis + from * view.perMetre}
      y={view.ground + 2}
      width={(to - from) * view.perMetre}
      height="6"
      class="fill-success"
      opacity="0.55"><title>{zone.name}</title></rect
    >
  {/each}

  <!-- Targets as they are seen from here -->
  {#each seen as s (s.target.id)}
    <g>
      {#if s.target.kind === "power-line"}
        <path
          d={`M${s.x} ${s.top}h${s.wide}m0 ${s.tall}h${-s.wide}`}
          class="fill-none stroke-warning"
          stroke-width="1.8"
        />
      {:else}
        <rect
          x={s.x}
          y={s.top}
          width={s.wide}
          height={s.tall}
          class="fill-base-300/40 stroke-base-content"
          stroke-width="1"
          stroke-dasharray={s.target.kind === "tree" || s.target.kind === "shrub"
            ? "3 2"
            : undefined}
        />
      {/if}
      {#if named.has(s.target.id)}
        <text
          x={named.get(s.target.id)?.x}
          y={named.get(s.target.id)?.y}
          class="fill-base-content halo text-[11px]">{s.target.name}</text
        >
      {:else}<title>{s.target.name}</title>{/if}
    </g>
  {/each}

  <!-- Ground -->
  <path d={`M0 ${view.ground}H${width}`} class="stroke-base-content" stroke-width="1.5" />
  <path d={hatched} class="stroke-base-content" stroke-width="0.7" opacity="0.5" />

  <g transform={`translate(${width - 14 - bar * view.perMetre} ${height - 6})`}>
    <path
      d={`M0 -4V0H${bar * view.perMetre}V-4`}
      fill="none"
      class="stroke-base-content"
      stroke-width="1.5"
    />
    <text
      x={(bar * view.perMetre) / 2}
      y="-4"
      text-anchor="middle"
      class="fill-base-content text-[11px]">{print("height", bar).replace(/\.0+ /, " ")}</text
    >
  </g>
</g>
