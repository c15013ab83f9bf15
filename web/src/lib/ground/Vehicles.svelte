<script lang="ts">
  // What takes it away: loads by weight and by room, and what has gone.
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { GroundFigures } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import Figure from "../fields/Figure.svelte";
  import Measure from "../fields/Measure.svelte";
  import { allRead } from "../fields/reading";
  import ItemPicker from "../locker/ItemPicker.svelte";
  import { freshId } from "../order/edits";
  import { loadsGone, noteGone, takeLoadBack } from "../order/facts";
  import { print } from "../reference.svelte";
  import { assign, byId } from "../session/path";
  import type { Session } from "../session/session.svelte";
  import { today } from "../crew/items";
  import Card from "./Card.svelte";
  import { onGround, type Vehicle } from "./document";

  let { session, lies }: { session: Session; lies: GroundFigures } = $props();

  let vehicles = $derived(session.job.ground?.trucks ?? []);
  let open = $state("");
  let what = $state<"logs" | "chips">("logs");
  let kg = $state<number | undefined>();

  function add() {
    const id = freshId(session.job, "v");
    open = id;
    const n = vehicles.length + 1;
    void session.change((job) => {
      (onGround(job).trucks ??= []).push({ id, name: `vehicle ${n}` });
    });
  }
  function change(id: string, mutate: (one: Vehicle) => void) {
    void session.change((job) => {
      const one = job.ground?.trucks?.find((t) => t.id === id);
      if (one) mutate(one);
    });
  }
  function remove(id: string) {
    void session.change((job) => {
      const g = onGround(job);
      g.trucks = (g.trucks ?? []).filter((t) => t.id !== id);
      // What it pulled is pulled by nothing that is named.
      for (const way of g.moves ?? []) if (way.truck === id) delete way.truck;
    });
  }
  async function gone(id: string) {
    // What was typed just now may not be read yet.
    if (!(await allRead()) || !kg) return;
    const load = { takes: what, kg, on: today() };
    void session.change((job) => noteGone(job, id, load));
    kg = undefined;
  }
  const takes: [string, string][] = [
    ["both", "logs and chips"],
    ["logs", "logs"],
    ["chips", "chips"],
  ];
</script>

<section aria-label="Loading out" class="space-y-2">
  <div class="flex items-center justify-between gap-2">
    <h2 class="text-lg font-bold">Loading out</h2>
    <span class="flex gap-1">
      <a
        class="btn touch btn-ghost px-2"
        href={`/api/jobs/${session.id}/waste.csv`}
        download
        rel="external">CSV</a
      >
      <button class="btn touch btn-outline" onclick={add}>Add a vehicle</button>
    </span>
  </div>
  <dl class="grid grid-cols-2 gap-x-3 text-base tabular-nums">
    <dt>Logs to go</dt>
    <dd class="text-right font-bold">
      {print("mass", lies.away.logs_kg.likely)} · {print("volume", lies.away.logs_m3)}
    </dd>
    <dt>Chips</dt>
    <dd class="text-right font-bold">
      {print("mass", lies.away.chips_kg.likely)} · {print("volume", lies.away.chips_m3)}
    </dd>
    {#if lies.away.kept_kg.likely}
      <dt>Logs that stay</dt>
      <dd class="text-right">{print("mass", lies.away.kept_kg.likely)}</dd>
    {/if}
    {#if lies.away.gone_logs_kg || lies.away.gone_chips_kg}
      <dt>Gone</dt>
      <dd class="text-right">
        {print("mass", lies.away.gone_logs_kg)} logs, {print("mass", lies.away.gone_chips_kg)} chips
      </dd>
    {/if}
  </dl>
  {#each vehicles as one (one.id)}
    {@const figures = lies.trucks.find((t) => t.id === one.id)}
    {@const at = byId("ground.trucks", one.id)}
    <Card
      {session}
      {at}
      name={one.name}
      said={figures?.said ?? ""}
      cautions={figures?.cautions ?? []}
      open={open === one.id}
      ontoggle={() => (open = open === one.id ? "" : one.id)}
      onremove={() => remove(one.id)}
    >
      {#snippet figure()}
        {#if figures?.logs_left !== undefined || figures?.chips_left !== undefined}
          {(figures.logs_left ?? 0) + (figures.chips_left ?? 0)}
          <span class="block text-xs font-medium faint">loads to go</span>
        {/if}
      {/snippet}
      <ItemPicker
        {session}
        label="From the locker"
        kinds={["vehicle"]}
        value={one.item}
        onchoose={(item) =>
          void session.take((job) => {
            assign(job, `${at}.item`, item?.id);
            if (item) assign(job, `${at}.name`, item.name);
          })}
      />
      <div class="grid grid-cols-2 gap-2">
        <Choice
          label="Takes"
          value={one.takes ?? "both"}
          options={takes}
          onchoose={(t) => change(one.id, (v) => (v.takes = t as NonNullable<Vehicle["takes"]>))}
        />
        {#if !one.item}
          <Measure
            {session}
            path={`${at}.payload_kg`}
            label="May carry"
            quantity="mass"
            value={one.payload_kg}
            hint="not said"
          />
          <Measure
            {session}
            path={`${at}.volume_m3`}
            label="Room"
            quantity="volume"
            value={one.volume_m3}
            hint="not said"
          />
          <Measure
            {session}
            path={`${at}.bed_m`}
            label="Bed"
            quantity="height"
            value={one.bed_m}
            hint="not said"
          />
          <Measure
            {session}
            path={`${at}.mass_kg`}
            label="Weighs itself"
            quantity="mass"
            value={one.mass_kg}
            hint="not said"
          />
          <Measure
            {session}
            path={`${at}.winch_kn`}
            label="Its winch"
            quantity="force"
            value={one.winch_kn}
            hint="none"
          />
        {/if}
      </div>
      <div role="group" aria-label={`A load of ${one.name} has gone`} class="space-y-1">
        <span class="block text-sm font-medium">A load has gone</span>
        <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <Choice
            label="Of"
            value={what}
            options={[
              ["logs", "logs"],
              ["chips", "chips"],
            ]}
            onchoose={(w) => (what = w as "logs" | "chips")}
          />
          <Figure label="Weighed" quantity="mass" value={kg} onchange={(value) => (kg = value)} />
          <button class="btn touch btn-primary" onclick={() => gone(one.id)}>Gone</button>
        </div>
        {#each loadsGone(session.job, one.id) as load (load.id)}
          <p class="flex items-center justify-between text-base">
            <span>{print("mass", load.kg ?? 0)} of {load.takes}{load.on ? `, ${load.on}` : ""}</span
            >
            <button
              class="btn touch btn-ghost px-2"
              aria-label={`Take back ${print("mass", load.kg ?? 0)} of ${load.takes}`}
              onclick={() => session.change((job) => takeLoadBack(job, load.id))}
              ><Icon of={Trash} size={16} /></button
            >
          </p>
        {/each}
      </div>
    </Card>
  {/each}
</section>
