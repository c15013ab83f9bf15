<script lang="ts">
  import { untrack } from "svelte";
  import { resolve } from "$app/paths";
  import {
    api,
    explain,
    type Fault,
    type JobEffect,
    type Policy,
    type Quantity,
    type Rule,
  } from "$lib/api/client";
  import Choice from "$lib/fields/Choice.svelte";
  import Figure from "$lib/fields/Figure.svelte";
  import { allRead } from "$lib/fields/reading";
  import { faultsOf, say } from "$lib/fields/say";
  import Mark from "$lib/ladder/Mark.svelte";
  import PolicyHistory from "$lib/crew/PolicyHistory.svelte";
  import Nav from "$lib/Nav.svelte";
  import { print } from "$lib/reference.svelte";
  import { preferences } from "$lib/preferences.svelte";
  import Topbar from "$lib/Topbar.svelte";
  import type { PageProps } from "./$types";

  let { data }: PageProps = $props();

  let head = $state.raw(untrack(() => data.head));
  let policy = $state.raw<Policy>(untrack(() => data.head.policy));
  let effects = $state.raw<JobEffect[] | null>(null);
  /** How far the trial has come; null: it is not under way. */
  let tried = $state.raw<{ done: number; of: number } | null>(null);
  /** The trial was stopped before all open jobs were tried. */
  let stopped = $state(false);
  let faults = $state.raw<Fault[]>([]);
  let trouble = $state("");
  /** Why the last save was refused: a trial that is still under way does not take it away. */
  let refused = $state("");
  let said = $state("");
  let dirty = $derived(JSON.stringify(policy) !== JSON.stringify(head.policy));
  let touched = $derived((effects ?? []).filter((job) => job.picks.length > 0));
  let graver = $derived(
    touched.filter((job) => job.after.verdict === "over" && job.before.verdict !== "over").length,
  );

  const quantities: Record<string, Quantity> = {
    piece_kg: "mass",
    throw_kg: "mass",
    push_kg: "mass",
    hand_kn: "force",
    clear_m: "height",
    run_m: "height",
  };
  const choices: Record<string, [string, string][]> = {
    school: [
      ["peak-within-working-load", "the peak within the working load"],
      [
        "static-within-working-load",
        "at rest within the working load, the peak within a share of the strength",
      ],
    ],
    weight_end: [
      ["heavy", "the heavy end"],
      ["likely", "the likely figure"],
    ],
  };
  const named = [
    ["Design factors, where nothing is marked", (p: string) => p.startsWith("design_factors.")],
    ["Shock", (p: string) => p === "school" || p === "peak_share_pct"],
    ["Weight and crane", (p: string) => p === "weight_end" || p === "chart_use_pct"],
    [
      "Pieces and people",
      (p: string) => ["piece_kg", "throw_kg", "push_kg", "hand_kn", "clear_m", "run_m"].includes(p),
    ],
    ["Felling", (p: string) => ["fell_margin", "aim_deg", "circle_lengths"].includes(p)],
    ["Minutes a pick takes", (p: string) => p.startsWith("minutes.")],
    ["Verdicts", (p: string) => p === "wood_factor" || p === "close_from_pct"],
  ] as const;
  // A rule that has no place of its own is a rule all the same.
  const groups = [
    named[0],
    [
      "What marked and used gear is held to",
      (p: string) => named.every(([, holds]) => !holds(p)),
    ] as const,
    ...named.slice(1),
  ];

  type Branch = Record<string, unknown>;
  const own = (path: string): unknown =>
    path.split(".").reduce<unknown>((at, key) => (at as Branch | undefined)?.[key], policy);

  function set(path: string, value: unknown) {
    const next = structuredClone(policy);
    const way = path.split(".");
    const name = way.pop() as string;
    let branch = next as unknown as Branch;
    for (const key of way) branch = (branch[key] ??= {}) as Branch;
    if (value === undefined) Reflect.deleteProperty(branch, name);
    else branch[name] = value;
    policy = next;
    said = refused = "";
    void attempt();
  }

  let turn = 0;
  /** Asks what the rules as they stand here would do to the open jobs. */
  async function attempt() {
    const mine = ++turn;
    stopped = false;
    try {
      let list: JobEffect[] = [];
      let [after, done]: [string, number] = ["", 0];
      do {
        const answer = await api.POST("/api/policy/try", {
          params: { query: { units: preferences.units, ...(after && { after }) } },
          body: policy,
        });
        if (mine !== turn) return;
        faults = answer.data ? [] : faultsOf(answer.error);
        trouble = answer.data || faults.length ? "" : explain(answer.error);
        if (!answer.data) break;
        list = [...list, ...answer.data.jobs];
        done += answer.data.tried;
        after = answer.data.next;
        tried = after ? { done, of: answer.data.total } : null;
        effects = list;
      } while (after);
    } catch {
      if (mine === turn) trouble = explain(null);
    }
    if (mine === turn) tried = null;
  }

  /** Leaves the trial as far as it has come. */
  function stop() {
    turn++;
    tried = null;
    stopped = true;
  }

  async function save() {
    refused = "";
    if (!(await allRead())) return;
    try {
      const answer = await api.PUT("/api/policy", {
        params: { header: { "If-Match": `"${head.number}"` } },
        body: policy,
      });
      if (answer.data) {
        head = answer.data;
        policy = answer.data.policy;
        said = "Saved: every job counts by these rules now.";
        void attempt();
      } else {
        faults = faultsOf(answer.error);
        if (!faults.length) refused = explain(answer.error);
      }
    } catch {
      refused = explain(null);
    }
  }

  $effect(() => {
    void preferences.units;
    untrack(() => void attempt());
  });

  const fault = (path: string) =>
    faults
      .filter((one) => one.location === `body.${path}`)
      .map(say)
      .join(" ");
  const figureOf = (rule: Rule) =>
    (own(rule.path) ?? rule.default ?? undefined) as number | undefined;
  /** A rule's value as a crew reads it. */
  function worded(path: string, value: unknown): string {
    const rule = head.rules.find((one) => one.path === path);
    const it = value ?? rule?.default ?? rule?.choice ?? null;
    const end = value === null ? ", the default" : "";
    if (it === null || it === "") return "none";
    if (typeof it === "string") return (choices[path]?.find(([id]) => id === it)?.[1] ?? it) + end;
    const quantity = quantities[path];
    const figure = it as number;
    return (
      (quantity ? print(quantity, figure) : `${figure}${path.endsWith("_pct") ? " %" : ""}`) + end
    );
  }
  const pct = (use: number | null) => (use === null ? "–" : `${use.toFixed(0)} %`);
</script>

<svelte:head><title>Policy · Elk Stay</title></svelte:head>

<div
  class="flex h-dvh flex-col overflow-hidden max-lg:h-auto max-lg:min-h-dvh max-lg:overflow-visible"
>
  <Topbar><Nav /></Topbar>
  <div class="grid min-h-0 grow lg:grid-cols-[minmax(0,1fr)_26rem]">
    <main class="relative min-h-0 overflow-y-auto p-4 pb-24 sm:p-8">
      <h1 class="text-3xl font-bold tracking-tight">The crew’s policy</h1>
      <p class="mt-2 max-w-2xl faint">
        The rules that every job is held to, unless the job says otherwise. Local codes, the makers’
        instructions and a competent person on site come first.
      </p>
      {#each groups as [title, fits] (title)}
        <section class="mt-7">
          <h2 class="border-b border-base-300 pb-1 text-lg font-bold">{title}</h2>
          {#each head.rules.filter((rule) => fits(rule.path)) as rule (rule.path)}
            {@const given = own(rule.path) !== undefined}
            <div
              class="grid gap-x-6 gap-y-1 border-b border-base-300 py-3 md:grid-cols-[19rem_minmax(0,1fr)]"
              data-rule={rule.path}
            >
              <div>
                {#if choices[rule.path]}
                  <Choice
                    label={rule.title}
                    value={(own(rule.path) as string | undefined) ?? rule.choice}
                    options={choices[rule.path] ?? []}
                    onchoose={(v) => set(rule.path, v === rule.choice ? undefined : v)}
                  />
                {:else}
                  <Figure
                    label={rule.path.endsWith("_pct") ? `${rule.title}, %` : rule.title}
                    quantity={quantities[rule.path] ?? "number"}
                    value={figureOf(rule)}
                    hint="none set"
                    fault={fault(rule.path)}
                    onchange={(v) => set(rule.path, v)}
                  />
                {/if}
              </div>
              <p class="self-end text-sm leading-snug">
                {rule.reason}
                <span class="faint">
                  Source: {rule.source}.
                  {#if given}
                    <button
                      class="cursor-pointer underline"
                      onclick={() => set(rule.path, undefined)}
                      >Back to the default{rule.default === null ? "" : `, ${rule.default}`}</button
                    >
                  {:else}This is the default.{/if}
                </span>
              </p>
            </div>
          {/each}
        </section>
      {/each}
      <PolicyHistory
        newest={head.number}
        say={worded}
        ontakeback={(path, was) => set(path, was ?? undefined)}
      />
    </main>
    <aside
      class="relative flex min-h-0 flex-col border-base-300 max-lg:border-t lg:border-l"
      aria-label="What it does to the open jobs"
    >
      <div class="relative min-h-0 grow overflow-y-auto p-4">
        <h2 class="text-xl font-bold">What it does to the open jobs</h2>
        {#if refused || trouble}
          <p role="alert" class="mt-3 border-l-4 border-error pl-3 text-error">
            {refused || trouble}
          </p>
        {/if}
        {#if tried}
          <div class="mt-3 flex items-center gap-3" role="status">
            <progress class="progress w-full" value={tried.done} max={tried.of}></progress>
            <span class="shrink-0 text-sm">{tried.done} of {tried.of} jobs</span>
            <button class="btn touch btn-outline" onclick={stop}>Stop</button>
          </div>
        {:else if stopped}
          <p class="mt-3 border-l-4 border-warning pl-3 font-semibold">
            Stopped: not all open jobs were tried.
            <button class="link" onclick={() => attempt()}>Try them all</button>
          </p>
        {/if}
        {#if !effects}
          <p class="mt-3 faint">Working it out</p>
        {:else if !dirty}
          <p class="mt-3 faint">
            Change a rule, and it stands here what that does, before you save it.
          </p>
        {:else if touched.length === 0}
          <p class="mt-3 font-semibold" role="status">
            Nothing on any of the {effects.length} open jobs.
          </p>
        {:else}
          <p class="mt-3 text-lg font-semibold" role="status">
            {touched.length} of {effects.length} open jobs change{graver
              ? `; ${graver} would pass a limit`
              : ""}.
          </p>
        {/if}
        {#each effects ?? [] as job (job.id)}
          <article class="mt-4 border-t border-base-300 pt-3" data-job={job.id}>
            <h3>
              <a class="font-bold hover:underline" href={resolve("/job/[id]", { id: job.id })}
                >{job.name}</a
              >
            </h3>
            <p class="mt-1 flex flex-wrap items-center gap-2 text-lg font-semibold">
              <Mark verdict={job.before.verdict} size={20} />{job.before.verdict}
              {pct(job.before.use_pct)}
              {#if dirty && job.picks.length}
                <span aria-label="becomes">→</span>
                <Mark verdict={job.after.verdict} size={20} />{job.after.verdict}
                {pct(job.after.use_pct)}
              {/if}
            </p>
            <p class="text-sm faint">{dirty ? job.after.nearest : job.before.nearest}</p>
            {#if dirty}
              <ul class="mt-1 text-sm">
                {#each job.picks
                  .filter((p) => p.before !== p.after)
                  .slice(0, 8) as pick (pick.number)}
                  <li class="flex items-baseline gap-2 py-0.5">
                    <b class="w-6 text-right">{pick.number}</b>
                    <span class="min-w-0 grow truncate">{pick.title}</span>
                    <span class="whitespace-nowrap"
                      >{pick.before} → <b>{pick.after}</b> {pct(pick.to_pct)}</span
                    >
                  </li>
                {/each}
              </ul>
              {#if job.picks.length && !job.picks.some((p) => p.before !== p.after)}
                <p class="text-sm faint">
                  {job.picks.length} picks move nearer to a limit or away; no verdict changes.
                </p>
              {/if}
            {/if}
          </article>
        {/each}
      </div>
      <div
        class="sticky bottom-0 flex shrink-0 items-center gap-2 border-t border-base-300 bg-base-100 p-3"
      >
        <button
          class="btn touch grow btn-primary"
          disabled={!dirty || faults.length > 0}
          onclick={save}>Save the policy</button
        >
        {#if dirty}
          <button
            class="btn touch btn-outline"
            onclick={() => {
              policy = head.policy;
              faults = [];
              void attempt();
            }}>Discard</button
          >
        {:else if said}<p role="status" class="text-sm font-semibold">{said}</p>{/if}
      </div>
    </aside>
  </div>
</div>
