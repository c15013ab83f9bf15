<script lang="ts">
  import type { Rig, Settings } from "../api/client";
  import { known } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Measure from "./Measure.svelte";

  let { session, rig, at }: { session: Session; rig: Rig; at: string } = $props();

  const standard = known.get().rig_defaults;
  let how = $derived(rig.catch.how ?? standard.how);

  const ways: { how: Settings["how"]; title: string; says: string }[] = [
    { how: "wraps", title: "Wraps and hand", says: "The wraps and the hand give the hold." },
    { how: "run", title: "Call the run", says: "You call how far it runs; the hold follows." },
    { how: "hold", title: "Known hold", says: "The device slips at a tension you know." },
    { how: "locked", title: "Tied off", says: "No rope runs: the hardest catch." },
  ];

  function choose(chosen: Settings["how"]) {
    const id = rig.id;
    void session.change((job) => {
      const one = job.rigs.find((r) => r.id === id);
      if (one) one.catch.how = chosen;
    });
  }
</script>

<div class="space-y-4">
  <div role="radiogroup" aria-label="How the piece is caught" class="space-y-1.5">
    {#each ways as way (way.how)}
      <label
        class={[
          "flex touch cursor-pointer items-center gap-3 rounded border px-3 py-1.5",
          how === way.how ? "border-base-content bg-base-200" : "border-base-300",
        ]}
      >
        <input
          type="radio"
          name={`how-${rig.id}`}
          class="radio radio-sm radio-primary"
          checked={how === way.how}
          onchange={() => choose(way.how)}
        />
        <span>
          <span class="block font-semibold">{way.title}</span>
          <span class="block text-xs faint">{way.says}</span>
        </span>
      </label>
    {/each}
  </div>

  {#if how !== "locked"}
    <Measure
      {session}
      path={`${at}.device.wraps`}
      label="Wraps on the device"
      quantity="number"
      value={rig.device.wraps ?? standard.wraps}
      step={0.5}
    />
  {/if}
  {#if how === "run"}
    <Measure
      {session}
      path={`${at}.catch.run_m`}
      label="Let it run"
      quantity="height"
      value={rig.catch.run_m ?? standard.run_m}
      step={0.1}
    />
  {/if}
  {#if how === "hold"}
    <Measure
      {session}
      path={`${at}.catch.hold_kn`}
      label="Rope runs at"
      quantity="force"
      value={rig.catch.hold_kn ?? standard.hold_kn}
      step={0.5}
    />
  {/if}
  {#if how !== "locked"}
    <Measure
      {session}
      path={`${at}.catch.hand_kn`}
      label="The hand pulls"
      quantity="force"
      value={rig.catch.hand_kn ?? standard.hand_kn}
      step={0.05}
    />
  {/if}
</div>
