<script lang="ts">
  // Which tree first, and the ways of taking the one in hand side by side.
  import { onMount } from "svelte";
  import type { Whole } from "../api/client";
  import { core } from "../core/core.svelte";
  import Choice from "../fields/Choice.svelte";
  import Mark from "../ladder/Mark.svelte";
  import { afresh, ways } from "../order/edits";
  import { preferences } from "../preferences.svelte";
  import { figure, print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";

  let { session, onclose }: { session: Session; onclose: () => void } = $props();

  let tree = $state("");
  let whole = $state.raw<Whole | null>(null);
  let trouble = $state("");
  let heading = $state<HTMLElement>();

  async function ask() {
    trouble = "";
    whole = null;
    const reply = await core.trees(session.job, preferences.units, tree).catch(() => null);
    if (reply?.data) whole = reply.data;
    else trouble = reply?.faults?.[0]?.message ?? "The core does not answer";
  }

  onMount(() => {
    heading?.focus();
    tree = session.tree.id;
    void ask();
  });

  type Picks = Whole["ways"][number]["picks"];

  /** Puts picks in place of what is not down yet, of some trees. */
  function take(proposed: Picks, of: string[]) {
    const picks = afresh(session.job, proposed);
    const first = picks[0];
    if (!first) return;
    const own = (p: Picks[number]) => p.tree || session.job.trees[0]?.id || "";
    void session.change(
      (job) => {
        const at = job.picks.findIndex((p) => !session.down.has(p.id) && of.includes(own(p)));
        const stay = job.picks.filter((p) => session.down.has(p.id) || !of.includes(own(p)));
        const before =
          at < 0 ? stay.length : job.picks.slice(0, at).filter((p) => stay.includes(p)).length;
        job.picks = [...stay.slice(0, before), ...structuredClone(picks), ...stay.slice(before)];
      },
      [first.id],
    );
    onclose();
  }

  let taken = $derived(whole?.order.filter((s) => s.picks.length > 0) ?? []);
  const time = (minutes: number) =>
    minutes < 90 ? `${Math.round(minutes)} min` : `${(minutes / 60).toFixed(1)} h`;
</script>

<section
  class="absolute inset-0 z-10 flex min-h-0 flex-col border-base-content bg-base-100 lg:right-auto lg:w-[820px] lg:border-r-2"
  aria-label="Whole trees"
  data-testid="whole-trees"
>
  <div class="flex shrink-0 items-end gap-2 border-b border-base-300 p-3">
    <h2 bind:this={heading} tabindex="-1" class="grow text-xl font-bold outline-none">
      Whole trees
    </h2>
    <button class="btn touch btn-outline" onclick={onclose}>Close</button>
  </div>
  {#if trouble}<p role="alert" class="p-3 text-error">{trouble}.</p>{/if}
  <div class="relative min-h-0 grow overflow-y-auto">
    {#if !whole && !trouble}<p class="p-4 faint">Asking round every tree.</p>{/if}
    {#if whole}
      <div class="border-b border-base-300 p-4">
        <h3 class="text-sm font-bold">Which first</h3>
        <p class="text-lg font-semibold" role="status">{whole.said}</p>
        <ol class="mt-1 space-y-1">
          {#each whole.order as step, i (step.tree)}
            <li class="flex gap-2">
              <b class="w-5 shrink-0 text-right">{i + 1}</b>
              <span><b>{step.title}</b>, {step.how}: {step.reason}</span>
            </li>
          {/each}
        </ol>
        {#if taken.length}
          <button
            class="btn mt-2 touch btn-primary"
            onclick={() =>
              take(
                taken.flatMap((s) => s.picks),
                taken.map((s) => s.tree),
              )}>Take this order, {taken.flatMap((s) => s.picks).length} picks</button
          >
        {/if}
      </div>
      <div class="p-4">
        <div class="flex items-end gap-3">
          <h3 class="grow text-sm font-bold">Ways of taking one, side by side</h3>
          {#if session.job.trees.length > 1}
            <div class="w-56">
              <Choice
                label="Tree"
                value={tree}
                options={session.job.trees.map((t): [string, string] => [
                  t.id,
                  t.name || `tree ${t.id}`,
                ])}
                onchoose={(id) => {
                  tree = id;
                  void ask();
                }}
              />
            </div>
          {/if}
        </div>
        <div
          class={["mt-2 grid gap-2", whole.ways.length > 3 ? "sm:grid-cols-4" : "sm:grid-cols-3"]}
        >
          {#each whole.ways as way, at (at)}
            <section class="flex flex-col border border-base-300 p-3" aria-label={way.title}>
              <h4 class="flex items-center gap-2 font-bold">
                <Mark verdict={way.verdict} size={16} />{way.title}
              </h4>
              <p class="text-sm">{way.said}</p>
              {#if way.picks.length}
                <dl class="mt-2 grid grid-cols-[auto_1fr] gap-x-3 text-sm">
                  <dt class="faint">cuts</dt>
                  <dd class="font-semibold">{way.picks.length}, {way.on_line} on a line</dd>
                  {#if way.heaviest_kg}
                    <dt class="faint">heaviest</dt>
                    <dd class="font-semibold">
                      {print("mass", way.heaviest_kg.likely)} ({figure(
                        "mass",
                        way.heaviest_kg.low,
                      )}–{figure("mass", way.heaviest_kg.high)})
                    </dd>
                  {/if}
                  <dt class="faint">nearest</dt>
                  <dd class="font-semibold">{way.nearest || "none known"}</dd>
                  <dt class="faint">holds to</dt>
                  <dd>{way.holders.join(", ") || "nothing"}</dd>
                  <dt class="faint">time</dt>
                  <dd class="font-semibold">about {time(way.minutes)}</dd>
                  <dt class="faint">by</dt>
                  <dd>{[...new Set(way.picks.map((p) => ways()[p.way]))].join(", ")}</dd>
                </dl>
                {#if way.unknown.length}
                  <ul class="mt-1 list-disc pl-4 text-sm">
                    {#each way.unknown.slice(0, 3) as one, at (at)}<li>{one}</li>{/each}
                    {#if way.unknown.length > 3}<li>and {way.unknown.length - 3} more</li>{/if}
                  </ul>
                {/if}
                <span class="grow"></span>
                <button
                  class="btn mt-3 touch btn-outline"
                  onclick={() => take(way.picks, [whole?.tree ?? ""])}>Take it so</button
                >
              {/if}
            </section>
          {/each}
        </div>
        <ul class="mt-3 space-y-1 text-sm">
          {#each whole.cautions as one, at (at)}
            <li class="border-l-4 border-warning pl-2">{one}</li>
          {/each}
        </ul>
      </div>
    {/if}
  </div>
</section>
