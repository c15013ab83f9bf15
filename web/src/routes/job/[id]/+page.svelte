<script lang="ts">
  import type { PageProps } from "./$types";
  import Board from "./Board.svelte";

  let { data }: PageProps = $props();
</script>

{#key data.head.id}
  <Board head={data.head} figures={data.figures} />
{/key}
