<script lang="ts">
  import type { PageProps } from "./$types";
  import OnGround from "./OnGround.svelte";

  let { data }: PageProps = $props();
</script>

{#key data.head.id}
  <OnGround head={data.head} />
{/key}
