<script lang="ts">
  import type { Assessment } from "../api/client";
  import type { Session } from "../session/session.svelte";
  import type { Hand } from "./hand";
  import type { View } from "./view.svelte";

  /** Beside the tree: the loads, the pick in hand, or the setup; on a phone one of them at a time. */
  let {
    session,
    assessment,
    view,
    hand,
    narrow,
    awake,
  }: {
    session: Session;
    assessment: Assessment;
    view: View;
    hand: Hand;
    narrow: boolean;
    awake: boolean;
  } = $props();

  const sides = [
    { id: "loads", title: "Loads" },
    { id: "pick", title: "Pick" },
    { id: "setup", title: "Setup" },
  ] as const;
</script>

<div
  role="group"
  aria-label="Right side"
  class="grid shrink-0 grid-cols-3 border-b border-base-300 max-lg:hidden"
>
  {#each sides as s (s.id)}
    <button
      class={[
        "touch cursor-pointer border-b-3 font-semibold",
        view.side === s.id ? "border-primary" : "border-transparent faint",
      ]}
      aria-pressed={view.side === s.id}
      onclick={() => view.showSide(s.id)}>{s.title}</button
    >
  {/each}
</div>
{#if narrow}
  <div class={["min-h-0 grow", view.view !== "pick" && "hidden"]}>
    {#await import("../pick/OnePick.svelte") then { default: OnePick }}
      <OnePick {session} {assessment} />
    {/await}
  </div>
{:else if !awake}
  <!-- After the drawing. -->
{:else if view.side === "loads"}
  <div class="relative min-h-0 grow overflow-y-auto">
    {#await import("../ladder/Ladder.svelte") then { default: Ladder }}
      <Ladder {assessment} detail={session.detail} trace={session.trace} />
    {/await}
  </div>
{:else if view.side === "pick"}
  <div class="relative min-h-0 grow overflow-y-auto">
    {#await import("../pick/PickFields.svelte") then { default: PickFields }}
      <PickFields {session} onsplit={hand.split} onjoin={hand.join} />
    {/await}
  </div>
{/if}
{#if view.side === "setup" || view.view === "setup"}
  <div
    class={[
      "min-h-0 grow",
      view.side !== "setup" && "lg:hidden",
      view.view !== "setup" && "max-lg:hidden",
    ]}
  >
    {#await import("../fields/Setup.svelte") then { default: Setup }}
      <Setup {session} />
    {/await}
  </div>
{/if}
