<script lang="ts">
  // What who cuts takes to the stump: its measures, the cuts in order, the lines.
  import type { Paper } from "../api/client";
  import Mark from "../ladder/Mark.svelte";
  import Stump from "../pick/Stump.svelte";

  let { card }: { card: Paper["cards"][number] } = $props();
</script>

<section
  class="mt-6 break-inside-avoid print:break-before-page"
  aria-label={`Cut card of pick ${card.number}`}
  data-testid="cut-card"
>
  <h2 class="flex items-center gap-2 text-2xl font-bold">
    <Mark verdict={card.verdict} size={22} />{card.number}
    {card.title}
  </h2>
  <p class="text-lg font-semibold">Falls {card.falls}.</p>
  <p class="text-sm faint">{card.balance}</p>
  <div class="grid gap-4 md:grid-cols-[3fr_2fr] print:grid-cols-[3fr_2fr]">
    <div><Stump fell={card.fell} /></div>
    <table class="self-start text-left" aria-label="Measures of the cut">
      <tbody>
        {#each card.measures as m (m.name)}
          <tr class="border-b border-base-300">
            <th class="py-0.5 pr-3 font-medium">{m.name}</th>
            <td class="px-2 text-right font-bold whitespace-nowrap">{m.metric}</td>
            <td class="px-2 text-right whitespace-nowrap">{m.us}</td>
          </tr>
        {/each}
      </tbody>
    </table>
  </div>
  <div class="mt-2 grid gap-6 md:grid-cols-3 print:grid-cols-3">
    <div>
      <h3 class="font-bold">What to cut, in order</h3>
      <ol class="list-decimal space-y-1 pl-5 text-lg leading-snug">
        {#each card.steps as step, at (at)}<li>{step}</li>{/each}
      </ol>
    </div>
    <div>
      {#if card.lines.length}
        <h3 class="font-bold">Lines</h3>
        {#each card.lines as line, at (at)}
          <p class="mb-1">
            <b>{line.name}:</b>
            {line.need} needed at the tree; legs carry up to {line.legs}. {line.said}
          </p>
        {/each}
      {/if}
      <h3 class="font-bold">If that does not do</h3>
      <ul class="list-disc pl-5 text-sm">
        {#each card.plans as plan (plan)}<li>{plan}</li>{/each}
      </ul>
    </div>
    <div>
      <h3 class="font-bold">Stand beside it</h3>
      <ul class="list-disc pl-5 text-sm">
        {#each card.cautions as one, at (at)}<li>{one}</li>{/each}
      </ul>
      <h3 class="mt-1 font-bold">Other cuts for this stump, and their price</h3>
      <ul class="list-disc pl-5 text-sm">
        {#each card.schools as one, at (at)}<li>{one}</li>{/each}
      </ul>
    </div>
  </div>
</section>
