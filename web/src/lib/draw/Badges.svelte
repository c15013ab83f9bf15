<script lang="ts">
  // The numbers of the picks, on what they take.
  import type { Assessment } from "../api/client";
  import type { Session } from "../session/session.svelte";
  import { put, type View } from "./view";

  interface Props {
    session: Session;
    assessment: Assessment;
    view: View;
  }

  let { session, assessment, view }: Props = $props();

  let badges = $derived(
    assessment.picks.flatMap((p) => {
      const document = session.job.picks.find((one) => one.id === p.id);
      // What came off before is no longer there to press.
      if (!document || !p.middle || p.number < session.index + 1) return [];
      return [{ ...put(view, p.middle), figures: p }];
    }),
  );
</script>

{#each badges as badge (badge.figures.id)}
  {@const chosen = session.chosen.includes(badge.figures.id)}
  <g
    transform={`translate(${badge.x} ${badge.y})`}
    class="pointer-events-none text-[11px] font-bold"
    opacity={badge.figures.done ? 0.4 : 1}
  >
    <circle
      r={chosen ? 11 : 8.5}
      class={chosen ? "fill-primary" : "fill-base-100 stroke-base-content"}
      stroke-width="1"
    />
    <text y="4" text-anchor="middle" class={chosen ? "fill-primary-content" : "fill-base-content"}
      >{badge.figures.number}</text
    >
  </g>
{/each}
