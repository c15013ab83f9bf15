<script lang="ts">
  import { untrack } from "svelte";
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import {
    api,
    explain,
    type Fault,
    type Item,
    type ItemHead,
    type MergedItem,
  } from "../api/client";
  import { core } from "../core/core.svelte";
  import Choice from "../fields/Choice.svelte";
  import { allRead } from "../fields/reading";
  import { faultsOf, say } from "../fields/say";
  import { known } from "../reference.svelte";
  import Aparts from "./Aparts.svelte";
  import ChartPaste from "./ChartPaste.svelte";
  import Elongation from "./Elongation.svelte";
  import Inspections from "./Inspections.svelte";
  import ItemFigures, { figureFields } from "./ItemFigures.svelte";
  import SetAside from "./SetAside.svelte";
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
  /** What waits on this device: an item, the kept one that it was made from, and what is still to be answered. */
  interface Waits {
    base: ItemHead;
    item: Item;
    aparts?: MergedItem["aparts"];
  }
  const left = untrack(() => unsaved());
  let item = $state<Item>(untrack(() => left?.item ?? structuredClone($state.snapshot(head.item))));
  /** What both changed, each otherwise, and nobody has said yet which it is to be. */
  let aparts = $state.raw<MergedItem["aparts"]>(left?.aparts ?? []);
  let together = $state("");
  /** What is here was made from it: it may be older than what the locker has, which is found out when it is saved. */
  let base = $state.raw<ItemHead>(untrack(() => left?.base ?? head));
  let faults = $state<Fault[]>([]);
  let trouble = $state("");
  let busy = $state(false);
  let dirty = $derived(JSON.stringify($state.snapshot(item)) !== JSON.stringify(base.item));
  let fresh = $derived(head.revision === 0);
  let has = $derived((field: string) => known.get().gear[item.kind]?.includes(field) ?? false);

  // What is typed and not yet saved stays on this device.
  $effect(() => {
    const waits: Waits = { base, item: $state.snapshot(item) as Item, aparts };
    try {
      if (dirty || aparts.length) localStorage.setItem(slot, JSON.stringify(waits));
      else localStorage.removeItem(slot);
    } catch {
      // A browser that keeps nothing: the form itself still does.
    }
  });

  function unsaved(): Waits | null {
    try {
      const kept = JSON.parse(localStorage.getItem(slot) ?? "null") as Waits | Item | null;
      // An older version kept the item alone.
      return kept && "kind" in kept ? { base: head, item: kept } : kept;
    } catch {
      return null;
    }
  }

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
    ...figureFields,
    "elongation",
    "chart",
    "inspections",
    "in_service",
  ];

  function set<K extends keyof Item>(field: K, value: Item[K] | undefined) {
    if (value === undefined || value === "") Reflect.deleteProperty(item, field);
    else item[field] = value;
  }

  /** Brings what is here, made from an item, together with what the locker has now. False: something is to be asked, or it did not work. */
  async function bringTogether(newest: ItemHead): Promise<boolean> {
    const reply = await core
      .mergeItem(base.item, $state.snapshot(item) as Item, newest.item)
      .catch(() => null);
    if (!reply?.data) {
      trouble =
        reply?.faults?.map(say).join(" ") ||
        "Somebody else has changed this item since. What you typed is kept on this device.";
      return false;
    }
    item = reply.data.item;
    aparts = reply.data.aparts;
    base = newest;
    together = "Somebody else has changed this item too: both changes are here together.";
    onsaved(newest);
    return aparts.length === 0;
  }

  /** Says which of two it is to be. */
  function settle(apart: MergedItem["aparts"][number], theirs: boolean) {
    if (theirs) {
      const look = /^inspection of (\S+) by (.*)$/.exec(apart.field);
      if (look) {
        const others = (item.inspections ?? []).filter(
          (one) => one.on !== look[1] || one.by !== look[2],
        );
        const list = apart.theirs ? [...others, apart.theirs as never] : others;
        set("inspections", list.length ? list : undefined);
      } else if (apart.field === "rating") {
        const rating = apart.theirs as Pick<Item, "marked_kn" | "breaking_kn">;
        set("marked_kn", rating.marked_kn);
        set("breaking_kn", rating.breaking_kn);
      } else set(apart.field as keyof Item, (apart.theirs ?? undefined) as never);
    }
    aparts = aparts.filter((one) => one !== apart);
  }

  async function save() {
    if (busy || aparts.length) return;
    trouble = together = "";
    if (!(await allRead())) {
      trouble = "A field above is not understood yet: nothing was saved.";
      return;
    }
    busy = true;
    try {
      // Whoever saves meanwhile is brought in, and it is tried again.
      for (let tries = 0; tries < 4; tries++) {
        const { data, error, response } = await api.PUT("/api/locker/items/{id}", {
          params: { path: { id: item.id }, header: { "If-Match": `"${base.revision}"` } },
          body: $state.snapshot(item) as Item,
        });
        if (data) {
          faults = [];
          localStorage.removeItem(slot);
          item = structuredClone(data.item);
          base = data;
          onsaved(data);
          return;
        }
        const newest =
          response.status === 412
            ? await api.GET("/api/locker/items/{id}", { params: { path: { id: item.id } } })
            : null;
        if (!newest?.data) {
          faults = faultsOf(error);
          if (!faults.length) trouble = explain(newest?.error ?? error);
          return;
        }
        if (!(await bringTogether(newest.data))) return;
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
    base = head;
    faults = [];
    aparts = [];
    together = "";
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
    <ItemFigures {item} {has} {fault} {set} />
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
    <Elongation
      rows={item.elongation ?? []}
      fault={fault("elongation")}
      onchange={(rows) => set("elongation", rows)}
    />
  {/if}

  {#if has("chart")}
    <ChartPaste
      chart={item.chart ?? []}
      fault={fault("chart")}
      onchange={(chart) => set("chart", chart.length ? chart : undefined)}
    />
  {/if}

  <Inspections
    looks={item.inspections ?? []}
    fault={fault("inspections")}
    onchange={(looks) => set("inspections", looks)}
  />

  <SetAside aside={item.set_aside} onchange={(aside) => set("set_aside", aside)} />

  <label class="block">
    <span class="mb-0.5 block text-sm font-medium">Note</span>
    <textarea
      class="textarea w-full px-2 text-base"
      rows="2"
      maxlength="2000"
      value={item.note ?? ""}
      onchange={(e) => set("note", e.currentTarget.value.trim())}></textarea>
  </label>

  {#if together}<p
      role="status"
      class="scroll-mb-24 border-l-4 border-info py-1 pl-3"
      {@attach (said) => said.scrollIntoView({ block: "center" })}
    >
      {together}
    </p>{/if}
  <Aparts {aparts} onsettle={settle} />

  {#if trouble || elsewhere.length}
    <div role="alert" class="border-l-4 border-error py-1 pl-3 text-error">
      {#if trouble}<p>{trouble}</p>{/if}
      {#each elsewhere as one, at (at)}<p>{say(one)}</p>{/each}
    </div>
  {/if}

  <div class="sticky bottom-0 -mx-4 flex gap-2 border-t border-base-300 bg-base-100 p-3">
    <button
      class="btn touch grow btn-primary"
      disabled={busy || aparts.length > 0 || (!dirty && !fresh)}
    >
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
