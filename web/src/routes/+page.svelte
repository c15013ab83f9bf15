<script lang="ts">
  import { goto, invalidateAll } from "$app/navigation";
  import { resolve } from "$app/paths";
  import Icon from "$lib/Icon.svelte";
  import Upload from "lucide-static/icons/upload.svg?raw";
  import {
    api,
    explain,
    newId,
    sentences,
    type Brought,
    type Job,
    type JobRow,
  } from "$lib/api/client";
  import { known } from "$lib/reference.svelte";
  import Choice from "$lib/fields/Choice.svelte";
  import Came from "$lib/jobs/Came.svelte";
  import { takeArchive } from "$lib/jobs/archive";
  import GuessTree from "$lib/jobs/GuessTree.svelte";
  import JobActions from "$lib/jobs/JobActions.svelte";
  import JobCard from "$lib/jobs/JobCard.svelte";
  import Leftovers from "$lib/session/Leftovers.svelte";
  import Nav from "$lib/Nav.svelte";
  import Topbar from "$lib/Topbar.svelte";
  import { when } from "$lib/when";
  import type { PageProps } from "./$types";

  let { data }: PageProps = $props();
  let name = $state("");
  let trouble = $state<string[]>([]);
  let deleted = $state<JobRow | null>(null);
  let renaming = $state<string | null>(null);
  let newName = $state("");
  let busy = $state(false);
  /** The file of an archive on its way, and what one brought. */
  let coming = $state("");
  let came = $state.raw<Brought | null>(null);
  /** The pages after the first, of the list as it is now. */
  let further = $state.raw<{ of: typeof data.list; jobs: JobRow[]; next: string } | null>(null);
  let jobs = $derived([
    ...(data.list?.jobs ?? []),
    ...(further && further.of === data.list ? further.jobs : []),
  ]);
  let next = $derived(further && further.of === data.list ? further.next : (data.list?.next ?? ""));

  /** Reads on where the list ended. */
  async function readOn() {
    const of = data.list;
    const answer = await api
      .GET("/api/jobs", {
        params: {
          query: {
            after: next,
            ...(data.search && { search: data.search }),
            ...(data.deleted && { deleted: true }),
            ...(data.sort !== "saved" && { sort: data.sort }),
          },
        },
      })
      .catch(() => null);
    if (!answer?.data) trouble = [explain(answer?.error ?? null)];
    else if (of === data.list) {
      const before = further?.of === of ? further.jobs : [];
      further = { of, jobs: [...before, ...answer.data.jobs], next: answer.data.next };
    }
  }

  let typing: ReturnType<typeof setTimeout> | undefined;
  /** Shows what is searched for, or the bin; the address says which. */
  function look(search: string, bin: boolean, sort: string = data.sort) {
    clearTimeout(typing);
    typing = setTimeout(() => {
      const asked = [
        search && `search=${encodeURIComponent(search)}`,
        bin && "bin",
        sort !== "saved" && `sort=${sort}`,
      ]
        .filter(Boolean)
        .join("&");
      void goto(resolve(asked ? `/?${asked}` : "/"), {
        keepFocus: true,
        replaceState: true,
        noScroll: true,
      });
    }, 200);
  }

  const species = (id: string) =>
    known.get().species.find((s) => s.id === id)?.common_name ?? "no species yet";

  /** Runs one action at a time and says what went wrong. */
  async function act(work: () => Promise<{ error?: unknown } | undefined>) {
    if (busy) return;
    busy = true;
    trouble = [];
    try {
      const answer = await work();
      if (answer?.error) trouble = sentences(answer.error);
    } catch {
      trouble = [explain(null)];
    } finally {
      busy = false;
    }
    await invalidateAll();
  }

  async function create(job: Job, open: boolean) {
    await act(async () => {
      const made = await api.POST("/api/jobs", {
        params: { header: { "Idempotency-Key": newId() } },
        body: job,
      });
      if (made.data && open) await goto(resolve("/job/[id]", { id: made.data.id }));
      return made;
    });
  }

  function createEmpty(event: SubmitEvent) {
    event.preventDefault();
    const title = name.trim();
    if (!title) {
      trouble = ["Give the new job a name first."];
      return;
    }
    void create({ ...known.get().empty_job, name: title }, true);
  }

  async function upload(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const file = input.files?.[0];
    input.value = "";
    if (!file) return;
    if (/\.zip$/i.test(file.name)) {
      came = null;
      coming = file.name;
      await act(async () => {
        const taken = await takeArchive(file);
        came = taken.data ?? null;
        return taken;
      });
      coming = "";
      return;
    }
    if (file.size > 2_000_000) {
      trouble = [`${file.name} is ${Math.round(file.size / 1e6)} MB; a job file has at most 2 MB.`];
      return;
    }
    let job: Job;
    try {
      job = JSON.parse(await file.text()) as Job;
    } catch {
      trouble = [`${file.name} is no readable JSON: nothing was changed.`];
      return;
    }
    await create(job, false);
  }

  async function rename(job: JobRow) {
    const title = newName.trim();
    renaming = null;
    if (!title || title === job.name) return;
    await act(async () => {
      const current = await api.GET("/api/jobs/{id}", { params: { path: { id: job.id } } });
      if (!current.data) return current;
      return api.PUT("/api/jobs/{id}", {
        params: {
          path: { id: job.id },
          header: { "If-Match": `"${current.data.revision}"`, "Idempotency-Key": newId() },
        },
        body: { ...current.data.job, name: title },
      });
    });
  }

  const copy = (job: JobRow) =>
    act(() => api.POST("/api/jobs/{id}/copy", { params: { path: { id: job.id } } }));

  /** The sample jobs, each as it began. */
  const samples = [
    [1, "a tree in pieces"],
    [2, "one with a crane"],
    [3, "three to pull over"],
  ] as const;
  const addSample = (which: number) =>
    act(async () => {
      const made = await api.POST("/api/samples", { params: { query: { which } } });
      if (made.data) await goto(resolve("/job/[id]", { id: made.data.id }));
      return made;
    });

  const remove = (job: JobRow) =>
    act(async () => {
      const answer = await api.DELETE("/api/jobs/{id}", { params: { path: { id: job.id } } });
      if (!answer.error) deleted = job;
      return answer;
    });

  const bringBack = (job: JobRow) =>
    act(async () => {
      const answer = await api.POST("/api/jobs/{id}/restore", { params: { path: { id: job.id } } });
      if (!answer.error) deleted = null;
      return answer;
    });
</script>

<svelte:head><title>Jobs · Elk Stay</title></svelte:head>

<div class="flex min-h-dvh flex-col">
  <Topbar><Nav /></Topbar>
  <main class="mx-auto w-full max-w-4xl grow p-4 pb-24 sm:p-8">
    <h1 class="text-3xl font-bold tracking-tight">{data.deleted ? "Deleted jobs" : "Jobs"}</h1>

    {#if !data.deleted}
      <form class="mt-5 flex flex-wrap gap-2" onsubmit={createEmpty}>
        <label class="input touch grow basis-64">
          <span class="sr-only">Name of the new job</span>
          <input bind:value={name} maxlength="120" placeholder="Name of a new job" />
        </label>
        <button class="btn touch btn-primary" disabled={busy}>Start a job</button>
        <label class="btn touch btn-outline focus-within:outline-3 focus-within:outline-primary">
          <Icon of={Upload} size={18} /> Upload a job file
          <input
            type="file"
            accept=".json,.zip,application/json,application/zip"
            class="sr-only"
            onchange={upload}
          />
        </label>
      </form>
      <GuessTree {busy} oncreate={(job) => void create(job, true)} />
    {/if}

    <Leftovers />
    {#if coming}<p role="status" class="mt-4">Taking in {coming}</p>{/if}
    {#if came}<Came {came} onclose={() => (came = null)} />{/if}

    {#if trouble.length}
      <div role="alert" class="mt-4 border-l-4 border-error py-1 pl-3 text-error">
        {#each trouble as line, at (at)}<p>{line}</p>{/each}
      </div>
    {/if}

    {#if data.list && (data.list.total > 1 || data.search || data.deleted)}
      <div class="mt-4 flex flex-wrap items-center gap-2">
        <label class="input touch grow basis-52">
          <span class="sr-only">Search the jobs</span>
          <input
            type="search"
            placeholder="Search by name"
            maxlength="120"
            value={data.search}
            oninput={(e) => look(e.currentTarget.value.trim(), data.deleted)}
          />
        </label>
        {#if !data.deleted}
          <Choice
            label="Sorted"
            bare
            value={data.sort}
            options={[
              ["saved", "last saved first"],
              ["name", "by name"],
              ["day", "by day of work"],
            ]}
            onchoose={(sort) => look(data.search, false, sort)}
          />
        {/if}
        <p class="faint" role="status">
          {data.list.total.toLocaleString("en")}
          {data.deleted ? "deleted" : data.list.total === 1 ? "job" : "jobs"}
        </p>
      </div>
    {/if}

    {#if data.list === null}
      <div role="alert" class="mt-6 border-l-4 border-error py-2 pl-3">
        <p class="font-semibold text-error">The server does not answer.</p>
        <button class="btn mt-3 touch btn-outline" onclick={() => invalidateAll()}>Try again</button
        >
      </div>
    {:else if jobs.length === 0 && (data.search || data.deleted)}
      <p class="mt-10 text-lg faint">
        {data.search
          ? `No ${data.deleted ? "deleted job" : "job"} has that in its name.`
          : "The bin is empty."}
      </p>
    {:else if jobs.length === 0}
      <p class="mt-10 text-lg faint">
        No jobs yet. Say above what tree it is, in a sentence, and there is one to weigh; or name a
        job and measure: species, three tape readings and a height.
      </p>
    {:else}
      <ul class="mt-6 border-t border-base-300" aria-label="Jobs">
        {#each jobs as job (job.id)}
          <li class="flex flex-wrap items-center gap-x-2 border-b border-base-300 py-2">
            {#if data.deleted}
              <p class="min-w-0 grow basis-60 py-2">
                <span class="block truncate text-xl font-semibold">{job.name}</span>
                <span class="text-sm faint">
                  {species(job.species)} · revision {job.revision} · deleted {when(
                    job.deleted_at ?? job.saved_at,
                  )}
                </span>
              </p>
            {:else if renaming === job.id}
              <form
                class="flex min-w-0 grow basis-60 gap-2 py-1"
                onsubmit={(e) => {
                  e.preventDefault();
                  void rename(job);
                }}
              >
                <!-- svelte-ignore a11y_autofocus -->
                <input
                  class="input touch grow"
                  aria-label="New name"
                  maxlength="120"
                  autofocus
                  bind:value={newName}
                  onkeydown={(e) => e.key === "Escape" && (renaming = null)}
                />
                <button class="btn touch btn-primary">Rename</button>
              </form>
            {:else}
              <JobCard row={job} />
            {/if}
            {#if data.deleted}
              <button class="btn touch btn-outline" onclick={() => bringBack(job)}
                >Bring back</button
              >
            {:else}
              <JobActions
                {job}
                onrename={() => {
                  renaming = job.id;
                  newName = job.name;
                }}
                oncopy={() => copy(job)}
                onremove={() => remove(job)}
              />
            {/if}
          </li>
        {/each}
      </ul>
      {#if next}
        <button class="btn mt-4 touch w-full btn-outline" onclick={readOn}
          >More: {(data.list.total - jobs.length).toLocaleString("en")}{data.sort === "saved"
            ? " older"
            : ""}</button
        >
      {/if}
    {/if}
    {#if data.list && !data.deleted && !data.search}
      <p class="mt-6 flex flex-wrap items-center gap-2">
        <span class="faint">A sample to look at:</span>
        {#each samples as [which, title] (which)}
          <button class="btn touch btn-outline" disabled={busy} onclick={() => addSample(which)}
            >{title}</button
          >
        {/each}
      </p>
    {/if}
    {#if data.list}
      <p class="mt-6">
        {#if data.deleted}
          <button class="link" onclick={() => look(data.search, false)}>Back to the jobs</button>
        {:else}
          <button class="link faint" onclick={() => look(data.search, true)}>Deleted jobs</button>
          <a class="ml-4 link faint" href={resolve("/words")}>Words</a>
          <a class="ml-4 link faint" href="/notices.txt" rel="external">Licences</a>
        {/if}
      </p>
    {/if}
  </main>

  {#if deleted}
    {@const gone = deleted}
    <div
      role="status"
      class="fixed inset-x-0 bottom-0 flex items-center justify-center gap-4 bg-neutral p-3 text-neutral-content"
    >
      <span class="truncate">Deleted “{gone.name}”.</span>
      <button class="btn touch" onclick={() => bringBack(gone)}>Undo</button>
      <button class="btn touch btn-ghost" onclick={() => (deleted = null)}>Close</button>
    </div>
  {/if}
</div>
