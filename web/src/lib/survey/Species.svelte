<script lang="ts">
  import { known, print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";

  let { session }: { session: Session } = $props();

  let search = $state("");
  const all = known.get().species.toSorted((a, b) => (a.common_name < b.common_name ? -1 : 1));
  let chosen = $derived(session.tree.wood.species);
  let found = $derived(
    all.filter((s) =>
      `${s.common_name} ${s.botanical_name} ${s.also}`
        .toLowerCase()
        .includes(search.trim().toLowerCase()),
    ),
  );
  let now = $derived(all.find((s) => s.id === chosen));

  function choose(id: string) {
    void session.change((job) => (session.treeIn(job).wood = { species: id }));
  }
</script>

{#if now}
  <p class="mb-2 text-xl font-bold">{now.common_name}</p>
  <p class="mb-3 text-sm faint">
    {now.botanical_name} · {print("mass", now.density_kg_m3.low)} to {print(
      "mass",
      now.density_kg_m3.high,
    )} a cubic metre, green
  </p>
{/if}
<input
  class="input mb-2 h-12 w-full px-3 text-lg"
  aria-label="Search the species"
  placeholder="search"
  bind:value={search}
/>
<ul aria-label="Species">
  {#each found as s (s.id)}
    <li>
      <button
        class={[
          "flex h-14 w-full cursor-pointer items-center justify-between gap-2 border-b border-base-300 px-2 text-left",
          s.id === chosen && "border-l-4 border-l-primary bg-base-200",
        ]}
        aria-pressed={s.id === chosen}
        onclick={() => choose(s.id)}
      >
        <span class="min-w-0 text-lg leading-tight font-semibold">
          {s.common_name}
          {#if s.also}<span class="block truncate text-sm font-normal faint">{s.also}</span>{/if}
        </span>
        <span class="truncate text-sm faint italic">{s.botanical_name}</span>
      </button>
    </li>
  {:else}
    <li class="p-2 faint">
      No species of that name. Choose the nearest in weight; it can be changed.
    </li>
  {/each}
</ul>
