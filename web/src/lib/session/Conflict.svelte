<script lang="ts">
  import { when } from "../when";
  import type { Saver } from "./saver.svelte";

  let { saver }: { saver: Saver } = $props();
  let copied = $state("");

  async function both() {
    const id = await saver.keepBoth();
    copied = id ? "Yours is kept as a job of its own." : "That did not work: yours is still here.";
  }
</script>

{#if saver.state === "stale" && saver.theirs}
  <div
    role="alert"
    class="flex flex-wrap items-center gap-2 border-b-2 border-error bg-base-200 px-4 py-2"
  >
    <p class="mr-auto">
      <b>Both sides changed the same, {when(saver.theirs.saved_at)}</b> (saved elsewhere as revision {saver
        .theirs.revision}):
      {saver.conflicts.map((c) => c.title).join("; ") || "the whole job"}. All else is brought
      together. Yours is still here and is not lost.
    </p>
    <button class="btn touch btn-primary" onclick={() => saver.keepMine()}>Keep mine</button>
    <button class="btn touch btn-outline" onclick={() => saver.takeTheirs()}>Take theirs</button>
    <button class="btn touch btn-outline" onclick={both}>Keep both</button>
  </div>
{:else if saver.state === "refused"}
  <p role="alert" class="border-b-2 border-error bg-base-200 px-4 py-2">
    <b>Not saved.</b>
    {saver.reason}
  </p>
{:else if saver.state === "gone"}
  <div role="alert" class="flex items-center gap-3 border-b-2 border-error bg-base-200 px-4 py-2">
    <p class="mr-auto"><b>This job was deleted elsewhere.</b> What you have here is kept.</p>
    <button class="btn touch btn-primary" onclick={() => saver.restore()}>Bring it back</button>
  </div>
{:else if copied}
  <p role="status" class="border-b bg-base-200 px-4 py-2">{copied}</p>
{/if}
