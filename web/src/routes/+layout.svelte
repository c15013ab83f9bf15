<script lang="ts">
  import type { Snippet } from "svelte";
  import "../app.css";
  import { known } from "$lib/reference.svelte";

  let { children }: { children: Snippet } = $props();
</script>

{#if known.reference}
  {@render children()}
{:else}
  <main class="mx-auto max-w-md p-8">
    <h1 class="text-2xl font-semibold">The server does not answer</h1>
    <p class="mt-2 faint">Nothing is lost: what was not saved is kept on this device.</p>
    <button class="btn mt-6 touch btn-primary" onclick={() => known.load()}>Try again</button>
  </main>
{/if}
