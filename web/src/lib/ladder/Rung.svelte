<script lang="ts">
  import { resolve } from "$app/paths";
  import Icon from "../Icon.svelte";
  import ChevronDown from "lucide-static/icons/chevron-down.svg?raw";
  import type { Rung } from "../api/client";
  import { figure, print, unitOf } from "../reference.svelte";
  import Bar from "./Bar.svelte";
  import Mark from "./Mark.svelte";
  import Word from "../words/Word.svelte";
  import Working from "./Working.svelte";

  interface Props {
    rung: Rung;
    worst: boolean;
    open: boolean;
    ontoggle: () => void;
  }

  let { rung, worst, open, ontoggle }: Props = $props();

  let title = $derived(rung.part.charAt(0).toUpperCase() + rung.part.slice(1));
  let unit = $derived(unitOf("force").label);
  let isPiece = $derived(rung.part === "piece");
</script>

<li class={["border-b border-base-300", worst && "border-l-4 border-l-primary bg-base-200"]}>
  <h3>
    <button
      class={["block w-full cursor-pointer px-3 py-1.5 text-left", !worst && "pl-4"]}
      aria-expanded={open}
      onclick={ontoggle}
    >
      <span class="flex items-center gap-2">
        <Mark verdict={rung.verdict} />
        <span class="font-bold">{title}</span>
        <span class="truncate text-sm faint">{rung.name}</span>
        {#if rung.cautions.length}
          <span class="shrink-0 border-l-4 border-warning pl-1 text-xs">
            {rung.cautions.length === 1 ? "1 caution" : `${rung.cautions.length} cautions`}
          </span>
        {/if}
        <span class="ml-auto flex shrink-0 items-center gap-1 text-sm font-semibold">
          {rung.use_pct === null ? "" : `${rung.use_pct.toFixed(0)} %`}
          {rung.verdict}
          <Icon of={ChevronDown} size={16} class={open ? "rotate-180" : ""} />
        </span>
      </span>
      <span class="mt-0.5 flex items-center gap-3">
        <span class="text-[1.7rem] leading-none font-bold">
          {rung.peak_kn === null ? "–" : figure("force", rung.peak_kn)}<span
            class="ml-1 text-sm font-medium">{rung.peak_kn === null ? "" : unit}</span
          >
        </span>
        <span class="shrink-0 text-sm faint">
          {isPiece ? "likely" : "resting"}
          {figure("force", rung.resting_kn)}
        </span>
        <span class="ml-auto min-w-0 text-right leading-tight">
          <span class="block text-sm"
            >{rung.limit_kn === null ? "no limit" : `limit ${print("force", rung.limit_kn)}`}</span
          >
          <span class="block truncate text-xs faint">
            {#if rung.decided_by && rung.decided_by !== "marking"}
              <b class="mr-1 font-semibold text-base-content">{rung.decided_by}:</b
              >{/if}{rung.reason}</span
          >
        </span>
      </span>
      <span class="mt-1 block"><Bar usePct={rung.use_pct} verdict={rung.verdict} /></span>
      {#if rung.when}
        <span class="mt-0.5 block text-xs leading-tight faint">Most {rung.when}</span>
      {/if}
    </button>
  </h3>
  {#if open}
    <div class="border-t border-base-300 bg-base-100 px-4 py-2">
      <div class="mb-2 text-sm">
        <Word of={rung.part}>What “{rung.part}” means</Word>
      </div>
      {#each rung.cautions as caution, at (at)}
        <p class="mb-2 border-l-4 border-warning pl-2 text-sm">{caution}</p>
      {/each}
      {#if rung.limit_kn !== null}
        <p class="mb-2 text-sm" data-testid="decided">
          Decided by <b>{rung.decided_by}</b>: {rung.reason}{#if rung.resting_limit_kn !== null}
            · at rest at most {print("force", rung.resting_limit_kn)}{/if}
        </p>
      {/if}
      <Working steps={rung.working} />
      {#if rung.sum}
        {@const query = `sum=${rung.sum.kind}&with=${encodeURIComponent(JSON.stringify(rung.sum.request))}`}
        <a class="btn mt-2 touch btn-outline" href={resolve(`/bench?${query}`)}>On the bench</a>
      {/if}
    </div>
  {/if}
</li>
