<script lang="ts">
  // What a weight rests on: the same word and mark wherever it stands.
  import type { PickFigures } from "../api/client";

  let { basis }: { basis: PickFigures["basis"] } = $props();
</script>

{#if basis === "guess"}
  <span class="badge align-middle badge-sm badge-warning">guess</span>
{:else if basis === "one reading"}
  <span class="badge badge-outline align-middle badge-sm badge-warning">one reading</span>
{:else if basis === "weighed"}
  <span class="badge badge-outline align-middle badge-sm font-bold">weighed</span>
{:else}
  <span class="text-xs font-normal faint italic">{basis}</span>
{/if}
