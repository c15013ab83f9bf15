<script lang="ts">
  import { resolve } from "$app/paths";
  import { page } from "$app/state";

  const places = [
    ["/", "Jobs"],
    ["/bench", "Bench"],
    ["/locker", "Locker"],
    ["/policy", "Policy"],
  ] as const;
</script>

<nav class="flex" aria-label="Places">
  {#each places as [route, title] (route)}
    {@const here = route === "/" ? page.route.id === "/" : (page.route.id ?? "").startsWith(route)}
    <a
      href={resolve(route)}
      aria-current={here ? "page" : undefined}
      class={[
        "flex touch items-center border-b-3 px-3 font-semibold max-sm:px-1.5 max-sm:text-sm",
        here ? "border-primary" : "border-transparent faint",
      ]}>{title}</a
    >
  {/each}
</nav>
