<script lang="ts">
  import type { Snippet } from "svelte";
  import { resolve } from "$app/paths";
  import Icon from "./Icon.svelte";
  import Sun from "lucide-static/icons/sun.svg?raw";
  import Moon from "lucide-static/icons/moon.svg?raw";
  import { preferences } from "./preferences.svelte";

  let { children }: { children?: Snippet } = $props();
  let otherUnits = $derived(preferences.units === "us" ? "metric" : "US");
</script>

<header class="flex h-14 shrink-0 items-center gap-1 border-b border-base-300 px-2 sm:px-4">
  <a
    href={resolve("/")}
    class="flex touch shrink-0 items-center gap-2 pr-2 text-lg font-bold tracking-tight whitespace-nowrap"
    aria-label="Elk Stay: all jobs"
  >
    <svg viewBox="0 0 32 32" class="size-7" aria-hidden="true">
      <path
        d="M11 4 9.5 27M20 4l2 23"
        class="fill-none stroke-base-content"
        stroke-width="2"
        stroke-linecap="round"
      />
      <path d="M3 14h26" class="stroke-primary" stroke-width="2.5" stroke-dasharray="5 2.5" />
      <path d="M3 27h26" class="stroke-base-content" stroke-width="2" stroke-linecap="round" />
    </svg>
    <span class="hidden sm:inline">Elk Stay</span>
  </a>
  <div class="flex min-w-0 grow items-center gap-1">
    {@render children?.()}
  </div>
  <button
    class="btn touch btn-ghost px-3"
    onclick={() => preferences.switchUnits()}
    aria-label={`${preferences.units === "us" ? "ft · lb" : "m · kg"}, the units. Switch to ${otherUnits}`}
  >
    {preferences.units === "us" ? "ft · lb" : "m · kg"}
  </button>
  <button
    class="btn touch btn-ghost px-2"
    onclick={() => preferences.switchTheme()}
    aria-label={preferences.theme === "dusk" ? "Daylight theme" : "Dusk theme"}
  >
    {#if preferences.theme === "dusk"}<Icon of={Sun} size={20} />{:else}<Icon
        of={Moon}
        size={20}
      />{/if}
  </button>
</header>
