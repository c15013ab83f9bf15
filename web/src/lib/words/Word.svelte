<script lang="ts">
  // A word that says what it means when it is pressed, where it stands.
  import Meaning from "./Meaning.svelte";
  import { glossary, type Word } from "./words";

  let { of, children }: { of: string; children?: import("svelte").Snippet } = $props();

  let found = $state.raw<Word | null>(null);
  let open = $state(false);

  async function look() {
    open = !open;
    if (!open || found) return;
    const asked = of.toLowerCase();
    const words = await glossary().catch(() => []);
    found =
      words.find((w) => w.word === asked) ??
      words.find((w) => w.also?.some((other) => other.toLowerCase() === asked)) ??
      null;
  }
</script>

<button
  type="button"
  class="cursor-help underline decoration-dotted underline-offset-4"
  aria-expanded={open}
  onclick={look}
  >{#if children}{@render children()}{:else}{of}{/if}</button
>
{#if open}
  <span class="my-1 block border-l-4 border-info pl-2" role="note">
    {#if found}<Meaning one={found} />{:else}That word is not in the glossary yet.{/if}
  </span>
{/if}
