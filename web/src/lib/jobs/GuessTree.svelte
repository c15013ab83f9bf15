<script lang="ts">
  import { explain, type Job } from "../api/client";
  import { core } from "../core/core.svelte";

  /** A whole tree from a sentence: something to weigh before anything is measured. */
  let { busy, oncreate }: { busy: boolean; oncreate: (job: Job) => void } = $props();

  type Outline = "" | "open" | "forest" | "leaning" | "forked" | "topped";
  let text = $state("");
  let outline = $state<Outline>("");
  let trouble = $state<string[]>([]);

  // Drawn as they grow: a stem, and a crown round it.
  const outlines: { id: Outline; title: string; stem: string; crown: string }[] = [
    {
      id: "open",
      title: "grown alone",
      stem: "M20 38V14",
      crown: "M20 4C8 4 3 14 5 22C7 30 33 30 35 22C37 14 32 4 20 4Z",
    },
    {
      id: "forest",
      title: "among others",
      stem: "M20 38V8",
      crown: "M20 2C13 2 11 9 12 15C13 19 27 19 28 15C29 9 27 2 20 2Z",
    },
    {
      id: "leaning",
      title: "leaning",
      stem: "M13 38L25 10",
      crown: "M28 2C20 2 17 10 20 16C23 20 35 18 36 12C37 6 33 2 28 2Z",
    },
    {
      id: "forked",
      title: "forked",
      stem: "M20 38V24L12 9M20 24L28 9",
      crown: "M12 2C6 2 4 12 9 17C15 20 25 20 31 17C36 12 34 2 28 2C24 2 22 6 20 9C18 6 16 2 12 2Z",
    },
    {
      id: "topped",
      title: "topped before",
      stem: "M20 38V17",
      crown: "M13 17V4M17 17V2M20 17V5M23 17V2M27 17V4M12 17H28",
    },
  ];

  async function make(event: SubmitEvent) {
    event.preventDefault();
    trouble = [];
    try {
      const reply = await core.question("guess-tree", { text, ...(outline && { outline }) }, {});
      if (reply.data) oncreate(reply.data.job);
      else trouble = reply.faults.map((f) => `${f.message}. Allowed: ${f.allowed}.`);
    } catch {
      trouble = [explain(null)];
    }
  }
</script>

<form
  class="mt-4 rounded border border-base-300 p-3"
  onsubmit={make}
  aria-label="A tree in a sentence"
>
  <div class="flex flex-wrap items-end gap-2">
    <label class="grow basis-64">
      <span class="mb-0.5 block font-semibold">Or begin with a whole tree, guessed</span>
      <input
        class="input touch w-full text-lg"
        bind:value={text}
        maxlength="200"
        placeholder="ash 19 m girth 6ft 4in"
        required
      />
    </label>
    <button class="btn touch btn-outline" disabled={busy}>Make the tree</button>
  </div>
  <div class="mt-2 grid grid-cols-5 gap-1" role="group" aria-label="How it grows">
    {#each outlines as one (one.id)}
      <button
        type="button"
        class={[
          "flex cursor-pointer flex-col items-center rounded border-2 px-1 py-1 text-xs leading-tight font-semibold sm:text-sm",
          outline === one.id ? "border-primary" : "border-transparent faint",
        ]}
        aria-pressed={outline === one.id}
        onclick={() => (outline = outline === one.id ? "" : one.id)}
      >
        <svg viewBox="0 0 40 40" class="size-12" aria-hidden="true">
          <path
            d={one.crown}
            class={one.id === "topped"
              ? "fill-none stroke-success"
              : "fill-success/30 stroke-success"}
            stroke-width="2"
          />
          <path d={one.stem} class="fill-none stroke-base-content" stroke-width="3" />
        </svg>
        {one.title}
      </button>
    {/each}
  </div>
  {#if trouble.length}
    <div role="alert" class="mt-2 border-l-4 border-error py-1 pl-3 text-error">
      {#each trouble as line, at (at)}<p>{line.charAt(0).toUpperCase() + line.slice(1)}</p>{/each}
    </div>
  {/if}
</form>
