<script lang="ts">
  import type { Assessment, Detail, Trace } from "../api/client";
  import { print } from "../reference.svelte";
  import Mark from "./Mark.svelte";
  import Rung from "./Rung.svelte";

  interface Props {
    assessment: Assessment;
    detail: Detail | null;
    trace: Trace | null;
  }

  let { assessment, detail, trace }: Props = $props();
  let open = $state<string | null>(null);

  let figures = $derived(assessment.picks.find((p) => p.id === detail?.id));
  let caught = $derived(detail?.catch);
  let room = $derived(detail?.room);
  let landing = $derived(detail?.landing);
  let wanted = $derived(caught?.wanted);
</script>

<section aria-label="The load, from the piece to the hand">
  {#each figures?.faults ?? [] as fault, at (at)}
    <p role="alert" class="border-b border-base-300 bg-base-200 px-4 py-2 text-error">
      <b>It cannot happen here:</b>
      {fault.message}.
      {#if fault.code === "gear"}<span class="block text-sm faint"
          >Setup, Gear: record a reason there.</span
        >{/if}
    </p>
  {/each}
  {#if !detail || detail.ladder.length === 0}
    <div class="p-4 faint">
      <p class="font-semibold text-base-content">No loads yet</p>
      {#each assessment.missing as missing (missing.location)}<p class="mt-1">
          {missing.ask}
        </p>{/each}
      {#if !assessment.missing.length && !detail}<p class="mt-1">Choose a pick.</p>{/if}
      {#each assessment.faults as fault, at (at)}
        <p class="mt-1 text-error">{fault.message}. Allowed: {fault.allowed}.</p>
      {/each}
    </div>
  {:else}
    <ol>
      {#each detail.ladder as rung, i (i)}
        {@const key = `${rung.part} ${i}`}
        <Rung
          {rung}
          worst={figures?.nearest?.part === rung.part && figures.nearest.name === rung.name}
          open={open === key}
          ontoggle={() => (open = open === key ? null : key)}
        />
      {/each}
    </ol>
  {/if}

  {#if landing}
    <div class="border-b border-base-300 px-4 py-2">
      <p class="flex items-center gap-1.5 font-bold">
        <Mark verdict={landing.verdict} size={18} /> Comes down
      </p>
      <p class="text-lg leading-snug font-semibold">{landing.reason}</p>
      <p class="text-sm faint">{landing.energy_kj.toFixed(1)} kJ when it lands</p>
    </div>
  {/if}
  {#if detail?.arc && detail.arc.start_deg > 5}
    <dl class="grid grid-cols-3 border-b border-base-300 text-sm">
      <div class="px-4 py-2">
        <dt class="faint">Swings from</dt>
        <dd class="text-lg font-bold">{detail.arc.start_deg.toFixed(0)}°</dd>
      </div>
      <div class="border-l border-base-300 px-3 py-2">
        <dt class="faint">At the bottom</dt>
        <dd class="text-lg font-bold">{detail.arc.speed_m_s.toFixed(1)} m/s</dd>
      </div>
      <div class="border-l border-base-300 px-3 py-2">
        <dt class="faint">Swing’s pull</dt>
        <dd class="text-lg font-bold">{print("force", detail.arc.line_kn)}</dd>
      </div>
    </dl>
  {/if}
  {#if trace?.run?.line_peak_kn}
    <p class="border-b border-base-300 px-4 py-2 text-sm">
      Followed through time: line <b>{print("force", trace.run.line_peak_kn)}</b>, block
      <b>{print("force", trace.run.block_peak_kn ?? 0)}</b>{#if trace.spread}; 95 of 100 at or under
        <b>{print("force", trace.spread.p95_kn)}</b>{/if}. At the friction given; the ladder shows
      the ceiling by energy, with more and with less of it.
    </p>
  {/if}
  {#if caught && room}
    <dl class="grid grid-cols-2 border-b border-base-300 text-sm">
      <div class="border-r border-base-300 px-4 py-2">
        <dt class="flex items-center gap-1.5 font-bold">
          <Mark verdict={room.run_verdict} size={16} /> Run
        </dt>
        <dd class="text-xl font-bold">
          {caught.run_m === null ? "never stops" : print("height", caught.run_m)}
        </dd>
        <dd class="faint">
          {room.run_limit_m === null
            ? "no longest run set"
            : `at most ${print("height", room.run_limit_m)}`}
        </dd>
      </div>
      <div class="px-4 py-2">
        <dt class="flex items-center gap-1.5 font-bold">
          <Mark verdict={room.verdict} size={16} /> Room beneath
        </dt>
        <dd class="text-xl font-bold">
          {room.clearance_m === null ? "none" : print("height", room.clearance_m)}
        </dd>
        <dd class="faint">{print("height", room.wanted_m)} wanted above {room.beneath}</dd>
      </div>
    </dl>
    <div class="border-b border-base-300 px-4 py-2 text-sm">
      {#if wanted?.reachable && wanted.run_m !== null}
        <p>
          Every limit kept: line {print("force", wanted.line_kn)} ({wanted.governs}), run
          <b>{print("height", wanted.run_m)}</b>
          or more, hold {print("force", wanted.hold_kn)}, {wanted.wraps.toFixed(1)} wraps.
        </p>
      {:else if wanted}
        <p class="font-semibold text-error">
          No run helps: the {wanted.governs}’s limit is no more than the piece pulls hanging still.
        </p>
      {/if}
      {#if caught.friction}
        <p class="mt-1">
          With a quarter less friction: run
          {caught.friction.run_with_less_m === null
            ? "without end"
            : print("height", caught.friction.run_with_less_m)}; with a quarter more: line peak
          {print("force", caught.friction.line_peak_with_more_kn)}. The rungs count the worse.
        </p>
      {/if}
    </div>
  {/if}

  {#if detail?.clear.length}
    <section aria-label="Passes" class="border-b border-base-300 px-4 py-2 text-sm">
      <h3 class="font-bold">Passes</h3>
      <ul class="mt-1 space-y-0.5">
        {#each detail.clear as near, at (at)}
          <li class="flex items-center gap-2">
            <Mark verdict={near.verdict} size={14} />
            <b class="w-16 shrink-0">{print("height", near.clearance_m)}</b>
            <span class="truncate">{near.name}</span>
          </li>
        {/each}
      </ul>
    </section>
  {/if}
  {#if detail?.spar}
    <p class="border-b border-base-300 px-4 py-2 text-sm">
      The stem that stays: {detail.spar.stress_mpa.toFixed(1)} MPa of {detail.spar.allowed_mpa.toFixed(
        0,
      )} at {print("height", detail.spar.at_m)}; it sways once in {detail.spar.period_s.toFixed(1)} s.
    </p>
  {/if}

  {#if detail?.cautions.length || assessment.cautions.length}
    <div class="px-4 py-3">
      <h3 class="text-sm font-bold">Read with these figures</h3>
      <ul class="mt-1 space-y-1.5 text-sm leading-snug">
        {#each [...(detail?.cautions ?? []), ...assessment.cautions] as caution, at (at)}
          <li class="border-l-4 border-warning pl-2">{caution}</li>
        {/each}
      </ul>
    </div>
  {/if}

  {#if assessment.gear.length}
    <details class="border-t border-base-300 px-4">
      <summary class="flex touch cursor-pointer items-center font-bold">
        Gear over the whole job
      </summary>
      <ul class="pb-3 text-sm">
        {#each assessment.gear as item, i (i)}
          <li class="flex items-center gap-2 border-t border-base-300 py-1">
            <Mark verdict={item.verdict} size={14} />
            <span class="min-w-0 grow truncate">{item.rig}: {item.name || item.part}</span>
            <b class="shrink-0">{print("force", item.peak_kn)}</b>
            <span class="w-24 shrink-0 text-right"
              >{item.use_pct === null ? item.verdict : `${item.use_pct.toFixed(0)} %`}, pick {item.pick}</span
            >
          </li>
        {/each}
        {#each assessment.ropes as rope, i (i)}
          <li class="flex items-center gap-2 border-t border-base-300 py-1">
            <Mark verdict={rope.verdict} size={14} />
            <span class="min-w-0 grow">
              Rope of {rope.rig}: <b>{print("height", rope.need_m)}</b> needed at pick {rope.pick},
              {rope.have_m === null
                ? "its length not given"
                : `${print("height", rope.have_m)} long`}
            </span>
          </li>
        {/each}
        {#each assessment.learned as learned (learned.of)}
          <li class="border-t border-base-300 py-1">
            The scale, {learned.weighed} weighed: {learned.of} × <b>{learned.factor.toFixed(2)}</b>
          </li>
        {/each}
      </ul>
    </details>
  {/if}
</section>
