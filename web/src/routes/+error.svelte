<script lang="ts">
  import { invalidateAll } from "$app/navigation";
  import { resolve } from "$app/paths";
  import { page } from "$app/state";
</script>

<svelte:head><title>Elk Stay</title></svelte:head>

<main class="mx-auto max-w-md p-8">
  <h1 class="text-2xl font-semibold">
    {page.status === 404 ? "There is nothing here" : "This page cannot be shown"}
  </h1>
  <p class="mt-2 faint">{page.error?.message}</p>
  <div class="mt-6 flex gap-2">
    <button class="btn touch btn-primary" onclick={() => invalidateAll()}>Try again</button>
    <a class="btn touch btn-outline" href={resolve("/")}>All jobs</a>
  </div>
</main>
