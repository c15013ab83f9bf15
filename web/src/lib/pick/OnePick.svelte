<script lang="ts">
  import Icon from "../Icon.svelte";
  import ChevronLeft from "lucide-static/icons/chevron-left.svg?raw";
  import ChevronRight from "lucide-static/icons/chevron-right.svg?raw";
  import type { Assessment } from "../api/client";
  import { core } from "../core/core.svelte";
  import Bar from "../ladder/Bar.svelte";
  import Rests from "../ladder/Rests.svelte";
  import Mark from "../ladder/Mark.svelte";
  import { ways } from "../order/edits";
  import { keepWeight, markDown } from "../order/marks";
  import { preferences } from "../preferences.svelte";
  import { figure, print, unitOf } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import AtStump from "./AtStump.svelte";

  let { session, assessment }: { session: Session; assessment: Assessment } = $props();

  let pick = $derived(session.pick);
  let down = $derived(pick !== null && session.down.has(pick.id));
  let f = $derived(session.figures);
  let detail = $derived(session.detail);
  let caught = $derived(detail?.catch);
  let weighing = $state(false);
  let text = $state("");
  let refusal = $state("");

  function go(by: number) {
    const next = session.job.picks[session.index + by];
    if (next) session.choose([next.id]);
    weighing = false;
  }

  // A swipe goes to the next; a scroll does not.
  let from = { x: 0, y: 0 };
  function begin(event: TouchEvent) {
    const touch = event.touches[0];
    if (touch) from = { x: touch.clientX, y: touch.clientY };
  }
  function end(event: TouchEvent) {
    const touch = event.changedTouches[0];
    if (!touch) return;
    const dx = touch.clientX - from.x;
    if (Math.abs(dx) > 60 && Math.abs(dx) > 2 * Math.abs(touch.clientY - from.y))
      go(dx < 0 ? 1 : -1);
  }

  // A second tap of the same finger is not a second order.
  const apart = 700;
  let tapped = 0;

  /** Marks it down, or not down, and stays with it: what goes on the scale is this piece. */
  async function mark(down: boolean) {
    if (!pick || performance.now() - tapped < apart) return;
    tapped = performance.now();
    await markDown(session, [pick.id], down);
  }

  function onwards() {
    if (performance.now() - tapped < apart) return;
    tapped = performance.now();
    go(1);
  }

  /** A slip on the scale is asked about once: so many times off what was reckoned. */
  const farOff = 2;
  let askedAbout = "";

  async function weighed() {
    // The piece that was on the scale, wherever the order goes meanwhile.
    const id = pick?.id;
    if (!id) return;
    const read = await core.read("mass", preferences.units, text).catch(() => null);
    if (!read?.data) {
      refusal = read?.faults?.[0]?.message ?? "The core does not answer";
      return;
    }
    const kg = read.data.value;
    const was = f?.mass_kg;
    if (
      was &&
      f?.basis !== "weighed" &&
      (kg > farOff * was.high || kg < was.low / farOff) &&
      askedAbout !== `${id} ${text}`
    ) {
      askedAbout = `${id} ${text}`;
      refusal = `It was reckoned at ${figure("mass", was.low)} to ${print("mass", was.high)}. Keep ${print("mass", kg)} only if the scale says so: press Keep again`;
      return;
    }
    const faults = await keepWeight(session, id, kg);
    refusal = faults[0]?.message ?? "";
    if (!faults.length) {
      weighing = false;
      text = "";
    }
  }

  let call = $derived(
    !caught
      ? null
      : caught.run_m === null
        ? "never stops"
        : caught.runs
          ? `run ${print("height", caught.run_m)}`
          : "no run",
  );
</script>

<section
  class="flex h-full min-h-0 flex-col"
  aria-label="One pick"
  data-testid="one-pick"
  ontouchstart={begin}
  ontouchend={end}
>
  {#if pick && f}
    <div class="flex shrink-0 items-center border-b border-base-300">
      <button
        class="btn h-14 touch btn-ghost px-3"
        aria-label="The pick before"
        disabled={session.index <= 0}
        onclick={() => go(-1)}><Icon of={ChevronLeft} size={28} /></button
      >
      <div class="min-w-0 grow py-1 text-center">
        <p class="truncate text-xl leading-tight font-bold">{f.title}</p>
        <p class="text-sm faint">
          {f.number} of {assessment.picks.length} · {ways()[pick.way]}{down ? " · down" : ""}
        </p>
      </div>
      <button
        class="btn h-14 touch btn-ghost px-3"
        aria-label="The next pick"
        disabled={session.index >= session.job.picks.length - 1}
        onclick={() => go(1)}><Icon of={ChevronRight} size={28} /></button
      >
    </div>
    <div class="relative min-h-0 grow overflow-y-auto">
      {#each f.faults as fault, at (at)}
        <p role="alert" class="border-b border-base-300 px-4 py-2 text-lg font-semibold text-error">
          It cannot happen here: {fault.message}.
        </p>
      {/each}
      {#if f.mass_kg}
        <div class="border-b border-base-300 px-4 py-3">
          <p class="text-sm"><span class="faint">Weight</span> <Rests basis={f.basis} /></p>
          <p class="text-5xl leading-none font-bold" data-testid="pick-weight">
            {print("mass", f.mass_kg.likely)}
          </p>
          <p class="mt-1 text-lg font-semibold">
            {figure("mass", f.mass_kg.low)} to {print("mass", f.mass_kg.high)}
          </p>
        </div>
      {/if}
      {#if f.peak_kn !== null}
        <dl class="grid grid-cols-2 border-b border-base-300">
          <div class="px-4 py-3">
            <dt class="text-sm faint">Line peak</dt>
            <dd class="text-4xl leading-none font-bold">
              {figure("force", f.peak_kn)}<span class="ml-1 text-base">{unitOf("force").label}</span
              >
            </dd>
          </div>
          <div class="border-l border-base-300 px-4 py-3">
            <dt class="text-sm faint">Call</dt>
            {#if detail}
              <dd class="text-2xl leading-tight font-bold">
                {detail.ends ? "two hands" : (call ?? "carried")}
              </dd>
              <dd class="text-lg font-semibold">
                {detail.settings.how === "locked"
                  ? "tied off"
                  : `${+detail.settings.wraps.toFixed(2)} wraps`}
              </dd>
            {:else}<dd class="text-2xl faint">working it out</dd>{/if}
          </div>
        </dl>
      {/if}
      {#if detail?.ends}
        <div class="border-b border-base-300 px-4 py-3">
          {#each detail.ends.lines as line (line.end)}
            <p class="text-lg">
              <b>{line.end}</b>, {line.rig}: peak <b>{print("force", line.peak_kn)}</b>
            </p>
          {/each}
          <ol class="mt-2 list-decimal space-y-1.5 pl-6 text-xl leading-snug font-semibold">
            {#each detail.ends.steps as step, at (at)}<li>{step}</li>{:else}
              <li>both: let out alike</li>
            {/each}
          </ol>
          {#if detail.ends.ends}<p class="mt-1">{detail.ends.ends}</p>{/if}
        </div>
      {/if}
      {#if detail?.fell}
        <AtStump {detail} fell={detail.fell} towards={f.fall_towards_deg} call={f.call} />
      {/if}
      {#if detail?.landing}
        <p class="flex items-center gap-2 border-b border-base-300 px-4 py-3 text-xl font-semibold">
          <Mark verdict={detail.landing.verdict} size={24} />
          {detail.landing.reason}
        </p>
      {/if}
      {#if f.worst && f.worst !== detail?.landing?.reason}
        <div class="border-b border-base-300 px-4 py-3">
          <p class="flex items-center gap-2 text-lg font-semibold">
            <Mark verdict={f.verdict} size={22} />
            {f.worst} · {f.verdict}
          </p>
          {#if f.nearest}
            <Bar usePct={f.nearest.use_pct} verdict={f.nearest.verdict} />
          {/if}
        </div>
      {/if}
      {#if f.cut}<p class="border-b border-base-300 px-4 py-2">Cut: <b>{f.cut}</b></p>{/if}
      {#if detail?.face}<p class="border-b border-base-300 px-4 py-2">{detail.face.said}</p>{/if}
      {#if pick.note}<p class="border-b border-base-300 px-4 py-2">{pick.note}</p>{/if}
      <ul class="space-y-1.5 px-4 py-3">
        {#each detail?.cautions ?? [] as caution, at (at)}
          <li class="border-l-4 border-warning pl-2">{caution}</li>
        {/each}
      </ul>
    </div>
    {#if weighing}
      <form
        class="flex shrink-0 items-end gap-2 border-t border-base-300 p-3"
        onsubmit={(e) => {
          e.preventDefault();
          void weighed();
        }}
      >
        <label class="min-w-0 grow">
          <span class="block text-sm font-medium">The scale says, {unitOf("mass").label}</span>
          <!-- svelte-ignore a11y_autofocus -->
          <input
            class="input h-14 w-full text-2xl font-bold"
            inputmode="decimal"
            autocomplete="off"
            autofocus
            bind:value={text}
          />
          {#if refusal}<span role="alert" class="text-sm text-error">{refusal}.</span>{/if}
        </label>
        <button class="btn h-14 btn-primary">Keep</button>
        <button type="button" class="btn h-14 btn-outline" onclick={() => (weighing = false)}
          >No</button
        >
      </form>
    {:else}
      {#if down}
        <p
          class="flex shrink-0 items-center gap-2 border-t border-base-300 px-4 pt-2 text-lg font-semibold"
          role="status"
        >
          <span class="grow">{f.number} is down.{f.basis === "weighed" ? "" : " Weigh it?"}</span>
          <button class="btn touch btn-outline" onclick={() => mark(false)}>Not down</button>
        </p>
      {/if}
      <div class="grid shrink-0 grid-cols-2 gap-2 border-t border-base-300 p-3">
        {#if down}
          <button
            class="btn h-16 text-xl btn-primary"
            disabled={session.index >= session.job.picks.length - 1}
            onclick={onwards}>Next</button
          >
        {:else}
          <button class="btn h-16 text-xl btn-primary" onclick={() => mark(true)}>Done</button>
        {/if}
        <button class="btn h-16 btn-outline text-xl" onclick={() => (weighing = true)}
          >Weighed</button
        >
      </div>
    {/if}
  {:else}
    <p class="p-6 text-lg faint">Nothing is planned yet: fill the order first.</p>
  {/if}
</section>
