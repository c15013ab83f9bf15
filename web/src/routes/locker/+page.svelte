<script lang="ts">
  import { goto } from "$app/navigation";
  import { resolve } from "$app/paths";
  import { page } from "$app/state";
  import Icon from "$lib/Icon.svelte";
  import Download from "lucide-static/icons/download.svg?raw";
  import Upload from "lucide-static/icons/upload.svg?raw";
  import { api, explain, newId, type ItemHead } from "$lib/api/client";
  import Choice from "$lib/fields/Choice.svelte";
  import ItemForm from "$lib/locker/ItemForm.svelte";
  import { rows } from "$lib/locker/rows.svelte";
  import StandingMark from "$lib/locker/StandingMark.svelte";
  import { kinds, kindWord } from "$lib/locker/words";
  import Nav from "$lib/Nav.svelte";
  import { print } from "$lib/reference.svelte";
  import Topbar from "$lib/Topbar.svelte";

  /** Rows drawn at first, and again each time the end comes into sight. */
  const screenful = 80;
  let search = $state("");
  let kind = $state("");
  let standing = $state("");
  let shown = $state(screenful);
  let head = $state.raw<ItemHead | null>(null);
  let trouble = $state("");
  let deleted = $state.raw<ItemHead | null>(null);

  void rows.load();
  let found = $derived(rows.find(search, kind ? [kind] : [], standing));
  let barred = $derived((rows.items ?? []).filter((item) => item.standing.barred).length);
  let chosen = $derived(page.url.searchParams.get("item"));

  $effect(() => {
    void search;
    void kind;
    void standing;
    shown = screenful;
  });

  $effect(() => {
    const id = chosen;
    if (!id) head = null;
    else if (id === "new") head = blank("rope");
    else void open(id);
  });

  async function open(id: string) {
    trouble = "";
    const { data, error } = await api
      .GET("/api/locker/items/{id}", { params: { path: { id } } })
      .catch(() => ({ data: undefined, error: null }));
    if (id !== chosen) return;
    head = data ?? null;
    if (!data) trouble = explain(error);
  }

  function blank(of: ItemHead["item"]["kind"]): ItemHead {
    return {
      revision: 0,
      item: { id: newId(), kind: of, name: "" },
      standing: { state: "not inspected", why: "", barred: false },
    };
  }

  const show = (id: string | null) =>
    goto(resolve(id ? `/locker?item=${id}` : "/locker"), { noScroll: true, keepFocus: true });

  function saved(next: ItemHead) {
    const made = head?.revision === 0;
    head = next;
    void rows.load();
    if (made) void show(next.item.id);
  }

  async function bringBack(gone: ItemHead) {
    const { error } = await api.POST("/api/locker/items/{id}/restore", {
      params: { path: { id: gone.item.id } },
    });
    if (error) trouble = explain(error);
    else {
      deleted = null;
      void rows.load();
    }
  }

  /** Draws more when the end of what is drawn comes into sight. */
  function more(node: HTMLElement) {
    const seen = new IntersectionObserver((entries) => {
      if (entries.some((entry) => entry.isIntersecting)) shown += screenful;
    });
    seen.observe(node);
    return { destroy: () => seen.disconnect() };
  }
</script>

<svelte:head><title>Locker · Elk Stay</title></svelte:head>

<div class="flex h-dvh flex-col overflow-hidden">
  <Topbar><Nav /></Topbar>
  <div class="grid min-h-0 grow lg:grid-cols-[minmax(0,1fr)_30rem]">
    <main class={["flex min-h-0 flex-col", chosen && "max-lg:hidden"]}>
      <div class="space-y-3 border-b border-base-300 p-4">
        <div class="flex flex-wrap items-baseline gap-x-4">
          <h1 class="text-3xl font-bold tracking-tight">Locker</h1>
          {#if rows.items}
            <p class="font-semibold">
              {rows.items.length.toLocaleString("en")}{rows.total > rows.items.length
                ? ` of ${rows.total.toLocaleString("en")}`
                : ""} items
              {#if barred}
                · <button
                  class="cursor-pointer text-error underline"
                  onclick={() => (standing = standing === "barred" ? "" : "barred")}
                  >{barred} not to be planned with</button
                >
              {/if}
            </p>
          {/if}
        </div>
        <div class="flex flex-wrap items-end gap-2">
          <label class="min-w-0 grow basis-48">
            <span class="mb-0.5 block text-sm font-medium">Search</span>
            <input
              class="input touch w-full px-2 text-base"
              type="search"
              placeholder="name or serial"
              bind:value={search}
            />
          </label>
          <div class="grow basis-32">
            <Choice
              label="Kind"
              value={kind}
              options={[
                ["", "all kinds"],
                ...kinds.map(([id, , many]): [string, string] => [id, many]),
              ]}
              onchoose={(v) => (kind = v)}
            />
          </div>
          <div class="grow basis-32">
            <Choice
              label="Standing"
              value={standing}
              options={[
                ["", "any"],
                ["ready", "ready"],
                ["due soon", "due soon"],
                ["not inspected", "not inspected"],
                ["barred", "not to be planned with"],
                ["overdue", "overdue"],
                ["set aside", "set aside"],
                ["retired", "retired"],
              ]}
              onchoose={(v) => (standing = v)}
            />
          </div>
        </div>
        <div class="flex flex-wrap gap-2">
          <a class="btn touch btn-primary" href={resolve("/locker?item=new")}>Add an item</a>
          <a class="btn touch btn-outline" href={resolve("/locker/import")}
            ><Icon of={Upload} size={18} /> Import</a
          >
          <a
            class="btn touch btn-outline"
            href="/api/locker/file?format=xlsx"
            download
            rel="external"><Icon of={Download} size={18} /> XLSX</a
          >
          <a
            class="btn touch btn-outline"
            href="/api/locker/file?format=csv"
            download
            rel="external"><Icon of={Download} size={18} /> CSV</a
          >
        </div>
      </div>
      <div class="relative min-h-0 grow overflow-y-auto">
        {#if rows.trouble}
          <div role="alert" class="m-4 border-l-4 border-error py-2 pl-3">
            <p class="font-semibold text-error">{rows.trouble}</p>
            <button class="btn mt-3 touch btn-outline" onclick={() => rows.load()}>Try again</button
            >
          </div>
        {:else if rows.items?.length === 0}
          <p class="p-6 text-lg faint">
            The locker is empty. Add an item, or import a table: kind, name, serial, marked_kn,
            breaking_kn.
          </p>
        {:else if rows.items && found.length === 0}
          <p class="p-6 text-lg faint">Nothing in the locker fits all of that.</p>
        {:else}
          <ul aria-label="Items" data-count={found.length}>
            {#each found.slice(0, shown) as item (item.id)}
              <li class="border-b border-base-300">
                <a
                  href={resolve(`/locker?item=${item.id}`)}
                  data-sveltekit-noscroll
                  aria-current={item.id === chosen ? "true" : undefined}
                  class={[
                    "grid touch grid-cols-[minmax(0,1fr)_auto] items-center gap-x-4 px-4 py-2 hover:bg-base-200 sm:grid-cols-[minmax(0,1fr)_7rem_10rem]",
                    item.id === chosen && "bg-base-200",
                  ]}
                >
                  <span class="min-w-0">
                    <span class="block truncate text-lg font-semibold">{item.name}</span>
                    <span class="block truncate text-sm faint"
                      >{kindWord(item.kind)}{item.serial ? ` · ${item.serial}` : ""}{item.length_m
                        ? ` · ${print("height", item.length_m)}`
                        : ""}</span
                    >
                  </span>
                  <span class="text-right">
                    {#if item.limit_kn !== null}
                      <span class="block text-lg font-bold">{print("force", item.limit_kn)}</span>
                      <span class="block text-xs faint"
                        >{item.marked ? "as marked" : "by policy"}</span
                      >
                    {/if}
                  </span>
                  <span class="max-sm:col-span-2">
                    <StandingMark standing={item.standing} />
                    <span class="block text-xs faint"
                      >{item.next_due ? `next ${item.next_due}` : ""}</span
                    >
                  </span>
                </a>
              </li>
            {/each}
          </ul>
          {#if shown < found.length}
            {#key shown}<p use:more class="p-4 faint">{found.length - shown} more below</p>{/key}
          {/if}
        {/if}
      </div>
    </main>
    <aside
      class={[
        "relative min-h-0 overflow-y-auto border-base-300 lg:border-l",
        !chosen && "max-lg:hidden",
      ]}
      aria-label="One item"
    >
      {#if head}
        {#key head.item.id}
          <ItemForm
            {head}
            onsaved={saved}
            ondeleted={(gone) => {
              deleted = gone;
              void rows.load();
              void show(null);
            }}
            onclose={() => show(null)}
          />
        {/key}
      {:else if trouble}
        <p role="alert" class="p-6 text-error">{trouble}</p>
      {:else}
        <div class="p-6">
          <h2 class="text-xl font-bold">What a limit rests on</h2>
          <p class="mt-2 faint">
            A working load marked by the maker wins. Else the breaking strength, less what knot,
            bend and condition take, over the crew’s design factor. The ladder says which decided.
          </p>
          <p class="mt-2 faint">
            The maker’s instructions and a competent person who has looked at the item come first.
          </p>
        </div>
      {/if}
    </aside>
  </div>
  {#if deleted}
    {@const gone = deleted}
    <div
      role="status"
      class="fixed inset-x-0 bottom-0 flex items-center justify-center gap-4 bg-neutral p-3 text-neutral-content"
    >
      <span class="truncate">Taken out of the locker: “{gone.item.name}”.</span>
      <button class="btn touch" onclick={() => bringBack(gone)}>Undo</button>
      <button class="btn touch btn-ghost" onclick={() => (deleted = null)}>Close</button>
    </div>
  {/if}
</div>
