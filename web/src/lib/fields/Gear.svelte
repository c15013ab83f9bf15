<script lang="ts">
  import { resolve } from "$app/paths";
  import type { GearStanding } from "../api/client";
  import { today } from "../crew/items";
  import { kindWord } from "../locker/words";
  import StandingMark from "../locker/StandingMark.svelte";
  import { assign } from "../session/path";
  import type { Session } from "../session/session.svelte";

  let { session }: { session: Session } = $props();

  let standings = $derived(session.assessment?.gear_standings ?? []);
  let exceptions = $derived(session.job.exceptions ?? []);
  let reasons = $state<Record<string, string>>({});
  let by = $state("");
  let refused = $state<Record<string, string>>({});

  async function record(item: GearStanding) {
    const reason = (reasons[item.id] ?? "").trim();
    const who = by.trim();
    if (reason.length < 8 || !who) {
      refused[item.id] =
        reason.length < 8
          ? `The reason has ${reason.length} letters; it needs at least 8.`
          : "Say who answers for it.";
      return;
    }
    const state = item.state as "overdue" | "set aside" | "retired";
    const faults = await session.change((job) => {
      const kept = (job.exceptions ?? []).filter((one) => one.id !== item.id);
      job.exceptions = [...kept, { id: item.id, state, reason, by: who, on: today() }];
    });
    refused[item.id] = faults[0] ? `${faults[0].message}. Allowed: ${faults[0].allowed}.` : "";
    if (!faults.length) reasons[item.id] = "";
  }

  function withdraw(id: string) {
    void session.change((job) => {
      const kept = (job.exceptions ?? []).filter((one) => one.id !== id);
      if (kept.length) job.exceptions = kept;
      else delete job.exceptions;
    });
  }
</script>

<div class="space-y-4">
  <label class="block">
    <span class="mb-0.5 block text-sm font-medium">The day it is planned for</span>
    <input
      type="date"
      class="input touch w-full px-2 text-base font-medium"
      value={session.job.work_on ?? ""}
      onchange={(e) => {
        const day = e.currentTarget.value || undefined;
        void session.change((job) => assign(job, "work_on", day));
      }}
    />
    <span class="text-xs faint">Inspections must hold on that day. Not given: today.</span>
  </label>

  {#if standings.length === 0}
    <p class="text-sm faint">
      Nothing on this job comes from the <a class="link" href={resolve("/locker")}>locker</a> yet. Under
      Rigs, each part can be taken from it: its figures, its inspections and its standing come with it.
    </p>
  {:else}
    <ul aria-label="Gear of the locker on this job">
      {#each standings as item (item.id)}
        {@const recorded = exceptions.find((one) => one.id === item.id)}
        <li class="border-b border-base-300 py-2">
          <div class="flex items-baseline gap-2">
            <a
              class="min-w-0 grow truncate font-semibold hover:underline"
              href={resolve(`/locker?item=${item.id}`)}>{item.name}</a
            >
            <StandingMark standing={item} />
          </div>
          <p class="text-sm faint">
            {kindWord(item.kind)}{item.serial ? ` · ${item.serial}` : ""}{item.why
              ? ` · ${item.why}`
              : ""}
          </p>
          {#if item.barred}
            <form
              class="mt-2 space-y-2 border-l-4 border-error pl-3"
              onsubmit={(e) => {
                e.preventDefault();
                void record(item);
              }}
            >
              <p class="text-sm font-semibold">
                Not to be planned with. Take another, or record why it is used all the same:
              </p>
              <textarea
                class="textarea w-full px-2 text-base"
                rows="2"
                maxlength="400"
                aria-label={`Why ${item.name} is used all the same`}
                bind:value={reasons[item.id]}></textarea>
              <div class="flex gap-2">
                <input
                  class="input touch min-w-0 grow px-2"
                  maxlength="80"
                  aria-label="Who answers for it"
                  placeholder="who answers for it"
                  bind:value={by}
                />
                <button class="btn touch btn-outline">Record</button>
              </div>
              {#if refused[item.id]}
                <p role="alert" class="text-sm text-error">{refused[item.id]}</p>
              {/if}
            </form>
          {:else if recorded}
            <div class="mt-1 border-l-4 border-warning pl-3 text-sm">
              <p>
                Used all the same since {recorded.on}, says {recorded.by}: {recorded.reason}
              </p>
              <button
                class="btn mt-1 touch btn-ghost px-0"
                onclick={() => withdraw(item.id)}
                aria-label={`Withdraw the reason for ${item.name}`}>Withdraw the reason</button
              >
            </div>
          {/if}
        </li>
      {/each}
    </ul>
  {/if}
</div>
