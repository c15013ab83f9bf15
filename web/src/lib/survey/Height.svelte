<script lang="ts">
  import type { SightRead } from "../api/client";
  import { core } from "../core/core.svelte";
  import Figure from "../fields/Figure.svelte";
  import Measure from "../fields/Measure.svelte";
  import { say } from "../fields/say";
  import { preferences } from "../preferences.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Sighted from "./Sighted.svelte";

  let { session }: { session: Session } = $props();

  let distance = $state<number>();
  let up = $state<number>();
  let foot = $state<number>();
  let slope = $state(false);
  let read = $state.raw<SightRead | null>(null);
  let refusal = $state("");

  $effect(() => {
    if (distance === undefined || up === undefined) {
      read = null;
      refusal = "";
      return;
    }
    const asked = {
      of: "height" as const,
      units: preferences.units,
      distance_m: distance,
      up_deg: up,
      foot_deg: foot,
      along_slope: slope,
    };
    void core.sight(asked).then(
      ({ data, faults }) => {
        read = data ?? null;
        refusal = (faults ?? []).map(say).join(" ");
      },
      () => (refusal = "No answer: what you typed is kept here."),
    );
  });

  function take(sum: SightRead) {
    const height = Math.round(sum.value * 10) / 10;
    void session.change((job) => {
      session.treeIn(job).height_m = height;
      session.treeIn(job).height_noted = sum.noted;
    });
  }
</script>

<div class="space-y-4">
  <Measure
    {session}
    path={`${session.treePath}.height_m`}
    label="Height of the stem, by tape or as known"
    quantity="height"
    value={session.tree.height_m}
    put={(value) =>
      session.change((job) => {
        if (value === undefined) delete session.treeIn(job).height_m;
        else session.treeIn(job).height_m = value;
        delete session.treeIn(job).height_noted;
      })}
  />
  {#if session.tree.height_noted}
    <p class="-mt-2 text-sm faint">by sight: {session.tree.height_noted}</p>
  {/if}
  <fieldset class="space-y-3 border-t border-base-300 pt-3">
    <legend class="sr-only">By angle and distance</legend>
    <p class="text-lg font-semibold">Or by angle and distance</p>
    <p class="text-sm faint">
      Step back until you see top and foot. Angles are from level; below the eye they are negative.
    </p>
    <Figure
      label="Distance to the stem"
      quantity="height"
      value={distance}
      hint="18 m"
      onchange={(v) => (distance = v)}
    />
    <div class="grid grid-cols-2 gap-3">
      <Figure
        label="Up to the top, °"
        quantity="number"
        value={up}
        hint="42"
        onchange={(v) => (up = v)}
      />
      <Figure
        label="To the foot, °"
        quantity="number"
        value={foot}
        hint="not sighted"
        onchange={(v) => (foot = v)}
      />
    </div>
    <label class="flex touch cursor-pointer items-center gap-2">
      <input type="checkbox" class="checkbox" bind:checked={slope} />
      The tape lay along the slope
    </label>
    <Sighted {read} {refusal} says={(v) => print("height", v)} ontake={take} />
  </fieldset>
</div>
