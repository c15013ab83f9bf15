<script lang="ts">
  import type { PageProps } from "./$types";
  import Briefing from "./Briefing.svelte";

  let { data }: PageProps = $props();
</script>

{#key data.head.id}
  <Briefing head={data.head} />
{/key}
