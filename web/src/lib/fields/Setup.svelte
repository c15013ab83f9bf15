<script lang="ts">
  import { resolve } from "$app/paths";
  import Icon from "../Icon.svelte";
  import FileText from "lucide-static/icons/file-text.svg?raw";
  import Ruler from "lucide-static/icons/ruler.svg?raw";
  import type { Session } from "../session/session.svelte";
  import Defects from "../survey/Defects.svelte";
  import Gear from "./Gear.svelte";
  import Limbs from "./Limbs.svelte";
  import Limits from "./Limits.svelte";
  import Rig from "./Rig.svelte";
  import Site from "./Site.svelte";
  import Stem from "./Stem.svelte";

  let { session }: { session: Session } = $props();

  const tabs = ["Stem", "Limbs", "Rigs", "Gear", "Site", "Limits"] as const;
  let chosen = $state<(typeof tabs)[number]>("Stem");

  function onkeydown(event: KeyboardEvent) {
    const by = event.key === "ArrowRight" ? 1 : event.key === "ArrowLeft" ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    chosen = tabs[(tabs.indexOf(chosen) + by + tabs.length) % tabs.length] ?? "Stem";
    document.getElementById(`tab-${chosen}`)?.focus();
  }
</script>

<section class="flex h-full min-h-0 flex-col" aria-label="What the figures rest on">
  <div class="grid shrink-0 grid-cols-2 gap-2 p-2 sm:hidden">
    <a class="btn h-12 btn-outline" href={resolve("/job/[id]/survey", { id: session.id })}
      ><Icon of={Ruler} size={18} /> Survey</a
    >
    <a class="btn h-12 btn-outline" href={resolve("/job/[id]/briefing", { id: session.id })}
      ><Icon of={FileText} size={18} /> Briefing</a
    >
  </div>
  <div
    role="tablist"
    tabindex="-1"
    aria-label="Setup"
    class="grid shrink-0 grid-cols-6 border-b border-base-300"
    {onkeydown}
  >
    {#each tabs as tab (tab)}
      <button
        id={`tab-${tab}`}
        role="tab"
        aria-selected={chosen === tab}
        aria-controls={`panel-${tab}`}
        tabindex={chosen === tab ? 0 : -1}
        class={[
          "touch cursor-pointer border-b-3 text-sm font-semibold",
          chosen === tab ? "border-primary" : "border-transparent faint",
        ]}
        onclick={() => (chosen = tab)}>{tab}</button
      >
    {/each}
  </div>
  {#each tabs as tab (tab)}
    <div
      id={`panel-${tab}`}
      role="tabpanel"
      aria-labelledby={`tab-${tab}`}
      hidden={chosen !== tab}
      class="relative min-h-0 grow overflow-y-auto p-3"
    >
      {#if tab !== chosen}
        <!-- Drawn when it is opened. -->
      {:else if tab === "Stem"}<Stem {session} />
      {:else if tab === "Limbs"}
        <Limbs {session} />
        <h3 class="mt-5 mb-2 text-lg font-bold">What is wrong with it</h3>
        <Defects {session} />
      {:else if tab === "Rigs"}<Rig {session} />
      {:else if tab === "Gear"}<Gear {session} />
      {:else if tab === "Site"}<Site {session} />
      {:else}<Limits {session} />{/if}
    </div>
  {/each}
</section>
