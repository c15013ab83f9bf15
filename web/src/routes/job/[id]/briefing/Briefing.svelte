<script lang="ts">
  import Rests from "$lib/ladder/Rests.svelte";
  import { onDestroy, untrack } from "svelte";
  import { resolve } from "$app/paths";
  import Icon from "$lib/Icon.svelte";
  import Archive from "lucide-static/icons/archive.svg?raw";
  import Download from "lucide-static/icons/download.svg?raw";
  import FileText from "lucide-static/icons/file-text.svg?raw";
  import Printer from "lucide-static/icons/printer.svg?raw";
  import { api, explain, type BriefingHead, type JobHead, type Paper } from "$lib/api/client";
  import { core } from "$lib/core/core.svelte";
  import Mark from "$lib/ladder/Mark.svelte";
  import { preferences } from "$lib/preferences.svelte";
  import Conflict from "$lib/session/Conflict.svelte";
  import SaveMark from "$lib/session/SaveMark.svelte";
  import { page } from "$lib/session/page";
  import { Session } from "$lib/session/session.svelte";
  import Topbar from "$lib/Topbar.svelte";
  import { when } from "$lib/when";
  import CutCard from "$lib/brief/CutCard.svelte";
  import Lines from "$lib/brief/Lines.svelte";

  let { head }: { head: JobHead } = $props();

  const session = untrack(() => new Session(head, page));
  onDestroy(() => session.close());

  let paper = $state.raw<Paper | null>(null);
  let made = $state.raw<BriefingHead[]>([]);
  /** Where the list of briefings goes on; empty: it is whole. */
  let older = $state("");
  let total = $state(0);
  let trouble = $state("");
  let busy = $state(false);
  let saved = $derived(session.saver.state === "saved");
  let revision = $derived(session.saver.revision);
  let stamped = $derived(
    `${session.job.name} · revision ${revision}${saved ? "" : ", with changes not saved yet"} · saved ${new Date(session.saver.savedAt).toISOString().slice(0, 16).replace("T", " ")} UTC`,
  );

  // What the paper says follows what the core says of the job.
  $effect(() => {
    void session.assessment;
    const job = session.job;
    const units = preferences.units;
    void core.brief(job, units).then(
      ({ data }) => {
        if (data && job === session.job) paper = data;
      },
      () => undefined,
    );
  });

  $effect(() => {
    void preferences.units;
    untrack(() => void session.assess());
  });

  $effect(() => {
    void revision;
    void list();
  });

  async function list(after = "") {
    const { data } = await api
      .GET("/api/jobs/{id}/briefings", {
        params: { path: { id: head.id }, query: { limit: 50, ...(after && { after }) } },
      })
      .catch(() => ({ data: undefined }));
    if (!data) return;
    made = after ? [...made, ...data.briefings] : data.briefings;
    older = data.next;
    total = data.total;
  }

  const pdf = (id: string) =>
    `/api/jobs/${head.id}/briefings/${id}/pdf?units=${preferences.units}${preferences.units === "us" ? "&sheet=letter" : ""}`;

  async function make() {
    busy = true;
    trouble = "";
    // Opened by the press itself, so that no browser holds it back.
    const tab = window.open("", "_blank");
    try {
      const { data, error } = await api.POST("/api/jobs/{id}/briefings", {
        params: { path: { id: head.id } },
      });
      if (data) {
        if (tab) tab.location.href = pdf(data.id);
        await list();
      } else {
        tab?.close();
        trouble = explain(error);
      }
    } catch {
      tab?.close();
      trouble = explain(null);
    } finally {
      busy = false;
    }
  }

  const file = (name: string) => `/api/jobs/${head.id}/${name}?units=${preferences.units}`;
  const drawing = (name: string) => `${file(name)}&revision=${revision}`;
  let files = $derived([
    ["picks.csv", "Picks, CSV"],
    ["picks.xlsx", "Picks, XLSX"],
    // In degrees only what has a place on earth; metres are no degrees.
    ...(session.job.site.earth ? [["site.geojson", "Site, GeoJSON"] as const] : []),
    ["site.dxf", "Site, DXF"],
    ["site.json", "Site, JSON"],
    ["tree.svg", "Tree, SVG"],
    ["site.svg", "Plan, SVG"],
  ] as const);
</script>

<svelte:head><title>Briefing · {session.job.name} · Elk Stay</title></svelte:head>

<div class="min-h-dvh">
  <div class="print:hidden">
    <Topbar>
      <a class="btn touch btn-ghost px-2" href={resolve("/job/[id]", { id: head.id })}
        >← {session.job.name}</a
      >
      <SaveMark saver={session.saver} />
    </Topbar>
    <Conflict {session} />
    <div class="border-b border-base-300 bg-base-200 px-4 py-3 sm:px-8">
      <div class="mx-auto flex max-w-6xl flex-wrap items-center gap-2">
        <button class="btn touch btn-primary" disabled={busy || !saved} onclick={make}
          ><Icon of={FileText} size={18} /> Make the PDF</button
        >
        <button class="btn touch btn-outline" onclick={() => window.print()}
          ><Icon of={Printer} size={18} /> Print this page</button
        >
        {#each files as [name, title] (name)}
          <a class="btn touch btn-ghost px-2" href={file(name)} download rel="external"
            ><Icon of={Download} size={16} /> {title}</a
          >
        {/each}
        <a
          class="btn touch btn-ghost px-2"
          href={`/api/jobs/${head.id}/archive`}
          download
          rel="external"
          title="Plan and facts, pictures, briefings, the gear and the rules"
          ><Icon of={Archive} size={16} /> Whole job, ZIP</a
        >
      </div>
      {#if trouble}<p role="alert" class="mx-auto mt-2 max-w-6xl text-error">{trouble}</p>{/if}
      {#if made.length}
        <details class="mx-auto mt-2 max-w-6xl" open={made.some((b) => b.outdated)}>
          <summary class="touch cursor-pointer content-center font-semibold"
            >Made so far: {total}</summary
          >
          <ul aria-label="Briefings made">
            {#each made as one (one.id)}
              <li class="flex flex-wrap items-baseline gap-x-3 py-1">
                <a class="link font-semibold" href={pdf(one.id)} target="_blank" rel="external"
                  >revision {one.revision}, {when(one.made_at)}</a
                >
                {#if one.outdated}
                  <span class="font-semibold text-error">▲ {one.outdated}</span>
                {:else}<span class="faint">of the newest revision</span>{/if}
              </li>
            {/each}
          </ul>
          {#if older}
            <button class="btn mt-2 touch btn-outline" onclick={() => list(older)}
              >Older briefings</button
            >
          {/if}
        </details>
      {/if}
    </div>
  </div>

  {#if !paper}
    <p class="p-8 faint">{session.behind ? "The core does not answer yet." : "Working it out"}</p>
  {:else}
    <main class="mx-auto max-w-6xl p-4 pb-16 sm:p-8 print:max-w-none print:p-0" data-testid="paper">
      <h1 class="text-4xl font-bold tracking-tight">{paper.name}</h1>
      <p class="mt-1 flex items-center gap-2 text-xl font-semibold">
        <Mark verdict={paper.verdict} size={22} />{paper.state}
      </p>
      <p class="mt-1 text-sm faint">{paper.tree.join(" · ")}</p>
      {#if paper.work_on}<p class="mt-1 text-sm">Planned for {paper.work_on}</p>{/if}

      <div class="mt-4 grid gap-4 md:grid-cols-[145fr_125fr] print:grid-cols-[145fr_125fr]">
        <img class="w-full bg-white" src={drawing("site.svg")} alt="Plan of the site, north up" />
        <img
          class="w-full bg-white"
          src={drawing("tree.svg")}
          alt="The tree with its numbered picks, looking north"
        />
      </div>
      {#if !saved}
        <p class="mt-1 text-sm font-semibold print:hidden">
          The drawings are of revision {revision}: they follow when this is saved.
        </p>
      {/if}

      <div class="mt-4 grid gap-6 md:grid-cols-3 print:grid-cols-3">
        <section>
          <h2 class="break-after-avoid text-lg font-bold">Who stands where</h2>
          {#each paper.posts as post, i (post.id)}
            <p>
              <b>{String.fromCharCode(65 + i)}</b>
              {post.role}{post.name ? `, ${post.name}` : ""}: {post.where}
            </p>
          {:else}<p class="faint">Nobody has said: Setup, Site.</p>{/each}
        </section>
        <section>
          <h2 class="break-after-avoid text-lg font-bold">Ways out</h2>
          {#each paper.escapes as way (way)}<p>{way}</p>{:else}
            <p class="faint">None are drawn: two, at 45° behind the fall, walked and cleared.</p>
          {/each}
        </section>
        <section>
          <h2 class="break-after-avoid text-lg font-bold">If somebody is hurt</h2>
          <Lines
            {session}
            path="brief.emergency"
            label="Where help comes to, who calls"
            value={session.job.brief?.emergency}
            most={600}
          />
        </section>
      </div>

      <section class="mt-6 print:mt-0 print:break-before-page">
        <h2 class="break-after-avoid text-lg font-bold">Picks, first to last</h2>
        <div class="relative overflow-x-auto print:overflow-visible">
          <table class="w-full text-left text-sm" aria-label="Picks">
            <thead class="faint">
              <tr class="border-b-2 border-base-content">
                {#each ["", "piece", "weight", "cut", "way down", "tie", "rig", "wraps", "run", "peak", "the worst", "verdict", "call"] as title (title)}
                  <th class="px-1.5 py-1 font-medium">{title}</th>
                {/each}
              </tr>
            </thead>
            <tbody>
              {#each paper.picks as p (p.id)}
                <tr class="break-inside-avoid border-b border-base-300 align-top" data-pick={p.id}>
                  <td class="px-1.5 py-1 text-right font-bold">{p.number}</td>
                  <td class="px-1.5 py-1 font-semibold">{p.title}{p.done ? " (down)" : ""}</td>
                  <td class="px-1.5 py-1 text-right whitespace-nowrap"
                    >{p.weight}
                    {#if p.weight !== "–"}<br /><Rests basis={p.basis} />{/if}</td
                  >
                  <td class="px-1.5 py-1">{p.cut}</td>
                  <td class="px-1.5 py-1">{p.way}</td>
                  <td class="px-1.5 py-1 text-right whitespace-nowrap">{p.tie}</td>
                  <td class="px-1.5 py-1">{p.rig}</td>
                  <td class="px-1.5 py-1 text-right">{p.wraps}</td>
                  <td class="px-1.5 py-1 text-right whitespace-nowrap">{p.run}</td>
                  <td class="px-1.5 py-1 text-right font-semibold whitespace-nowrap">{p.peak}</td>
                  <td class="px-1.5 py-1 whitespace-nowrap">{p.nearest}</td>
                  <td class="px-1.5 py-1 whitespace-nowrap"
                    ><span class="inline-flex items-center gap-1"
                      ><Mark verdict={p.verdict} size={14} />{p.verdict}</span
                    ></td
                  >
                  <td class="px-1.5 py-1"
                    >{#if p.faults}<span class="text-error">Cannot happen: {p.faults}</span
                      >{:else}{p.call}{/if}</td
                  >
                </tr>
              {/each}
            </tbody>
          </table>
        </div>
      </section>

      {#each paper.cards as card (card.id)}<CutCard {card} />{/each}

      {#if paper.gear.length}
        <section class="mt-6">
          <h2 class="break-after-avoid text-lg font-bold">
            Gear, and the pick that loads each item hardest
          </h2>
          <div class="relative overflow-x-auto print:overflow-visible">
            <table class="w-full text-left text-sm" aria-label="Gear">
              <thead class="faint">
                <tr class="border-b-2 border-base-content">
                  {#each ["part", "item", "serial", "rig", "hardest", "limit", "of its limit", "verdict", "in the locker"] as title (title)}
                    <th class="px-1.5 py-1 font-medium">{title}</th>
                  {/each}
                </tr>
              </thead>
              <tbody>
                {#each paper.gear as g, i (i)}
                  <tr class="break-inside-avoid border-b border-base-300">
                    <td class="px-1.5 py-1">{g.what}</td>
                    <td class="px-1.5 py-1 font-semibold">{g.name}</td>
                    <td class="px-1.5 py-1">{g.serial}</td>
                    <td class="px-1.5 py-1">{g.rig}</td>
                    <td class="px-1.5 py-1 text-right whitespace-nowrap">{g.peak}</td>
                    <td class="px-1.5 py-1 text-right whitespace-nowrap">{g.limit}</td>
                    <td class="px-1.5 py-1 whitespace-nowrap">{g.use}</td>
                    <td class="px-1.5 py-1">{g.verdict}</td>
                    <td class="px-1.5 py-1">{g.standing}</td>
                  </tr>
                {/each}
              </tbody>
            </table>
          </div>
          <ul class="mt-2 text-sm">
            {#each paper.ropes as rope, i (i)}
              <li>
                Rope of <b>{rope.rig}</b>: must be {rope.need}, is {rope.have} · {rope.verdict}
              </li>
            {/each}
          </ul>
        </section>
      {/if}

      <div class="mt-6 grid gap-6 md:grid-cols-2 print:grid-cols-2">
        <section class="break-inside-avoid">
          <h2 class="break-after-avoid text-lg font-bold">Plan B</h2>
          <Lines
            {session}
            path="brief.plan_b"
            label="When the first way does not work"
            value={session.job.brief?.plan_b}
          />
        </section>
        <section class="break-inside-avoid">
          <h2 class="break-after-avoid text-lg font-bold">Plan C</h2>
          <Lines
            {session}
            path="brief.plan_c"
            label="When that does not work either"
            value={session.job.brief?.plan_c}
          />
        </section>
        <section>
          <h2 class="break-after-avoid text-lg font-bold">Cautions</h2>
          <ul class="list-disc pl-5">
            {#each paper.cautions as one, at (at)}<li>{one}</li>{/each}
          </ul>
        </section>
        <section>
          <h2 class="break-after-avoid text-lg font-bold">What is not known</h2>
          <ul class="list-disc pl-5">
            {#each paper.unknown as one, at (at)}<li>{one}</li>{/each}
          </ul>
          <div class="mt-2 print:hidden">
            <Lines
              {session}
              path="brief.unknown"
              label="And in your own words"
              value={session.job.brief?.unknown}
            />
          </div>
        </section>
        <section class="break-inside-avoid">
          <h2 class="break-after-avoid text-lg font-bold">What the figures are held to</h2>
          <ul class="list-disc pl-5 text-sm">
            {#each paper.rules as one, at (at)}<li>{one}</li>{/each}
          </ul>
        </section>
        <section class="break-inside-avoid">
          <h2 class="break-after-avoid text-lg font-bold">Read and understood</h2>
          <div class="print:hidden">
            <Lines
              {session}
              path="brief.lead"
              label="In charge"
              value={session.job.brief?.lead}
              most={80}
              rows={1}
            />
          </div>
          <div class="mt-2 grid grid-cols-2 gap-x-6 gap-y-8 pt-6">
            {#each paper.signatures as who (who)}
              <p class="border-t border-base-content pt-1 text-sm">{who}</p>
            {/each}
          </div>
        </section>
      </div>
      <p
        class="mt-6 border-t border-base-300 pt-2 text-xs print:fixed print:inset-x-0 print:bottom-0 print:bg-white"
      >
        {stamped}
      </p>
    </main>
  {/if}
</div>
