<script lang="ts">
  // A job in the list as its work stands: the tree's outline, how far it is, what is nearest a limit
  // or still missing. Asked for when it comes into view.
  import { resolve } from "$app/paths";
  import type { Attachment } from "svelte/attachments";
  import { api, type Assessment, type Job, type JobRow } from "../api/client";
  import { core } from "../core/core.svelte";
  import Mark from "../ladder/Mark.svelte";
  import { preferences } from "../preferences.svelte";
  import { known } from "../reference.svelte";
  import { when } from "../when";

  let { row }: { row: JobRow } = $props();

  let job = $state.raw<Job | null>(null);
  let assessment = $state.raw<Assessment | null>(null);
  let briefed = $state(false);

  const seen: Attachment = (element) => {
    const eye = new IntersectionObserver((entries) => {
      if (!entries.some((e) => e.isIntersecting)) return;
      eye.disconnect();
      void look();
    });
    eye.observe(element);
    return () => eye.disconnect();
  };
  async function look() {
    const path = { id: row.id };
    const kept = await api.GET("/api/jobs/{id}", { params: { path } }).catch(() => null);
    if (!kept?.data) return;
    job = kept.data.job;
    const answer = await core.assess(job, preferences.units, "").catch(() => null);
    assessment = answer?.data ?? null;
    if (assessment?.stage !== "planned") return;
    const papers = await api
      .GET("/api/jobs/{id}/briefings", { params: { path } })
      .catch(() => null);
    briefed = (papers?.data?.briefings.length ?? 0) > 0;
  }

  const species = (id: string) =>
    known.get().species.find((s) => s.id === id)?.common_name ?? "no species yet";

  // All trees of the job, seen from the south.
  let outline = $derived.by(() => {
    const lines: { d: string; wide: number }[] = [];
    const shapes = assessment?.trees.map((t) => t.shape) ?? [];
    const all = shapes.flatMap((s) => [...s.stem, ...s.limbs.flatMap((l) => l.points)]);
    if (all.length < 2) return null;
    const xs = all.map((p) => p[0] ?? 0);
    const high = Math.max(1, ...all.map((p) => p[2] ?? 0));
    const [left, right] = [Math.min(...xs), Math.max(...xs)];
    const scale = Math.min(60 / high, 68 / Math.max(1, right - left));
    const middle = (left + right) / 2;
    const draw = (points: readonly number[][]) => {
      const places = points.map(
        (p) =>
          `${(36 + ((p[0] ?? 0) - middle) * scale).toFixed(1)} ${(63 - (p[2] ?? 0) * scale).toFixed(1)}`,
      );
      lines.push({
        d: `M${places.join("L")}`,
        wide: Math.max(0.8, (points[0]?.[3] ?? 0.1) * scale),
      });
    };
    for (const s of shapes) {
      if (s.stem.length) draw([[s.foot.x, s.foot.y, 0, s.stem[0]?.[3] ?? 0.3], ...s.stem]);
      for (const limb of s.limbs) draw(limb.points);
    }
    return lines;
  });

  let stage = $derived.by(() => {
    if (!assessment || !job) return "";
    const all = job.picks.length;
    if (assessment.stage === "begun") return `begun: ${assessment.down} of ${all} down`;
    if (assessment.stage === "done") return `done: all ${all} down`;
    if (assessment.stage === "planned") return `${briefed ? "briefed" : "planned"}: ${all} picks`;
    return assessment.stage;
  });
  let said = $derived.by(() => {
    const a = assessment;
    if (!a) return "";
    if (a.faults[0]) return a.faults[0].message;
    if (a.missing[0]) return a.missing[0].ask;
    if (a.gravest?.said) return `pick ${a.gravest.pick}: ${a.gravest.said}`;
    return "";
  });
</script>

<a
  href={resolve("/job/[id]", { id: row.id })}
  class="group flex min-w-0 grow basis-60 items-center gap-3 py-2"
  {@attach seen}
>
  <svg viewBox="0 0 72 66" class="h-16 w-18 shrink-0" aria-hidden="true">
    <path d="M4 63h64" class="stroke-base-content" stroke-width="1" />
    {#each outline ?? [] as line, i (i)}
      <path
        d={line.d}
        class="fill-none stroke-base-content"
        stroke-width={line.wide}
        stroke-linejoin="round"
        stroke-linecap="round"
      />
    {/each}
  </svg>
  <span class="min-w-0 grow">
    <span class="block truncate text-xl font-semibold group-hover:underline">{row.name}</span>
    <span class="block truncate text-sm font-semibold" data-testid="stage">
      {stage}{job?.work_on ? ` · work on ${job.work_on}` : ""}
    </span>
    {#if said}
      <span class="flex items-center gap-1 truncate text-sm">
        {#if assessment && assessment.picks.length}<Mark
            verdict={assessment.verdict}
            size={14}
          />{/if}
        <span class="truncate">{said}</span>
      </span>
    {/if}
    <span class="block truncate text-sm faint">
      {species(row.species)} · revision {row.revision} · saved {when(row.saved_at)}
    </span>
  </span>
</a>
