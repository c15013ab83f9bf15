<script lang="ts">
  import Icon from "../Icon.svelte";
  import ArrowDown from "lucide-static/icons/arrow-down.svg?raw";
  import ArrowUp from "lucide-static/icons/arrow-up.svg?raw";
  import Plus from "lucide-static/icons/plus.svg?raw";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import Wand from "lucide-static/icons/list-plus.svg?raw";
  import type { Assessment, Pick } from "../api/client";
  import Bar from "../ladder/Bar.svelte";
  import Mark from "../ladder/Mark.svelte";
  import { figure, print, unitOf } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import { moveBefore, ways } from "./edits";

  interface Props {
    session: Session;
    assessment: Assessment;
    onadd: () => void;
    onfill: () => void;
    onremove: () => void;
    onshift: (by: -1 | 1) => void;
  }

  let { session, assessment, onadd, onfill, onremove, onshift }: Props = $props();

  let list = $state<HTMLElement>();
  let over = $state<string | null>(null);
  let dragged: string[] = [];
  let picks = $derived(session.job.picks);
  let figures = $derived(Object.fromEntries(assessment.picks.map((f) => [f.id, f])));

  function press(event: MouseEvent | KeyboardEvent, id: string) {
    const ids = picks.map((p) => p.id);
    if (event.shiftKey && session.chosen.length) {
      const a = ids.indexOf(session.chosen[0] ?? id);
      const b = ids.indexOf(id);
      const run = ids.slice(Math.min(a, b), Math.max(a, b) + 1);
      session.choose(a <= b ? run : run.reverse());
    } else if (event.ctrlKey || event.metaKey) {
      const rest = session.chosen.filter((one) => one !== id);
      session.choose(rest.length < session.chosen.length && rest.length ? rest : [...rest, id]);
    } else session.choose([id]);
  }

  function onkeydown(event: KeyboardEvent) {
    const at = session.index;
    const to: Record<string, number> = {
      ArrowDown: at + 1,
      ArrowUp: at - 1,
      Home: 0,
      End: picks.length - 1,
    };
    if ((event.ctrlKey || event.metaKey) && event.key.toLowerCase() === "a") {
      event.preventDefault();
      session.choose(picks.map((p) => p.id));
      return;
    }
    const next = to[event.key];
    if (next === undefined || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopPropagation();
    if (event.altKey && (event.key === "ArrowUp" || event.key === "ArrowDown")) {
      onshift(event.key === "ArrowUp" ? -1 : 1);
      return;
    }
    const pick = picks[Math.max(0, Math.min(picks.length - 1, next))];
    if (!pick) return;
    press(event, pick.id);
    list?.querySelector(`[data-pick="${pick.id}"]`)?.scrollIntoView({ block: "nearest" });
  }

  function begin(event: DragEvent, id: string) {
    dragged = session.chosen.includes(id) ? [...session.chosen] : [id];
    event.dataTransfer?.setData("text/plain", id);
  }

  function drop(event: DragEvent, before: string | undefined) {
    event.preventDefault();
    over = null;
    const ids = dragged;
    if (!ids.length) return;
    void session.change((job) => moveBefore(job, ids, before));
    dragged = [];
  }
  /** A row as it is read out: what, whether it is down, its weight, how it comes down, its verdict. */
  function words(pick: Pick, i: number): string {
    const f = figures[pick.id];
    const mass = f?.mass_kg;
    return [
      `${i + 1}: ${f?.title ?? pick.id}`,
      session.down.has(pick.id) && "down",
      mass && `${print("mass", mass.low)} to ${print("mass", mass.high)}`,
      ways()[pick.way],
      f?.faults.length ? `cannot happen: ${f.faults.map((one) => one.message).join("; ")}` : "",
      f?.verdict,
      f?.worst,
    ]
      .filter(Boolean)
      .join(", ");
  }
</script>

<section class="flex h-full min-h-0 flex-col" aria-label="The order">
  <div class="flex shrink-0 items-center border-b border-base-300 pl-3">
    <h2 class="mr-auto font-bold">Order</h2>
    <button class="btn touch btn-ghost px-2" onclick={onfill} title="Fill the order (F)">
      <Icon of={Wand} size={18} /> Fill
    </button>
    <button
      class="btn touch btn-ghost px-2"
      onclick={onadd}
      aria-label="Add a pick"
      title="Add a pick (A)"><Icon of={Plus} size={20} /></button
    >
  </div>
  {#if picks.length === 0}
    <div class="space-y-3 p-4">
      <p class="font-semibold">Nothing is planned yet.</p>
      <p class="text-sm faint">
        Press wood on the drawing twice, add a pick, or let the order be filled and take from it
        what you like.
      </p>
      <button class="btn touch w-full btn-primary" onclick={onfill}>Fill the order</button>
      <button class="btn touch w-full btn-outline" onclick={onadd}>Add a pick</button>
    </div>
  {:else}
    <div
      bind:this={list}
      role="listbox"
      aria-label="Picks, first to last"
      aria-multiselectable="true"
      aria-activedescendant={session.pick ? `pick-${session.pick.id}` : undefined}
      tabindex="0"
      data-testid="order"
      class="relative min-h-0 grow overflow-y-auto outline-offset-[-3px]"
      {onkeydown}
    >
      {#each picks as pick, i (pick.id)}
        {@const f = figures[pick.id]}
        {@const chosen = session.chosen.includes(pick.id)}
        <!-- svelte-ignore a11y_click_events_have_key_events -->
        <div
          id={`pick-${pick.id}`}
          role="option"
          tabindex="-1"
          aria-selected={chosen}
          aria-label={words(pick, i)}
          data-pick={pick.id}
          draggable="true"
          class={[
            "cursor-pointer border-b border-base-300 py-1.5 pr-2 pl-2",
            chosen ? "border-l-4 border-l-primary bg-base-200" : "border-l-4 border-l-transparent",
            over === pick.id && "border-t-4 border-t-primary",
          ]}
          onclick={(e) => press(e, pick.id)}
          ondragstart={(e) => begin(e, pick.id)}
          ondragover={(e) => {
            e.preventDefault();
            over = pick.id;
          }}
          ondragleave={() => (over = null)}
          ondrop={(e) => drop(e, pick.id)}
        >
          <div class="flex items-center gap-1.5">
            <span class="w-5 shrink-0 text-right text-sm font-bold">{i + 1}</span>
            <span
              class={[
                "min-w-0 grow truncate font-semibold",
                session.down.has(pick.id) && "line-through",
              ]}>{f?.title ?? pick.id}</span
            >
            {#if f}<Mark verdict={f.verdict} size={15} />{/if}
          </div>
          <div class="flex items-baseline gap-1.5 pl-6">
            <span class="min-w-0 truncate text-xs faint">{ways()[pick.way]}</span>
            <span class="ml-auto shrink-0 text-sm font-semibold">
              {#if f?.mass_kg}{figure("mass", f.mass_kg.low)}–{figure("mass", f.mass_kg.high)}
                <span class="text-xs font-normal">{unitOf("mass").label}</span>{/if}
            </span>
          </div>
          {#if f?.worst && !f.faults.length}
            <div class="flex items-center gap-2 pl-6">
              {#if f.nearest}
                <span class="min-w-10 shrink-0 grow basis-10"
                  ><Bar usePct={f.nearest.use_pct} verdict={f.nearest.verdict} /></span
                >
              {/if}
              <span
                class={[
                  "line-clamp-2 min-w-0 text-right text-xs",
                  !f.nearest && "grow text-left!",
                  f.verdict === "over" || f.verdict === "not held"
                    ? "font-bold text-error"
                    : "faint",
                ]}
                title={f.worst}>{f.worst}</span
              >
            </div>
          {/if}
          {#each f?.faults ?? [] as fault, at (at)}
            <p class="pl-6 text-sm leading-snug text-error">
              <b>Cannot happen:</b>
              {fault.message}.
            </p>
          {/each}
        </div>
      {/each}
      <!-- svelte-ignore a11y_no_static_element_interactions -->
      <div
        class={["h-10", over === "" && "border-t-4 border-primary"]}
        ondragover={(e) => {
          e.preventDefault();
          over = "";
        }}
        ondragleave={() => (over = null)}
        ondrop={(e) => drop(e, undefined)}
      ></div>
    </div>
    <div class="grid shrink-0 grid-cols-3 border-t border-base-300">
      <button
        class="btn touch rounded-none btn-ghost"
        aria-label="Earlier"
        title="Earlier (Alt ↑)"
        onclick={() => onshift(-1)}><Icon of={ArrowUp} size={18} /></button
      >
      <button
        class="btn touch rounded-none btn-ghost"
        aria-label="Later"
        title="Later (Alt ↓)"
        onclick={() => onshift(1)}><Icon of={ArrowDown} size={18} /></button
      >
      <button
        class="btn touch rounded-none btn-ghost"
        aria-label="Take out of the order"
        title="Take out of the order (Delete)"
        onclick={onremove}><Icon of={Trash} size={18} /></button
      >
    </div>
  {/if}
</section>
