<script lang="ts">
  import type { SightRead } from "../api/client";
  import Working from "../ladder/Working.svelte";

  interface Props {
    read: SightRead | null;
    refusal: string;
    says: (value: number) => string;
    ontake: (read: SightRead) => void;
  }

  let { read, refusal, says, ontake }: Props = $props();

  // On a phone the sum comes out beneath the fold.
  function seen(node: HTMLElement) {
    node.scrollIntoView({ block: "nearest" });
  }
</script>

{#if refusal}
  <p role="alert" class="border-l-4 border-error pl-3 text-error">{refusal}</p>
{:else if read}
  {@const sum = read}
  <div class="space-y-2 border-l-4 border-primary pl-3" data-testid="sighted" use:seen>
    <p class="text-4xl leading-none font-bold">{says(sum.value)}</p>
    <p class="font-semibold">{says(sum.low)} to {says(sum.high)}</p>
    {#each sum.cautions as caution, at (at)}
      <p class="border-l-4 border-warning pl-2 text-sm">{caution}</p>
    {/each}
    <details>
      <summary class="touch cursor-pointer content-center text-sm font-medium">The sum</summary>
      <Working steps={sum.working} />
    </details>
    <button class="btn h-14 w-full text-lg btn-primary" onclick={() => ontake(sum)}>Take it</button>
  </div>
{/if}
