<script lang="ts">
  import Icon from "../Icon.svelte";
  import StumpIcon from "lucide-static/icons/circle-dot-dashed.svg?raw";
  import MapIcon from "lucide-static/icons/map.svg?raw";
  import RotateLeft from "lucide-static/icons/rotate-ccw.svg?raw";
  import RotateRight from "lucide-static/icons/rotate-cw.svg?raw";
  import TreeIcon from "lucide-static/icons/tree-deciduous.svg?raw";
  import Zoom from "lucide-static/icons/zoom-in.svg?raw";
  import { wind } from "../draw/view";
  import type { View } from "./view.svelte";

  /** What is drawn large, and how the tree is turned. */
  let { view, stump }: { view: View; stump: boolean } = $props();

  const larges = [
    { id: "tree", title: "The tree, large", icon: TreeIcon },
    { id: "plan", title: "The plan, large (P)", icon: MapIcon },
    { id: "stump", title: "The stump, large (U)", icon: StumpIcon },
  ] as const;
</script>

<div class="flex rounded bg-base-100">
  {#each larges as one (one.id)}
    {#if one.id !== "stump" || stump}
      <button
        class={["btn touch btn-ghost px-2", view.large === one.id && "text-primary"]}
        aria-label={one.title}
        title={one.title}
        aria-pressed={view.large === one.id}
        onclick={() => (view.large = one.id)}><Icon of={one.icon} size={18} /></button
      >
    {/if}
  {/each}
  {#if view.large === "tree"}
    <button
      class="btn touch btn-ghost px-2"
      aria-label="Turn the tree left"
      title="Turn the tree left ([)"
      onclick={() => view.turn(-15)}><Icon of={RotateLeft} size={18} /></button
    >
    <span class="self-center text-sm font-semibold" data-testid="looking"
      >looking {wind(view.right + 270)}</span
    >
    <button
      class="btn touch btn-ghost px-2"
      aria-label="Turn the tree right"
      title="Turn the tree right (])"
      onclick={() => view.turn(15)}><Icon of={RotateRight} size={18} /></button
    >
    <button
      class="btn touch btn-ghost px-2"
      aria-label={view.close ? "The whole tree" : "Close up"}
      title="Close up, or the whole tree (Z)"
      aria-pressed={view.close}
      onclick={() => (view.close = !view.close)}><Icon of={Zoom} size={18} /></button
    >
  {/if}
</div>
