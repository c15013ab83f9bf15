<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import Download from "@lucide/svelte/icons/download";
  import Redo from "@lucide/svelte/icons/redo-2";
  import Undo from "@lucide/svelte/icons/undo-2";
  import { api, type Assessment, type JobHead } from "./api/client";
  import Elevation from "./draw/Elevation.svelte";
  import Controls from "./fields/Controls.svelte";
  import Measure from "./fields/Measure.svelte";
  import Ladder from "./ladder/Ladder.svelte";
  import Mark from "./ladder/Mark.svelte";
  import Glance from "./Glance.svelte";
  import Keys from "./Keys.svelte";
  import { preferences } from "./preferences.svelte";
  import { print } from "./reference.svelte";
  import Conflict from "./session/Conflict.svelte";
  import SaveMark from "./session/SaveMark.svelte";
  import { Session } from "./session/session.svelte";
  import Topbar from "./Topbar.svelte";

  let { head }: { head: JobHead } = $props();

  const session = untrack(() => new Session(head));
  onDestroy(() => session.close());

  let assessment = $derived<Assessment | null>(session.assessment);
  let piece = $derived(assessment?.piece);
  let said = $state("");
  let view = $state<"piece" | "loads" | "set">("piece");
  let keys = $state(false);

  // Asked at first, and again when the units of its sentences change.
  $effect(() => {
    void preferences.units;
    untrack(() => void session.assess());
  });

  async function longest() {
    said = "";
    try {
      const { data } = await api.POST("/api/longest", {
        params: { query: { units: preferences.units } },
        body: session.job,
      });
      if (!data) return;
      said = data.reason;
      const at = data.at_m;
      if (data.found && at !== null) {
        await session.change((job) => {
          job.cut.at_m = at;
        });
      }
    } catch {
      said = "The server does not answer.";
    }
  }

  function rename(name: string) {
    const title = name.trim();
    if (title && title !== session.job.name) {
      void session.change((job) => {
        job.name = title;
      });
    }
  }

  function onkeydown(event: KeyboardEvent) {
    const typing =
      event.target instanceof HTMLElement && event.target.matches("input, select, textarea");
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "z" && !typing) {
      event.preventDefault();
      if (event.shiftKey) session.redo();
      else session.undo();
    } else if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "y" && !typing) {
      event.preventDefault();
      session.redo();
    } else if (!typing && !event.ctrlKey && !event.metaKey && !event.altKey) {
      if (event.key === "?") keys = !keys;
      else if (event.key === "l") void longest();
      else if (event.key === "c") document.querySelector<HTMLElement>("[role=slider]")?.focus();
      else if (event.key === "Escape") keys = false;
    }
  }

  const views = [
    { id: "piece", title: "Piece" },
    { id: "loads", title: "Loads" },
    { id: "set", title: "Settings" },
  ] as const;
</script>

<svelte:head><title>{session.job.name} · Elk Stay</title></svelte:head>
<svelte:window {onkeydown} onbeforeunload={() => session.release()} />

<div class="flex h-dvh flex-col overflow-hidden">
  <Topbar>
    <input
      class="input touch w-full max-w-72 min-w-0 input-ghost px-2 text-lg font-semibold text-ellipsis"
      aria-label="Name of the job"
      maxlength="120"
      value={session.job.name}
      onchange={(e) => rename(e.currentTarget.value)}
    />
    <SaveMark saver={session.saver} />
    <span class="grow"></span>
    <button
      class="btn touch btn-ghost px-2"
      aria-label="Undo"
      title="Undo"
      disabled={!session.canUndo}
      onclick={() => session.undo()}
    >
      <Undo size={20} />
    </button>
    <button
      class="btn touch btn-ghost px-2 max-sm:hidden"
      aria-label="Redo"
      title="Redo"
      disabled={!session.canRedo}
      onclick={() => session.redo()}
    >
      <Redo size={20} />
    </button>
    <a
      class="btn touch btn-ghost px-2 max-sm:hidden"
      href={`/api/jobs/${head.id}/file`}
      download
      rel="external"
      aria-label="Download this job"
      title="Download as a file"
    >
      <Download size={20} />
    </a>
    <button
      class="btn touch btn-ghost px-2 text-lg font-bold max-sm:hidden"
      aria-label="Keys"
      title="Keys"
      aria-expanded={keys}
      onclick={() => (keys = !keys)}>?</button
    >
  </Topbar>
  <Conflict saver={session.saver} />
  {#if keys}<Keys />{/if}

  {#if assessment}
    <div
      class="flex shrink-0 items-center gap-3 border-b border-base-300 bg-base-200 px-4 py-2"
      aria-live="polite"
    >
      <Mark verdict={assessment.verdict} size={26} />
      <p class="text-base leading-tight font-semibold sm:text-lg" data-testid="state">
        {assessment.state}
      </p>
      {#if session.behind}
        <p class="ml-auto shrink-0 text-sm font-semibold text-error">
          Figures are behind: no answer
        </p>
      {/if}
    </div>

    <div class="grid min-h-0 grow lg:grid-cols-[348px_minmax(0,1fr)_364px]">
      <div
        class={["min-h-0 border-base-300 lg:block lg:border-r", view !== "set" && "max-lg:hidden"]}
      >
        <Controls {session} />
      </div>

      <main class={["flex min-h-0 flex-col lg:flex", view !== "piece" && "max-lg:hidden"]}>
        {#if assessment.stem.length > 1}
          {#if piece}<Glance {assessment} {piece} />{/if}
          <div class="grid min-h-0 grow grid-cols-[2fr_3fr]">
            <div class="min-h-0 border-r border-base-300">
              <Elevation {session} {assessment} view="whole" />
            </div>
            <div class="relative min-h-0">
              <Elevation {session} {assessment} view="close" />
              {#if piece}
                <div
                  class="pointer-events-none absolute top-1.5 right-3 text-right max-sm:hidden"
                  data-testid="weight"
                >
                  <div class="text-4xl leading-none font-bold">
                    {print("mass", piece.mass_kg.likely)}
                  </div>
                  <div class="mt-0.5 text-base font-semibold">
                    {print("mass", piece.mass_kg.low)} to {print("mass", piece.mass_kg.high)}
                  </div>
                </div>
              {/if}
            </div>
          </div>
          <div class="shrink-0 border-t border-base-300 px-3 py-2">
            <div class="flex flex-wrap items-end gap-2">
              <div class="w-44">
                <Measure
                  {session}
                  path="cut.at_m"
                  label="Cut at height"
                  quantity="height"
                  value={assessment.settings.cut_at_m}
                  step={0.1}
                />
              </div>
              <button class="btn touch grow px-3 btn-primary sm:grow-0" onclick={longest}
                >Longest piece within the limits</button
              >
              <p role="status" class="min-w-40 flex-1 text-sm leading-snug faint">{said}</p>
            </div>
          </div>
        {:else}
          <div class="flex grow items-center justify-center p-8">
            <div class="max-w-sm">
              <h2 class="text-2xl font-bold">First, the tree</h2>
              <ol class="mt-3 list-decimal space-y-1 pl-5 text-lg">
                {#each assessment.missing as missing (missing.location)}<li>
                    {missing.ask}
                  </li>{/each}
              </ol>
              {#each assessment.faults as fault (fault.location + fault.message)}
                <p class="mt-3 text-error">{fault.message}. Allowed: {fault.allowed}.</p>
              {/each}
              <button class="btn mt-5 touch btn-primary lg:hidden" onclick={() => (view = "set")}
                >Enter the readings</button
              >
            </div>
          </div>
        {/if}
      </main>

      <aside
        class={[
          "min-h-0 overflow-y-auto border-base-300 lg:block lg:border-l",
          view !== "loads" && "max-lg:hidden",
        ]}
      >
        <Ladder {assessment} />
      </aside>
    </div>

    <nav
      class="grid shrink-0 grid-cols-3 border-t border-base-300 pb-[env(safe-area-inset-bottom)] lg:hidden"
      aria-label="Views"
    >
      {#each views as v (v.id)}
        <button
          class={[
            "h-14 cursor-pointer border-t-4 text-base font-semibold",
            view === v.id ? "border-primary" : "border-transparent faint",
          ]}
          aria-current={view === v.id ? "page" : undefined}
          onclick={() => (view = v.id)}>{v.title}</button
        >
      {/each}
    </nav>
  {:else}
    <p class="p-8 faint">
      {session.behind ? "The core does not answer yet: trying again." : "Working it out"}
    </p>
  {/if}
</div>
