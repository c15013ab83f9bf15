<script lang="ts">
  import type { Assessment } from "../api/client";
  import Elevation from "../draw/Elevation.svelte";
  import Rests from "../ladder/Rests.svelte";
  import Plan from "../draw/Plan.svelte";
  import Working from "../ladder/Working.svelte";
  import { figure, print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Tools from "./Tools.svelte";
  import type { View } from "./view.svelte";

  interface Props {
    session: Session;
    assessment: Assessment;
    view: View;
    /** The tree has been painted: what stands beside it may come. */
    awake: boolean;
  }

  /** The tree, its plan or its stump, and the weight in hand. */
  let { session, assessment, view, awake }: Props = $props();

  let balance = $state(false);
</script>

<div class="relative min-h-0 grow">
  {#if view.large === "plan"}
    {#await import("../draw/PlanLarge.svelte") then { default: PlanLarge }}
      <PlanLarge {session} {assessment} />
    {/await}
  {:else if view.large === "stump" && session.detail?.fell}
    <div class="h-full overflow-y-auto px-3 pt-14 pb-2">
      {#await import("../pick/Stump.svelte") then { default: Stump }}
        {#if session.detail?.fell}
          <Stump fell={session.detail.fell} {session} pick={session.detail.id} />
        {/if}
      {/await}
      <ol class="list-decimal space-y-0.5 pl-6 text-base">
        {#each session.detail.fell.steps as step, at (at)}<li>{step}</li>{/each}
      </ol>
    </div>
  {:else}
    <Elevation
      {session}
      {assessment}
      right={view.right}
      close={view.close}
      onplumb={() => (balance = !balance)}
    />
  {/if}
  {#if session.detail?.piece}
    {@const piece = session.detail.piece}
    <div
      class="pointer-events-none absolute top-1 left-12 max-w-[325px] max-lg:hidden"
      data-testid="piece"
    >
      <div class="flex items-center gap-2">
        <span class="text-3xl leading-none font-bold halo-text" data-testid="weight">
          {print("mass", piece.mass_kg.likely)}
        </span>
        {#if session.figures}<Rests basis={session.figures.basis} />{/if}
      </div>
      <div class="text-sm font-semibold halo-text">
        {figure("mass", piece.mass_kg.low)}–{print("mass", piece.mass_kg.high)} ·
        {print("height", piece.length_m)} · cut {print("diameter", piece.diameter_at_cut_m)}
      </div>
    </div>
  {/if}
  <!-- Beside the plan the wood beneath is to be pressed. -->
  <div
    class="pointer-events-none absolute top-1 right-1 flex flex-col items-end gap-1 *:pointer-events-auto"
  >
    <Tools {view} stump={Boolean(session.detail?.fell)} />
    {#if view.large === "tree" && awake}
      <div class="size-40 max-sm:size-28">
        <Plan {session} {assessment} right={view.right} onturn={(a) => (view.right = a)} />
      </div>
    {/if}
  </div>
  {#if balance && view.large === "tree" && session.detail?.balance}
    <section
      aria-label="Its balance"
      data-testid="balance"
      class="absolute bottom-8 left-2 max-h-[70%] w-80 max-w-[calc(100%-1rem)] overflow-y-auto rounded border-2 border-base-content bg-base-100 p-3"
    >
      <div class="flex items-start justify-between gap-2">
        <p class="font-semibold">{session.detail.balance.said}</p>
        <button
          class="btn touch btn-ghost px-2 text-lg font-bold"
          aria-label="Close the balance"
          onclick={() => (balance = false)}>×</button
        >
      </div>
      <Working steps={session.detail.balance.working} />
    </section>
  {/if}
  {#if view.said}
    <p
      role="status"
      data-testid="said"
      class="absolute right-2 bottom-8 left-2 mx-auto w-fit max-w-lg rounded border border-base-300 bg-base-100 px-3 py-1.5 text-sm leading-snug"
    >
      {view.said}
      <button
        class="ml-2 cursor-pointer font-bold"
        aria-label="Close"
        onclick={() => (view.said = "")}>×</button
      >
    </p>
  {/if}
</div>
