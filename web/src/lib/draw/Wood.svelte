<script lang="ts">
  import type { Session } from "../session/session.svelte";
  import type { TreeFigures } from "../api/client";
  import { brush, limbPath, put, stemPath, type View } from "./view";

  interface Props {
    session: Session;
    /** The tree's place among the trees. */
    index: number;
    figures: TreeFigures;
    view: View;
    /** As it stands today, whatever is planned with it. */
    whole: boolean;
    onpress: (event: PointerEvent | MouseEvent, limb: string | undefined, twice: boolean) => void;
  }

  let { session, index, figures, view, whole, onpress }: Props = $props();

  let shape = $derived(figures.shape);
  let stem = $derived(figures.stem);
  let bottom = $derived(stem[0]?.at_m ?? 0);
  let top = $derived(stem.at(-1)?.at_m ?? 1);
  let standing = $derived(whole ? null : (session.detail?.stands[index] ?? figures.left));
  let stands = $derived(standing?.top_m ?? top);
  let tips = $derived(standing?.tips_m ?? []);
  let limbs = $derived(session.job.trees[index]?.limbs ?? []);
  let pick = $derived(
    !whole && session.pick && session.treeOf(session.pick) === index ? session.pick : null,
  );
  let cut = $derived(session.figures?.from_m ?? 0);
  // While the cut is dragged the drawing follows the document, not the figures.
  let at = $derived(pick?.cut_m ?? cut);
  let takesStem = $derived(pick !== null && pick.what !== "limb");
  let taken = $derived((i: number) => {
    const limb = limbs[i];
    if (!pick || !limb) return null;
    if (pick.what === "limb") {
      if (limb.id === pick.limb) return at;
      return limb.parent === pick.limb && limb.at_m >= at ? 0 : null;
    }
    const root = limb.parent ? limbs.find((l) => l.id === limb.parent) : limb;
    return pick.what === "top" && root && root.at_m >= at ? 0 : null;
  });
  let hollow = $derived(stem.filter((s) => s.cavity_m && s.at_m < stands).at(-1)?.at_m);
</script>

<!-- Below the lowest reading nothing was measured -->
{#if bottom > 0}
  {@const foot = put(view, { ...shape.foot, z: 0 })}
  {@const low = stemPath(view, shape, stem, bottom, bottom + 0.01)}
  <path d={low} class="stroke-base-content" stroke-width="1" fill="none" />
  <path
    d={`M${foot.x - (stem[0]?.diameter_m ?? 0) * view.perMetre * 0.53} ${foot.y}v${-bottom * view.perMetre}m${(stem[0]?.diameter_m ?? 0) * view.perMetre * 1.06} 0v${bottom * view.perMetre}`}
    class="stroke-base-content"
    stroke-width="1.2"
    stroke-dasharray="3 3"
    fill="none"
  />
{/if}

<!-- Limbs: what is gone, what stands, what comes off -->
{#each shape.limbs as limb, i (limb.id)}
  {@const whole = limbs[i]?.length_m ?? 1}
  {@const tip = tips[i] ?? whole}
  {@const off = taken(i)}
  {#if tip < whole}
    <path
      d={limbPath(view, limb, tip / whole, 1)}
      class="fill-none stroke-base-content"
      stroke-width="0.7"
      stroke-dasharray="2 3"
      opacity="0.3"
    />
  {/if}
  {#if tip > 0}
    <!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
    <g
      onclick={(e) => onpress(e, limb.id, false)}
      ondblclick={(e) => onpress(e, limb.id, true)}
      class="cursor-pointer"
      data-testid={`limb-${limb.id}`}
    >
      <path
        d={limbPath(view, limb, 0, tip / whole)}
        stroke="transparent"
        stroke-width="16"
        fill="none"
      />
      {#if off === null || off > 0}
        <path
          d={limbPath(view, limb, 0, (off ?? tip) / whole)}
          class="fill-[var(--wood)] stroke-base-content"
          stroke-width="1.1"
          stroke-linejoin="round"
        />
      {/if}
      {#if off !== null}
        <path
          d={limbPath(view, limb, off / whole, tip / whole)}
          class="fill-primary/20 stroke-primary"
          stroke-width="1.8"
          stroke-linejoin="round"
        />
      {/if}
      {#if limbs[i]?.brush !== "bare" && tip >= whole}
        <path
          d={brush(view, limb, 1)}
          class={off === null ? "stroke-success" : "stroke-primary"}
          stroke-width="1.1"
          fill="none"
          opacity="0.75"
        />
      {/if}
      <title>{limb.title}</title>
    </g>
  {/if}
{/each}

<!-- The stem -->
{#if stands < top}
  <path
    d={stemPath(view, shape, stem, stands, top)}
    class="fill-none stroke-base-content"
    stroke-width="0.8"
    stroke-dasharray="3 3"
    opacity="0.35"
  />
{/if}
<!-- svelte-ignore a11y_click_events_have_key_events, a11y_no_static_element_interactions -->
<g
  onclick={(e) => onpress(e, undefined, false)}
  ondblclick={(e) => onpress(e, undefined, true)}
  class="cursor-pointer"
  data-testid="stem"
>
  {#if !takesStem || at > bottom}
    <path
      d={stemPath(view, shape, stem, bottom, takesStem ? Math.min(at, stands) : stands)}
      class="fill-[var(--wood)] stroke-base-content"
      stroke-width="1.5"
      stroke-linejoin="round"
    />
  {/if}
  {#if takesStem && at < stands}
    <path
      d={stemPath(view, shape, stem, Math.max(bottom, at), stands)}
      class="fill-primary/20 stroke-primary"
      stroke-width="2"
      stroke-linejoin="round"
    />
  {/if}
  {#if hollow !== undefined && hollow > bottom}
    <path
      d={stemPath(view, shape, stem, bottom, hollow, "cavity")}
      fill="none"
      class="stroke-base-content"
      stroke-width="1.2"
      stroke-dasharray="5 3.5"
    />
  {/if}
</g>
