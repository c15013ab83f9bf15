<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { resolve } from "$app/paths";
  import type { JobHead } from "$lib/api/client";
  import { core } from "$lib/core/core.svelte";
  import Elevation from "$lib/draw/Elevation.svelte";
  import Plan from "$lib/draw/Plan.svelte";
  import Limbs from "$lib/fields/Limbs.svelte";
  import { preferences } from "$lib/preferences.svelte";
  import Conflict from "$lib/session/Conflict.svelte";
  import SaveMark from "$lib/session/SaveMark.svelte";
  import { page } from "$lib/session/page";
  import { Session } from "$lib/session/session.svelte";
  import Topbar from "$lib/Topbar.svelte";
  import Around from "$lib/survey/Around.svelte";
  import Defects from "$lib/survey/Defects.svelte";
  import Girths from "$lib/survey/Girths.svelte";
  import Height from "$lib/survey/Height.svelte";
  import Lean from "$lib/survey/Lean.svelte";
  import NextLimb from "$lib/survey/NextLimb.svelte";
  import Photos from "$lib/survey/Photos.svelte";
  import Species from "$lib/survey/Species.svelte";

  let { head }: { head: JobHead } = $props();

  const session = untrack(() => new Session(head, page));
  // The whole tree as it stands, not before one pick of it.
  session.chosen = [];
  onDestroy(() => session.close());

  const steps = [
    "Species",
    "Height",
    "Girths",
    "Lean",
    "Limbs",
    "Defects",
    "Around it",
    "Photos",
    "Done",
  ] as const;
  let at = $state(0);
  let step = $derived(steps[at] ?? "Species");
  let right = $state(90);
  let assessment = $derived(session.assessment);
  let drawn = $derived((session.treeFigures?.stem.length ?? 0) > 1);
  let tree = $derived(session.tree);

  $effect(() => {
    void preferences.units;
    untrack(() => void session.assess());
  });
  $effect(() => core.load());

  /** Whether a step has been answered, for its mark in the row of steps. */
  let answered = $derived([
    !!tree.wood.species,
    tree.height_m !== undefined,
    tree.readings.length > 0,
    tree.lean_deg !== undefined,
    tree.limbs.length > 0,
    tree.defects.length > 0,
    session.job.site.targets.length + session.job.site.zones.length > 0,
    false,
    false,
  ]);
  let panel = $state<HTMLElement>();

  function go(to: number) {
    at = Math.max(0, Math.min(steps.length - 1, to));
    panel?.scrollTo({ top: 0 });
    panel?.focus();
  }
</script>

<svelte:head><title>Survey · {session.job.name} · Elk Stay</title></svelte:head>

<div class="flex h-dvh flex-col overflow-hidden">
  <Topbar>
    <a class="btn touch min-w-0 shrink btn-ghost px-2" href={resolve("/job/[id]", { id: head.id })}
      ><span class="truncate">← {session.job.name}</span></a
    >
    <SaveMark saver={session.saver} />
  </Topbar>
  <Conflict {session} />
  <nav
    class="flex shrink-0 overflow-x-auto border-b border-base-300 px-1"
    aria-label="Steps of the walk"
  >
    {#each steps as name, i (name)}
      <button
        class={[
          "touch shrink-0 cursor-pointer border-b-3 px-2.5 text-sm font-semibold",
          i === at ? "border-primary" : "border-transparent faint",
        ]}
        aria-current={i === at ? "step" : undefined}
        onclick={() => go(i)}
        >{name}{#if answered[i]}<span class="ml-1 text-success" aria-label="answered">✓</span
          >{/if}</button
      >
    {/each}
  </nav>
  <div
    class="grid min-h-0 grow grid-rows-[38%_minmax(0,1fr)] lg:grid-cols-[1fr_28rem] lg:grid-rows-1"
  >
    <div class="relative min-h-0 border-b border-base-300 lg:border-b-0" data-testid="as-measured">
      {#if assessment && step === "Around it"}
        <div class="mx-auto flex h-full max-w-full justify-center p-2">
          <div class="aspect-square h-full max-w-full">
            <Plan {session} {assessment} {right} onturn={(a) => (right = a)} />
          </div>
        </div>
      {:else if assessment && drawn}
        <Elevation {session} {assessment} {right} close={false} picks={false} />
      {:else}
        <div class="flex h-full items-center justify-center p-6 text-center">
          <div>
            <p class="text-lg font-semibold">The tree appears here as it is measured.</p>
            {#each assessment?.missing.slice(0, 1) ?? [] as one (one.location)}
              <p class="faint">{one.ask}</p>
            {/each}
          </div>
        </div>
      {/if}
      {#each assessment?.faults ?? [] as fault (fault.location + fault.message)}
        <p class="absolute inset-x-2 bottom-1 bg-base-100 text-sm text-error">{fault.message}.</p>
      {/each}
    </div>
    <div
      bind:this={panel}
      tabindex="-1"
      class="relative min-h-0 overflow-y-auto p-4 outline-none lg:border-l lg:border-base-300"
      role="region"
      aria-label={step}
    >
      <h1 class="mb-3 text-2xl font-bold">{step}</h1>
      {#if step === "Species"}<Species {session} />
      {:else if step === "Height"}<Height {session} />
      {:else if step === "Girths"}<Girths {session} />
      {:else if step === "Lean"}<Lean {session} />
      {:else if step === "Limbs"}
        <p class="mb-3 faint">
          From the lowest up, and at each height clockwise. The azimuth is the way the limb grows.
        </p>
        <NextLimb {session} />
        <Limbs {session} />
      {:else if step === "Defects"}<Defects {session} />
      {:else if step === "Around it"}<Around {session} />
      {:else if step === "Photos"}<Photos {session} />
      {:else}
        <div class="space-y-3">
          {#if assessment?.missing.length}
            <p class="text-lg font-semibold">Still to be given:</p>
            <ul class="list-disc pl-5 text-lg">
              {#each assessment.missing as one (one.location)}<li>{one.ask}</li>{/each}
            </ul>
          {:else}
            <p class="text-lg font-semibold">{assessment?.state}</p>
          {/if}
          <a
            class="btn h-14 w-full text-lg btn-primary"
            href={resolve("/job/[id]", { id: head.id })}>To the board</a
          >
          <a
            class="btn h-14 w-full btn-outline text-lg"
            href={resolve("/job/[id]/briefing", { id: head.id })}>To the briefing</a
          >
        </div>
      {/if}
    </div>
  </div>
  <nav
    class="grid shrink-0 grid-cols-[1fr_2fr] gap-2 border-t border-base-300 p-2 pb-[calc(0.5rem+env(safe-area-inset-bottom))]"
    aria-label="Walk"
  >
    <button class="btn h-14 btn-outline text-lg" disabled={at === 0} onclick={() => go(at - 1)}
      >Back</button
    >
    <button
      class="btn h-14 text-lg btn-primary"
      disabled={at === steps.length - 1}
      onclick={() => go(at + 1)}
      >{at < steps.length - 1
        ? `Next: ${(steps[at + 1] ?? "").toLowerCase()}`
        : "That was all"}</button
    >
  </nav>
</div>
