<script lang="ts">
  import type { Assessment } from "../api/client";

  /** What a job without a tree asks for. */
  let { assessment, onenter }: { assessment: Assessment; onenter: () => void } = $props();
</script>

<div class="flex grow items-center justify-center p-8">
  <div class="max-w-sm">
    <h2 class="text-2xl font-bold">First, the tree</h2>
    <ol class="mt-3 list-decimal space-y-1 pl-5 text-lg">
      {#each assessment.missing as missing (missing.location)}<li>{missing.ask}</li>{/each}
    </ol>
    {#each assessment.faults as fault, at (at)}
      <p class="mt-3 text-error">{fault.message}. Allowed: {fault.allowed}.</p>
    {/each}
    <button class="btn mt-5 touch btn-primary lg:hidden" onclick={onenter}
      >Enter the readings</button
    >
  </div>
</div>
