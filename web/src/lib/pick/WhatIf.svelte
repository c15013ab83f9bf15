<script lang="ts">
  import { untrack } from "svelte";
  import type { Answer, Asked, Quantity } from "../api/client";
  import { core } from "../core/core.svelte";
  import Choice from "../fields/Choice.svelte";
  import Mark from "../ladder/Mark.svelte";
  import { preferences } from "../preferences.svelte";
  import { print, unitOf } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";

  let { session }: { session: Session } = $props();

  const asks = [
    ["length", "how long may it be"],
    ["run", "how far must it run"],
    ["wraps", "how many wraps"],
    ["rope", "which rope would do"],
    ["peak", "what does it come to"],
  ] as const;
  const holds = [
    ["limits", "every limit"],
    ["line", "the line’s peak"],
    ["block", "the block’s peak"],
    ["length", "the length"],
    ["run", "the run"],
  ] as const;

  let ask = $state<(typeof asks)[number][0]>("length");
  let hold = $state<(typeof holds)[number][0]>("limits");
  let text = $state("");
  let refusal = $state("");
  let answer = $state.raw<Answer | null>(null);
  /** Id of the pick that the answer is about. */
  let about = "";
  let quantity = $derived<Quantity>(hold === "line" || hold === "block" ? "force" : "height");

  // An answer belongs to what it was asked of.
  $effect(() => {
    void session.job;
    void session.pick?.id;
    untrack(() => (answer = null));
  });

  export async function put(question: typeof ask = ask) {
    const pick = session.pick;
    if (!pick) return;
    ask = question;
    refusal = "";
    const asked: Asked = { units: preferences.units, pick: pick.id, ask: question, hold };
    if (hold !== "limits") {
      const read = await core.read(quantity, preferences.units, text).catch(() => null);
      if (!read?.data) {
        refusal = read?.faults?.[0]?.message ?? "The core does not answer.";
        return;
      }
      asked.value = read.data.value;
    }
    const reply = await core.ask(session.job, asked).catch(() => null);
    about = pick.id;
    if (reply?.data) answer = reply.data;
    else refusal = reply?.faults?.[0]?.message ?? "The core does not answer.";
  }

  /** Puts the answer into the job. */
  function take() {
    const given = answer;
    if (!given) return;
    void session.changePick(about, (one) => {
      if (given.cut_m !== null) one.cut_m = given.cut_m;
      if (ask === "run" && given.run_m !== null) {
        one.catch = { ...one.catch, how: "run", run_m: +given.run_m.toFixed(3) };
      }
      if (ask === "wraps" && given.wraps !== null) {
        one.catch = { ...one.catch, how: "wraps" };
        one.wraps = +given.wraps.toFixed(2);
      }
    });
  }

  function takeRope(name: string) {
    const rope = answer?.ropes.find((r) => r.rope.name === name)?.rope;
    const id = session.job.rigs[session.rigIndex]?.id;
    if (!rope) return;
    void session.change((job) => {
      const rig = job.rigs.find((r) => r.id === id);
      if (rig) rig.rope = structuredClone(rope);
    });
  }
</script>

<section class="space-y-2 border-y border-base-300 py-3" aria-label="What if" data-testid="what-if">
  <div class="grid grid-cols-2 gap-2">
    <Choice label="Ask" value={ask} options={asks} onchoose={(v) => (ask = v as typeof ask)} />
    <Choice
      label="And hold"
      value={hold}
      options={holds}
      onchoose={(v) => (hold = v as typeof hold)}
    />
  </div>
  <div class="flex items-end gap-2">
    {#if hold !== "limits"}
      <label class="min-w-0 grow">
        <span class="mb-0.5 block text-sm font-medium">At, {unitOf(quantity).label}</span>
        <input
          class="input touch w-full px-2 text-base font-medium"
          autocomplete="off"
          maxlength="40"
          bind:value={text}
          onkeydown={(e) => e.key === "Enter" && void put()}
        />
      </label>
    {/if}
    <button class="btn touch grow btn-primary" onclick={() => put()}>Ask</button>
  </div>
  {#if refusal}<p role="alert" class="text-sm text-error">{refusal}.</p>{/if}
  {#if answer}
    <div role="status" data-testid="answer">
      <p class="text-base leading-snug font-semibold">{answer.reason}</p>
      {#if answer.line_kn !== null && answer.block_kn !== null && ask === "length"}
        <p class="text-sm faint">
          line {print("force", answer.line_kn)}, block {print("force", answer.block_kn)}
        </p>
      {/if}
      {#each answer.ropes as r, at (at)}
        <div class="flex items-center gap-2 border-t border-base-300 py-1 text-sm">
          <Mark verdict={r.verdict} size={16} />
          <span class="min-w-0 grow truncate">{r.rope.name}</span>
          <b class="shrink-0">{print("force", r.peak_kn)}</b>
          <span class="w-12 shrink-0 text-right"
            >{r.use_pct === null ? "" : `${r.use_pct.toFixed(0)} %`}</span
          >
          <button
            class="btn touch btn-ghost px-2"
            aria-label={`Take ${r.rope.name}`}
            onclick={() => takeRope(r.rope.name ?? "")}>take</button
          >
        </div>
      {/each}
      {#if answer.found && ask !== "peak" && ask !== "rope"}
        <button class="btn mt-1 touch w-full btn-outline" onclick={take}>Take it</button>
      {/if}
    </div>
  {/if}
</section>
