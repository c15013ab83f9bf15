<script lang="ts">
  import type { Settings } from "../api/client";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Measure from "./Measure.svelte";

  let { session }: { session: Session } = $props();

  let settings = $derived(session.assessment?.settings);
  let caught = $derived(session.assessment?.catch);

  const ways: { how: Settings["how"]; title: string; says: string }[] = [
    { how: "wraps", title: "Wraps and hand", says: "The wraps and the hand give the hold." },
    { how: "run", title: "Call the run", says: "You call how far it runs; the hold follows." },
    { how: "hold", title: "Known hold", says: "The device slips at a tension you know." },
    { how: "locked", title: "Tied off", says: "No rope runs: the hardest catch." },
  ];

  function choose(how: Settings["how"]) {
    void session.change((job) => {
      job.catch.how = how;
    });
  }
</script>

{#if settings}
  <div class="space-y-4">
    <div role="radiogroup" aria-label="How the piece is caught" class="space-y-1.5">
      {#each ways as way (way.how)}
        <label
          class={[
            "flex touch cursor-pointer items-center gap-3 rounded border px-3 py-1.5",
            settings.how === way.how ? "border-base-content bg-base-200" : "border-base-300",
          ]}
        >
          <input
            type="radio"
            name="how"
            class="radio radio-sm radio-primary"
            checked={settings.how === way.how}
            onchange={() => choose(way.how)}
          />
          <span>
            <span class="block font-semibold">{way.title}</span>
            <span class="block text-xs faint">{way.says}</span>
          </span>
        </label>
      {/each}
    </div>

    {#if settings.how !== "locked"}
      <Measure
        {session}
        path="rig.device.wraps"
        label="Wraps on the device"
        quantity="number"
        value={settings.wraps}
        step={0.5}
      />
    {/if}
    {#if settings.how === "run"}
      <Measure
        {session}
        path="catch.run_m"
        label="Let it run"
        quantity="height"
        value={settings.run_m}
        step={0.1}
      />
    {/if}
    {#if settings.how === "hold"}
      <Measure
        {session}
        path="catch.hold_kn"
        label="Rope runs at"
        quantity="force"
        value={settings.hold_kn}
        step={0.5}
      />
    {/if}
    {#if settings.how !== "locked"}
      <Measure
        {session}
        path="catch.hand_kn"
        label="The hand pulls"
        quantity="force"
        value={settings.hand_kn}
        step={0.05}
      />
    {/if}

    {#if caught}
      <dl class="grid grid-cols-[1fr_auto] gap-y-1 border-t border-base-300 pt-3 text-sm">
        <dt>Hold of the device, on the lead</dt>
        <dd class="font-semibold">
          {caught.hold_kn === null ? "tied off" : print("force", caught.hold_kn)}
        </dd>
        <dt>Run</dt>
        <dd class="font-semibold">
          {caught.run_m === null ? "never stops" : print("height", caught.run_m)}
        </dd>
        <dt>Fall before the line is tight</dt>
        <dd class="font-semibold">{print("height", caught.fall_m)}</dd>
        <dt>Give of the rope</dt>
        <dd class="font-semibold">{print("height", caught.stretch_m)}</dd>
        <dt>Line peak, were it tied off</dt>
        <dd class="font-semibold">{print("force", caught.locked_peak_kn)}</dd>
      </dl>
    {/if}
  </div>
{/if}
