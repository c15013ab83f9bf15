<script lang="ts">
  import type { PageProps } from "./$types";
  import Survey from "./Survey.svelte";

  let { data }: PageProps = $props();
</script>

{#key data.head.id}
  <Survey head={data.head} />
{/key}
