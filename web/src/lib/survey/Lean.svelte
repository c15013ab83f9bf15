<script lang="ts">
  import type { SightRead } from "../api/client";
  import { core } from "../core/core.svelte";
  import Figure from "../fields/Figure.svelte";
  import Measure from "../fields/Measure.svelte";
  import { say } from "../fields/say";
  import { preferences } from "../preferences.svelte";
  import { known } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Compass from "./Compass.svelte";
  import Sighted from "./Sighted.svelte";

  let { session }: { session: Session } = $props();

  let offset = $state<number>();
  let over = $state<number>();
  let read = $state.raw<SightRead | null>(null);
  let refusal = $state("");
  let tree = $derived(session.tree);

  $effect(() => {
    if (offset === undefined || over === undefined) {
      read = null;
      refusal = "";
      return;
    }
    void core.sight({ of: "lean", units: preferences.units, offset_m: offset, over_m: over }).then(
      ({ data, faults }) => {
        read = data ?? null;
        refusal = (faults ?? []).map(say).join(" ");
      },
      () => (refusal = "No answer: what you typed is kept here."),
    );
  });

  function take(sum: SightRead) {
    const lean = Math.round(sum.value * 10) / 10;
    void session.change((job) => {
      session.treeIn(job).lean_deg = lean;
      session.treeIn(job).lean_noted = sum.noted;
    });
  }
</script>

<div class="space-y-4">
  <div class="grid grid-cols-4 gap-2" role="group" aria-label="Lean by eye">
    {#each known.get().leans as { word, deg } (word)}
      <button
        class={[
          "btn h-14 flex-col gap-0 px-1",
          tree.lean_deg === deg ? "btn-primary" : "btn-outline",
        ]}
        aria-pressed={tree.lean_deg === deg}
        onclick={() =>
          session.change((job) => {
            session.treeIn(job).lean_deg = deg;
            session.treeIn(job).lean_noted = "by eye";
          })}
        ><span class="text-base">{word}</span><span class="text-xs font-normal">{deg}°</span
        ></button
      >
    {/each}
  </div>
  <Measure
    {session}
    path={`${session.treePath}.lean_deg`}
    label="Lean from upright, °"
    quantity="number"
    value={tree.lean_deg}
    hint="none"
  />
  {#if tree.lean_noted}<p class="-mt-2 text-sm faint">{tree.lean_noted}</p>{/if}
  {#if tree.lean_deg}
    <Compass
      label="It leans towards"
      value={tree.lean_towards_deg ?? 0}
      onchoose={(deg) => session.change((job) => (session.treeIn(job).lean_towards_deg = deg))}
    />
  {/if}
  <fieldset class="space-y-3 border-t border-base-300 pt-3">
    <legend class="sr-only">By plumb line</legend>
    <p class="text-lg font-semibold">Or by a plumb line</p>
    <p class="text-sm faint">
      Sight a hanging line against the stem’s middle at a height you know; measure from the foot’s
      middle to where it points.
    </p>
    <div class="grid grid-cols-2 gap-3">
      <Figure
        label="Off the foot"
        quantity="height"
        value={offset}
        hint="0.6 m"
        onchange={(v) => (offset = v)}
      />
      <Figure
        label="From a height of"
        quantity="height"
        value={over}
        hint="8 m"
        onchange={(v) => (over = v)}
      />
    </div>
    <Sighted {read} {refusal} says={(v) => `${v.toFixed(1)}°`} ontake={take} />
  </fieldset>
</div>
