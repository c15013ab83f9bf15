<script lang="ts">
  import { untrack } from "svelte";
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import { api, explain, type Fault, type Item, type ItemHead } from "../api/client";
  import { today } from "../crew/items";
  import Choice from "../fields/Choice.svelte";
  import Figure from "../fields/Figure.svelte";
  import { allRead } from "../fields/reading";
  import { faultsOf, say } from "../fields/say";
  import { known } from "../reference.svelte";
  import ChartPaste from "./ChartPaste.svelte";
  import StandingMark from "./StandingMark.svelte";
  import { kinds, kindWord } from "./words";

  interface Props {
    /** The item as it is kept, or a new one at revision 0. */
    head: ItemHead;
    onsaved: (head: ItemHead) => void;
    ondeleted: (head: ItemHead) => void;
    onclose: () => void;
  }

  let { head, onsaved, ondeleted, onclose }: Props = $props();

  const slot = untrack(() => `elkstay.item.${head.item.id}`);
  let item = $state<Item>(untrack(() => unsaved() ?? structuredClone($state.snapshot(head.item))));
  let faults = $state<Fault[]>([]);
  let trouble = $state("");
  let busy = $state(false);
  let dirty = $derived(JSON.stringify($state.snapshot(item)) !== JSON.stringify(head.item));
  let fresh = $derived(head.revision === 0);
  let has = $derived((field: string) => known.get().gear[item.kind]?.includes(field) ?? false);

  // What is typed and not yet saved stays on this device.
  $effect(() => {
    const text = JSON.stringify($state.snapshot(item));
    try {
      if (text === JSON.stringify(head.item)) localStorage.removeItem(slot);
      else localStorage.setItem(slot, text);
    } catch {
      // A browser that keeps nothing: the form itself still does.
    }
  });

  function unsaved(): Item | null {
    try {
      const kept = localStorage.getItem(slot);
      return kept ? (JSON.parse(kept) as Item) : null;
    } catch {
      return null;
    }
  }

  /** What a vehicle is known by. */
  const vehicle = [
    ["payload_kg", "May carry", "mass"],
    ["volume_m3", "Room of its body", "volume"],
    ["mass_kg", "Weighs itself", "mass"],
    ["grip", "Grip of its wheels", "number"],
    ["winch_kn", "Its winch pulls", "force"],
  ] as const;

  const fault = (field: string) =>
    faults
      .filter(
        (one) => one.location === `body.${field}` || one.location.startsWith(`body.${field}[`),
      )
      .map(say)
      .join(" ");
  let elsewhere = $derived(
    faults.filter(
      (one) =>
        !shownAt.some((f) => one.location === `body.${f}` || one.location.startsWith(`body.${f}[`)),
    ),
  );
  const shownAt = [
    "name",
    "serial",
    "marked_kn",
    "breaking_kn",
    "diameter_m",
    "length_m",
    "elongation",
    "dynamic_factor",
    "efficiency",
    "bend_m",
    "friction",
    "rigging_kg",
    "chart",
    ...vehicle.map(([name]) => name),
    "inspections",
    "in_service",
  ];

  function set<K extends keyof Item>(field: K, value: Item[K] | undefined) {
    if (value === undefined || value === "") Reflect.deleteProperty(item, field);
    else item[field] = value;
  }

  async function save() {
    if (busy) return;
    trouble = "";
    if (!(await allRead())) {
      trouble = "A field above is not understood yet: nothing was saved.";
      return;
    }
    busy = true;
    try {
      const { data, error } = await api.PUT("/api/locker/items/{id}", {
        params: { path: { id: item.id }, header: { "If-Match": `"${head.revision}"` } },
        body: $state.snapshot(item) as Item,
      });
      if (data) {
        faults = [];
        localStorage.removeItem(slot);
        item = structuredClone(data.item);
        onsaved(data);
      } else {
        faults = faultsOf(error);
        if (!faults.length) trouble = explain(error);
      }
    } catch {
      trouble = "The server does not answer: what you typed is kept on this device.";
    } finally {
      busy = false;
    }
  }

  async function remove() {
    const { error } = await api.DELETE("/api/locker/items/{id}", {
      params: { path: { id: item.id } },
    });
    if (error) trouble = explain(error);
    else ondeleted(head);
  }

  function discard() {
    item = structuredClone($state.snapshot(head.item));
    faults = [];
  }

  const conditions = [
    ["wet-polyamide", "polyamide, wet"],
    ["aged", "aged"],
    ["glazed", "glazed"],
    ["abraded", "abraded"],
  ] as const;

  function toggleCondition(name: string) {
    const now = item.conditions ?? [];
    const next = now.includes(name) ? now.filter((c) => c !== name) : [...now, name];
    set("conditions", next.length ? next : undefined);
  }

  function addInspection() {
    item.inspections = [
      ...(item.inspections ?? []),
      { on: today(), by: item.inspections?.at(-1)?.by ?? "", result: "pass" },
    ];
  }

  function addRow() {
    const last = item.elongation?.at(-1);
    item.elongation = [
      ...(item.elongation ?? []),
      { load_pct: (last?.load_pct ?? 0) + 10, strain_pct: (last?.strain_pct ?? 0) + 1 },
    ];
  }
</script>

<form
  class="space-y-5 p-4"
  aria-label={fresh ? "New item" : item.name}
  onsubmit={(e) => {
    e.preventDefault();
    void save();
  }}
>
  <div class="flex items-start gap-2">
    <div class="min-w-0 grow">
      <p class="text-sm faint">{fresh ? "New" : ""} {kindWord(item.kind).toLowerCase()}</p>
      <h2 class="truncate text-2xl font-bold">{item.name || "No name yet"}</h2>
      {#if !fresh}
        <p class="flex flex-wrap items-baseline gap-x-3">
          <StandingMark standing={head.standing} />
          <span class="text-sm faint">{head.standing.why}</span>
        </p>
      {/if}
    </div>
    <button type="button" class="btn touch btn-ghost" onclick={onclose}>Close</button>
  </div>

  <div class="grid grid-cols-2 gap-3">
    {#if fresh}
      <div class="col-span-2">
        <Choice
          label="Kind"
          value={item.kind}
          options={kinds.map(([id, word]): [string, string] => [id, word])}
          onchoose={(kind) => (item.kind = kind as Item["kind"])}
        />
      </div>
    {/if}
    <label class="block">
      <span class="mb-0.5 block text-sm font-medium">Name</span>
      <input
        class="input touch w-full px-2 text-base font-medium"
        maxlength="80"
        bind:value={item.name}
      />
      {#if fault("name")}<span role="alert" class="text-sm text-error">{fault("name")}</span>{/if}
    </label>
    <label class="block">
      <span class="mb-0.5 block text-sm font-medium">Serial</span>
      <input
        class="input touch w-full px-2 text-base font-medium"
        maxlength="40"
        value={item.serial ?? ""}
        onchange={(e) => set("serial", e.currentTarget.value.trim())}
      />
    </label>
    {#if has("marked_kn")}
      <Figure
        label="Marked working load"
        quantity="force"
        value={item.marked_kn}
        hint="none"
        fault={fault("marked_kn")}
        onchange={(v) => set("marked_kn", v)}
      />
      <Figure
        label="Breaking strength"
        quantity="force"
        value={item.breaking_kn}
        hint="not stated"
        fault={fault("breaking_kn")}
        onchange={(v) => set("breaking_kn", v)}
      />
    {/if}
    {#if has("diameter_m")}
      <Figure
        label="Diameter"
        quantity="gauge"
        value={item.diameter_m}
        hint="16 mm"
        fault={fault("diameter_m")}
        onchange={(v) => set("diameter_m", v)}
      />
    {/if}
    {#if has("length_m")}
      <Figure
        label={{ crane: "Boom", vehicle: "Bed" }[item.kind as string] ?? "Length"}
        quantity="height"
        value={item.length_m}
        fault={fault("length_m")}
        onchange={(v) => set("length_m", v)}
      />
    {/if}
    {#if has("efficiency")}
      <Figure
        label="Sheave efficiency"
        quantity="number"
        value={item.efficiency}
        hint="0.92"
        fault={fault("efficiency")}
        onchange={(v) => set("efficiency", v)}
      />
    {/if}
    {#if has("bend_m")}
      <Figure
        label="Bend diameter"
        quantity="gauge"
        value={item.bend_m}
        hint="100 mm"
        fault={fault("bend_m")}
        onchange={(v) => set("bend_m", v)}
      />
    {/if}
    {#if has("friction")}
      <Figure
        label="Friction of rope on it"
        quantity="number"
        value={item.friction}
        hint="0.2"
        fault={fault("friction")}
        onchange={(v) => set("friction", v)}
      />
    {/if}
    {#if has("dynamic_factor")}
      <Figure
        label="Stiffer in a shock, times"
        quantity="number"
        value={item.dynamic_factor}
        hint="1"
        fault={fault("dynamic_factor")}
        onchange={(v) => set("dynamic_factor", v)}
      />
    {/if}
    {#if has("rigging_kg")}
      <Figure
        label="Hook and ball"
        quantity="mass"
        value={item.rigging_kg}
        fault={fault("rigging_kg")}
        onchange={(v) => set("rigging_kg", v)}
      />
    {/if}
    {#each vehicle as [name, label, quantity] (name)}
      {#if has(name)}
        <Figure
          {label}
          {quantity}
          value={item[name]}
          hint="not stated"
          fault={fault(name)}
          onchange={(v) => set(name, v)}
        />
      {/if}
    {/each}
    <label class="block">
      <span class="mb-0.5 block text-sm font-medium">In service since</span>
      <input
        type="date"
        class="input touch w-full px-2 text-base"
        value={item.in_service ?? ""}
        onchange={(e) => set("in_service", e.currentTarget.value)}
      />
    </label>
  </div>

  {#if has("conditions")}
    <fieldset>
      <legend class="mb-1 text-sm font-medium">Condition</legend>
      <div class="flex flex-wrap gap-x-4">
        {#each conditions as [name, word] (name)}
          <label class="flex touch cursor-pointer items-center gap-2">
            <input
              type="checkbox"
              class="checkbox"
              checked={item.conditions?.includes(name) ?? false}
              onchange={() => toggleCondition(name)}
            />{word}
          </label>
        {/each}
      </div>
    </fieldset>
  {/if}

  {#if has("elongation")}
    <fieldset class="space-y-2">
      <legend class="text-sm font-medium">Elongation table, per cent</legend>
      {#each item.elongation ?? [] as row, i (i)}
        <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
          <Figure
            label="At % of strength"
            quantity="number"
            value={row.load_pct}
            onchange={(v) => (row.load_pct = v ?? row.load_pct)}
          />
          <Figure
            label="Longer by %"
            quantity="number"
            value={row.strain_pct}
            onchange={(v) => (row.strain_pct = v ?? row.strain_pct)}
          />
          <button
            type="button"
            class="btn touch btn-ghost px-2"
            aria-label={`Remove elongation row ${i + 1}`}
            onclick={() => set("elongation", item.elongation?.toSpliced(i, 1))}
            ><Icon of={Trash} size={18} /></button
          >
        </div>
      {/each}
      {#if fault("elongation")}<p role="alert" class="text-sm text-error">
          {fault("elongation")}
        </p>{/if}
      <button type="button" class="btn touch w-full btn-outline" onclick={addRow}>Add a row</button>
      {#if !item.elongation?.length}
        <p class="text-xs faint">
          Without a table a rig takes the stretch of a typical polyester rope of its size.
          High-modulus fibre stretches less and catches harder: give its table.
        </p>
      {/if}
    </fieldset>
  {/if}

  {#if has("chart")}
    <ChartPaste
      chart={item.chart ?? []}
      fault={fault("chart")}
      onchange={(chart) => set("chart", chart.length ? chart : undefined)}
    />
  {/if}

  <fieldset class="space-y-3">
    <legend class="text-lg font-bold">Inspections</legend>
    {#each item.inspections ?? [] as look, i (i)}
      <div class="grid grid-cols-2 gap-2 border-l-4 border-base-300 pl-3">
        <label class="block">
          <span class="mb-0.5 block text-sm font-medium">On</span>
          <input type="date" class="input touch w-full px-2" bind:value={look.on} />
        </label>
        <label class="block">
          <span class="mb-0.5 block text-sm font-medium">By</span>
          <input class="input touch w-full px-2" maxlength="80" bind:value={look.by} />
        </label>
        <Choice
          label="Result"
          value={look.result}
          options={[
            ["pass", "passed"],
            ["watch", "passed, to watch"],
            ["fail", "failed"],
          ]}
          onchoose={(result) => (look.result = result as typeof look.result)}
        />
        <label class="block">
          <span class="mb-0.5 block text-sm font-medium">Next due</span>
          <input
            type="date"
            class="input touch w-full px-2"
            value={look.next_due ?? ""}
            onchange={(e) => (look.next_due = e.currentTarget.value || undefined)}
          />
        </label>
        <label class="col-span-2 block">
          <span class="sr-only">Note</span>
          <input
            class="input touch w-full px-2"
            maxlength="400"
            placeholder="what was seen"
            value={look.note ?? ""}
            onchange={(e) => (look.note = e.currentTarget.value.trim() || undefined)}
          />
        </label>
        <button
          type="button"
          class="btn col-span-2 touch justify-self-start btn-ghost px-0"
          onclick={() => set("inspections", item.inspections?.toSpliced(i, 1))}
          >Remove this inspection</button
        >
      </div>
    {/each}
    {#if fault("inspections")}<p role="alert" class="text-sm text-error">
        {fault("inspections")}
      </p>{/if}
    <button type="button" class="btn touch w-full btn-outline" onclick={addInspection}
      >Add an inspection</button
    >
  </fieldset>

  <fieldset class="space-y-2">
    <legend class="text-lg font-bold">Set aside</legend>
    {#if item.set_aside}
      <div class="grid grid-cols-2 gap-2">
        <label class="block">
          <span class="mb-0.5 block text-sm font-medium">Since</span>
          <input type="date" class="input touch w-full px-2" bind:value={item.set_aside.on} />
        </label>
        <label class="flex touch cursor-pointer items-center gap-2 self-end">
          <input type="checkbox" class="checkbox" bind:checked={item.set_aside.retired} />for good
        </label>
        <label class="col-span-2 block">
          <span class="mb-0.5 block text-sm font-medium">Why</span>
          <input class="input touch w-full px-2" maxlength="400" bind:value={item.set_aside.why} />
        </label>
      </div>
      <button
        type="button"
        class="btn touch btn-outline"
        onclick={() => set("set_aside", undefined)}>Back into use</button
      >
    {:else}
      <button
        type="button"
        class="btn touch w-full btn-outline"
        onclick={() => (item.set_aside = { on: today(), why: "" })}>Set it aside</button
      >
    {/if}
  </fieldset>

  <label class="block">
    <span class="mb-0.5 block text-sm font-medium">Note</span>
    <textarea
      class="textarea w-full px-2 text-base"
      rows="2"
      maxlength="2000"
      value={item.note ?? ""}
      onchange={(e) => set("note", e.currentTarget.value.trim())}></textarea>
  </label>

  {#if trouble || elsewhere.length}
    <div role="alert" class="border-l-4 border-error py-1 pl-3 text-error">
      {#if trouble}<p>{trouble}</p>{/if}
      {#each elsewhere as one, at (at)}<p>{say(one)}</p>{/each}
    </div>
  {/if}

  <div class="sticky bottom-0 -mx-4 flex gap-2 border-t border-base-300 bg-base-100 p-3">
    <button class="btn touch grow btn-primary" disabled={busy || (!dirty && !fresh)}>
      {fresh ? "Put it in the locker" : "Save"}
    </button>
    {#if dirty && !fresh}
      <button type="button" class="btn touch btn-outline" onclick={discard}>Discard</button>
    {/if}
    {#if !fresh}
      <button
        type="button"
        class="btn touch btn-ghost px-2"
        aria-label={`Delete ${head.item.name}`}
        onclick={remove}><Icon of={Trash} size={18} /></button
      >
    {/if}
  </div>
</form>
