<script lang="ts">
  import Icon from "../Icon.svelte";
  import ChevronDown from "lucide-static/icons/chevron-down.svg?raw";
  import type { Detail } from "../api/client";
  import { print } from "../reference.svelte";

  let { detail }: { detail: Detail } = $props();

  let advice = $derived(detail.advice);
  let best = $derived(advice?.cuts[0]);
</script>

{#if detail.face}
  <p class="border-t border-base-300 pt-2 text-sm" data-testid="face-said">{detail.face.said}</p>
{/if}
{#if advice && best}
  <details class="border-y border-base-300">
    <summary class="flex touch cursor-pointer items-center gap-2">
      <span class="text-sm font-medium">Cut</span>
      <span class="truncate font-semibold">{best.cut}</span>
      <Icon of={ChevronDown} size={16} class="ml-auto shrink-0" />
    </summary>
    <div class="space-y-3 pb-3 text-sm">
      {#each advice.cuts.slice(0, 3) as cut (cut.cut)}
        <div>
          <p class="font-bold">{cut.cut}</p>
          {#each cut.for as reason, at (at)}<p>+ {reason}</p>{/each}
          {#each cut.against as reason, at (at)}<p>− {reason}</p>{/each}
          {#each cut.dimensions as d (d.name)}
            <p class="faint">
              {d.name}: {print("diameter", d.low_m)} to {print("diameter", d.high_m)}
            </p>
          {/each}
        </div>
      {/each}
      {#if advice.excluded.length}
        <div>
          <p class="font-bold">Not here</p>
          {#each advice.excluded as cut (cut.cut)}
            <p>{cut.cut}: {cut.reasons[0]}</p>
          {/each}
        </div>
      {/if}
      {#each advice.schools as question (question.question)}
        <div>
          <p class="font-bold">{question.question}</p>
          {#each question.schools as school (school.name)}
            <p>{school.name}: {school.price}</p>
          {/each}
        </div>
      {/each}
    </div>
  </details>
{/if}
