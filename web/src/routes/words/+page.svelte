<script lang="ts">
  import { page } from "$app/state";
  import { onMount } from "svelte";
  import Nav from "$lib/Nav.svelte";
  import Topbar from "$lib/Topbar.svelte";
  import Meaning from "$lib/words/Meaning.svelte";
  import { glossary, says, type Word } from "$lib/words/words";

  let words = $state.raw<Word[]>([]);
  let typed = $state("");
  let shown = $derived(
    words.filter(
      (w) => says(w, typed.trim()) || w.means.toLowerCase().includes(typed.trim().toLowerCase()),
    ),
  );

  onMount(() => {
    typed = page.url.searchParams.get("find") ?? "";
    void glossary().then((read) => (words = read));
  });
</script>

<svelte:head><title>Words · Elk Stay</title></svelte:head>

<div class="flex min-h-dvh flex-col">
  <Topbar><Nav /></Topbar>
  <main class="mx-auto w-full max-w-3xl grow p-4 pb-16 sm:p-8">
    <h1 class="text-3xl font-bold tracking-tight">Words</h1>
    <label class="input mt-4 touch w-full">
      <span class="sr-only">Find a word</span>
      <input type="search" placeholder="Find a word" maxlength="60" bind:value={typed} />
    </label>
    <p class="mt-2 text-sm faint" role="status">
      {shown.length}
      {shown.length === 1 ? "word" : "words"}. What they mean here; crews differ.
    </p>
    <ul class="mt-2" aria-label="Words">
      {#each shown as one (one.word)}
        <li class="border-t border-base-300 py-3"><Meaning {one} /></li>
      {:else}
        <li class="py-6 faint">No word has that in it.</li>
      {/each}
    </ul>
  </main>
</div>
