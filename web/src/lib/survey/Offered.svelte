<script lang="ts">
  // A reading that was offered, not measured, and the press that says the tape reads so.
  import type { Session } from "../session/session.svelte";

  let { session, i }: { session: Session; i: number } = $props();
</script>

<div class="mt-1 flex items-center gap-2">
  <p class="grow text-sm font-semibold text-warning">
    Offered, not measured: write down what the tape says.
  </p>
  <button
    class="btn touch btn-outline"
    onclick={() =>
      session.change((job) => {
        const one = session.treeIn(job).readings[i];
        if (one) delete one.offered;
      })}>The tape says so</button
  >
</div>
