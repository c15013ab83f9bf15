<script lang="ts">
  // What one word means, with its drawing.
  import type { Word } from "./words";

  let { one }: { one: Word } = $props();
</script>

<div class="flex gap-3">
  <div class="min-w-0 grow">
    <p class="text-lg font-bold">
      {one.word}
      {#if one.also?.length}<span class="text-sm font-normal faint">also {one.also.join(", ")}</span
        >{/if}
      {#if one.ours}<span class="text-sm font-normal faint">· a word of this application</span>{/if}
    </p>
    <p>{one.means}</p>
  </div>
  {#if one.picture}
    <svg viewBox="0 0 48 32" class="h-14 w-20 shrink-0" aria-hidden="true">
      <path
        d={one.picture}
        class="fill-none stroke-base-content"
        stroke-width="2"
        stroke-linecap="round"
        stroke-linejoin="round"
      />
    </svg>
  {/if}
</div>
