<script lang="ts">
  import { onMount } from "svelte";
  import type { Proposal } from "../api/client";
  import { core } from "../core/core.svelte";
  import Choice from "../fields/Choice.svelte";
  import Mark from "../ladder/Mark.svelte";
  import { afresh, ways } from "../order/edits";
  import { preferences } from "../preferences.svelte";
  import type { Session } from "../session/session.svelte";

  interface Props {
    session: Session;
    onclose: () => void;
    /** Goes on to felling whole trees. */
    onwhole: () => void;
  }

  let { session, onclose, onwhole }: Props = $props();

  let by = $state<"up" | "sides" | "fells">("up");
  let rig = $state("");
  let proposal = $state.raw<Proposal | null>(null);
  let without = $state<string[]>([]);
  let anew = $state(false);
  let trouble = $state("");
  /** What stays of the order: all of it, or what is down already. */
  let kept = $derived(session.job.picks.filter((p) => !anew || session.down.has(p.id)));
  let open = $derived(session.job.picks.some((p) => !session.down.has(p.id)));
  let taken = $derived(proposal?.picks.filter((p) => !without.includes(p.pick.id)) ?? []);
  let heading = $state<HTMLElement>();

  async function propose() {
    trouble = "";
    const reply = await core
      .propose({ ...session.job, picks: kept }, preferences.units, by, rig)
      .catch(() => null);
    if (reply?.data) proposal = reply.data;
    else trouble = reply?.faults?.[0]?.message ?? "The core does not answer.";
    without = reply?.data?.picks.filter((p) => !p.take).map((p) => p.pick.id) ?? [];
  }

  onMount(() => {
    heading?.focus();
    void propose();
  });

  function accept() {
    const picks = afresh(
      session.job,
      taken.map((p) => p.pick),
    );
    const first = picks[0];
    if (!first) return onclose();
    const anewOnes = anew
      ? session.job.picks.filter((p) => !session.down.has(p.id)).map((p) => p.id)
      : [];
    void session.change(
      (job) => {
        const stay = job.picks.filter((p) => !anewOnes.includes(p.id));
        job.picks = [...stay, ...structuredClone(picks)];
      },
      [first.id],
    );
    onclose();
  }
</script>

<section
  class="absolute inset-0 z-10 flex min-h-0 flex-col border-base-content bg-base-100 lg:right-auto lg:w-[480px] lg:border-r-2"
  aria-label="Fill the order"
  data-testid="fill"
>
  <div class="flex shrink-0 flex-wrap items-end gap-2 border-b border-base-300 p-3">
    <h2 bind:this={heading} tabindex="-1" class="w-full text-xl font-bold outline-none">
      Fill the order
    </h2>
    <div class="w-56">
      <Choice
        label="Take it"
        value={by}
        options={[
          ["up", "limbs from the bottom up"],
          ["sides", "limbs side by side"],
          ["fells", "felled, where it can go"],
        ]}
        onchoose={(v) => {
          by = v as typeof by;
          void propose();
        }}
      />
    </div>
    <div class="w-44">
      <Choice
        label="Held on"
        value={rig}
        options={[
          ["", "the rigs that fit"],
          ...session.job.rigs.map((r): [string, string] => [r.id, r.name]),
        ]}
        onchoose={(v) => {
          rig = v;
          void propose();
        }}
      />
    </div>
    {#if open}
      <label class="flex touch w-full cursor-pointer items-center gap-3">
        <input
          type="checkbox"
          class="checkbox checkbox-primary"
          checked={anew}
          onchange={(e) => {
            anew = e.currentTarget.checked;
            void propose();
          }}
        />
        <span class="font-medium">In place of the picks that are not down yet</span>
      </label>
    {/if}
  </div>
  {#if trouble}<p role="alert" class="p-3 text-error">{trouble}.</p>{/if}
  {#if proposal}
    <p class="shrink-0 px-4 py-2 text-lg font-semibold" role="status">{proposal.state}</p>
    <p class="shrink-0 px-4 pb-2 text-sm faint">{proposal.ending}</p>
    <ul class="relative min-h-0 grow overflow-y-auto border-y border-base-300">
      {#each proposal.picks as one, i (one.pick.id)}
        <li class="border-b border-base-300">
          <label class="flex cursor-pointer items-start gap-3 px-4 py-2">
            <input
              type="checkbox"
              class="checkbox mt-1 checkbox-primary"
              checked={!without.includes(one.pick.id)}
              onchange={(e) =>
                (without = e.currentTarget.checked
                  ? without.filter((id) => id !== one.pick.id)
                  : [...without, one.pick.id])}
            />
            <span class="min-w-0 grow">
              <span class="flex items-center gap-2">
                <Mark verdict={one.verdict} size={16} />
                <b>{kept.length + i + 1}. {one.title}</b>
                <span class="faint">{ways()[one.pick.way]}</span>
                <b class="ml-auto shrink-0">{one.mass}</b>
              </span>
              <span class="block text-sm leading-snug">{one.reason}</span>
            </span>
          </label>
        </li>
      {/each}
    </ul>
  {/if}
  <div class="flex shrink-0 gap-2 p-3">
    <button class="btn touch grow btn-primary" disabled={!taken.length} onclick={accept}>
      {taken.length === proposal?.picks.length
        ? `Take all ${taken.length}`
        : `Take ${taken.length}`}
    </button>
    <button class="btn touch btn-outline" onclick={onwhole}>Fell whole trees?</button>
    <button class="btn touch btn-outline" onclick={onclose}>Take none</button>
  </div>
</section>
