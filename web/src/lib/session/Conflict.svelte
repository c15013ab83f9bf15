<script lang="ts">
  import type { Assessment, Conflict as Both, Job } from "../api/client";
  import { core } from "../core/core.svelte";
  import { preferences } from "../preferences.svelte";
  import { quantityOf } from "../quantity";
  import { print } from "../reference.svelte";
  import { when } from "../when";
  import type { Session } from "./session.svelte";

  let { session }: { session: Session } = $props();
  let saver = $derived(session.saver);
  /** The document as it is here. */
  let mine = $derived<Job>(session.job);
  let copied = $state("");

  async function both() {
    const id = await saver.keepBoth();
    copied = id ? "Yours is kept as a job of its own." : "That did not work: yours is still here.";
  }

  // What each side comes to, worked out once when the question is asked.
  let figures = $state.raw<{ mine: Assessment; theirs: Assessment } | null>(null);
  $effect(() => {
    const theirs = saver.state === "stale" ? saver.theirs?.job : undefined;
    const units = preferences.units;
    figures = null;
    if (!theirs) return;
    let left = false;
    void Promise.all([core.assess(mine, units, ""), core.assess(theirs, units, "")])
      .then(([a, b]) => {
        if (!left && a.data && b.data) figures = { mine: a.data, theirs: b.data };
      })
      .catch(() => undefined);
    return () => (left = true);
  });

  /** One side's value, in the reader's units. */
  function said(path: string, text: string): string {
    if (text === "") return "taken away";
    const name = path.slice(path.lastIndexOf(".") + 1);
    const value: unknown = JSON.parse(text);
    const unit = /_(kg|kn|m|deg|pct)$/.exec(name)?.[1] ?? "";
    const quantity = quantityOf(path, unit === "kn" ? "kN" : unit);
    if (typeof value === "number") {
      if (quantity) return print(quantity, value);
      return `${value}${unit === "deg" ? "°" : unit === "pct" ? " %" : ""}`;
    }
    if (typeof value === "boolean") return value ? "yes" : "no";
    if (typeof value === "string") return `“${value}”`;
    if (Array.isArray(value) && value.every((one) => typeof one === "string")) {
      return value.join(", ");
    }
    // What wood a pick takes is one part: all of it is said.
    if (value && typeof value === "object" && path.endsWith(".wood")) {
      return Object.entries(value)
        .map(([field, one]) => said(`${path}.${field}`, JSON.stringify(one)))
        .join(", ");
    }
    return "changed";
  }

  /** What a pick comes to on one side. */
  function comes(assessment: Assessment, id: string): string {
    const one = assessment.picks.find((p) => p.id === id);
    if (!one) return "not in the order";
    const parts = [
      one.mass_kg && print("mass", one.mass_kg.likely),
      one.peak_kn !== null && `line ${print("force", one.peak_kn)}`,
      one.nearest && `${one.nearest.part} ${one.nearest.use_pct.toFixed(0)} %`,
      one.verdict,
    ];
    return parts.filter(Boolean).join(", ");
  }

  const pickOf = (conflict: Both) => /^picks\[([^\]]+)\]/.exec(conflict.path)?.[1] ?? "";
  function titled(conflict: Both): string {
    const id = pickOf(conflict);
    const one = figures?.mine.picks.find((p) => p.id === id);
    if (!one) return conflict.title;
    const field = conflict.path.includes("].") ? `, ${conflict.title.split(", ").at(-1)}` : "";
    return `Pick ${one.number}, ${one.title}${field}`;
  }
</script>

{#if saver.state === "stale" && saver.theirs}
  <div
    role="alert"
    class="max-h-[60dvh] overflow-y-auto border-b-2 border-error bg-base-200 px-4 py-2"
  >
    <div class="flex flex-wrap items-center gap-2">
      <p class="mr-auto">
        <b>Both sides changed the same, {when(saver.theirs.saved_at)}</b> (saved elsewhere as
        revision {saver.theirs.revision}). All else is brought together. Yours is still here and is
        not lost.
      </p>
      <button class="btn touch btn-primary" onclick={() => void saver.keepMine()}>Keep mine</button>
      <button class="btn touch btn-outline" onclick={() => void saver.takeTheirs()}
        >Take theirs</button
      >
      <button class="btn touch btn-outline" onclick={both}>Keep both</button>
    </div>
    {#if saver.conflicts.length}
      <table class="mt-1 text-base" data-testid="conflicts">
        <thead class="text-left text-sm faint"
          ><tr
            ><th class="pr-6 font-medium">What</th><th class="pr-6 font-medium">Mine</th><th
              class="font-medium">Theirs</th
            ></tr
          ></thead
        >
        <tbody>
          {#each saver.conflicts as conflict (conflict.path)}
            {@const id = pickOf(conflict)}
            <tr class="align-top">
              <td class="pr-6">{titled(conflict)}</td>
              <td class="pr-6"
                ><b>{said(conflict.path, conflict.mine)}</b>{#if id && figures}<span
                    class="block text-sm">{comes(figures.mine, id)}</span
                  >{/if}</td
              >
              <td
                ><b>{said(conflict.path, conflict.theirs)}</b>{#if id && figures}<span
                    class="block text-sm">{comes(figures.theirs, id)}</span
                  >{/if}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    {:else}
      <p>The whole job.</p>
    {/if}
  </div>
{:else if saver.follows}
  <div role="status" class="flex items-center gap-3 border-b bg-base-200 px-4 py-2">
    <p class="mr-auto">
      <b>This job is in hand in another tab of this device.</b> What is changed there is seen here.
    </p>
    <button class="btn touch btn-primary" onclick={() => saver.takeOver()}>Change it here</button>
  </div>
{:else if session.contest}
  <div role="alert" class="border-b-2 border-error bg-base-200 px-4 py-2">
    <div class="flex flex-wrap items-center gap-2">
      <p class="mr-auto">
        <b>Stepped back but for what was changed elsewhere since.</b> That is as it stands there.
      </p>
      <button class="btn touch btn-primary" onclick={() => session.leaveIt()}>Leave it</button>
      <button class="btn touch btn-outline" onclick={() => void session.stepAllTheSame()}
        >Step it back too</button
      >
    </div>
    <table class="mt-1 text-base" data-testid="contest">
      <thead class="text-left text-sm faint"
        ><tr
          ><th class="pr-6 font-medium">What</th><th class="pr-6 font-medium">Stands</th><th
            class="font-medium">Stepped back</th
          ></tr
        ></thead
      >
      <tbody>
        {#each session.contest.conflicts as conflict (conflict.path)}
          <tr class="align-top">
            <td class="pr-6">{titled(conflict)}</td>
            <td class="pr-6"><b>{said(conflict.path, conflict.theirs)}</b></td>
            <td>{said(conflict.path, conflict.mine)}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
{:else if session.taken}
  <p role="alert" class="border-b-2 border-error bg-base-200 px-4 py-2">
    <b>What you had in hand was changed elsewhere meanwhile.</b> It is as it stands there.
  </p>
{:else if saver.state === "refused"}
  <p role="alert" class="border-b-2 border-error bg-base-200 px-4 py-2">
    <b>Not saved.</b>
    {saver.reason}
  </p>
{:else if saver.state === "gone"}
  <div role="alert" class="flex items-center gap-3 border-b-2 border-error bg-base-200 px-4 py-2">
    <p class="mr-auto"><b>This job was deleted elsewhere.</b> What you have here is kept.</p>
    <button class="btn touch btn-primary" onclick={() => saver.restore()}>Bring it back</button>
  </div>
{:else if copied}
  <p role="status" class="border-b bg-base-200 px-4 py-2">{copied}</p>
{/if}
