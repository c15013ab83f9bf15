<script lang="ts">
  import type { PageProps } from "./$types";
  import Bench from "$lib/Bench.svelte";

  let { data }: PageProps = $props();
</script>

{#key data.head.id}
  <Bench head={data.head} />
{/key}
