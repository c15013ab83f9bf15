<script lang="ts">
  import type { Assessment } from "../api/client";
  import { print } from "../reference.svelte";
  import Mark from "./Mark.svelte";
  import Rung from "./Rung.svelte";

  let { assessment }: { assessment: Assessment } = $props();
  let open = $state<string | null>(null);

  let caught = $derived(assessment.catch);
  let room = $derived(assessment.room);
  let wanted = $derived(caught?.wanted);
</script>

<section aria-label="The load, from the piece to the hand">
  {#if assessment.ladder.length === 0}
    <div class="p-4 faint">
      <p class="font-semibold text-base-content">No loads yet</p>
      {#each assessment.missing as missing (missing.location)}<p class="mt-1">
          {missing.ask}
        </p>{/each}
      {#each assessment.faults as fault (fault.location + fault.message)}
        <p class="mt-1 text-error">{fault.message}. Allowed: {fault.allowed}.</p>
      {/each}
    </div>
  {:else}
    <ol>
      {#each assessment.ladder as rung (rung.part)}
        <Rung
          {rung}
          worst={assessment.nearest?.part === rung.part}
          open={open === rung.part}
          ontoggle={() => (open = open === rung.part ? null : rung.part)}
        />
      {/each}
    </ol>
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
        <dd class="faint">{print("height", room.wanted_m)} wanted</dd>
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
      {#if caught.around}
        <p class="mt-1">
          Hold a fifth less: run
          {caught.around.run_at_low_hold_m === null
            ? "without end"
            : print("height", caught.around.run_at_low_hold_m)}; a fifth more: line peak
          {print("force", caught.around.line_peak_at_high_hold_kn)}.
        </p>
      {/if}
    </div>
  {/if}

  {#if assessment.cautions.length}
    <div class="px-4 py-3">
      <h3 class="text-sm font-bold">Read with these figures</h3>
      <ul class="mt-1 space-y-1.5 text-sm leading-snug">
        {#each assessment.cautions as caution (caution)}
          <li class="border-l-4 border-warning pl-2">{caution}</li>
        {/each}
      </ul>
    </div>
  {/if}
</section>
