<script lang="ts">
  import type { Assessment } from "./api/client";
  import { figure, print, unitOf } from "./reference.svelte";

  interface Props {
    assessment: Assessment;
    piece: NonNullable<Assessment["piece"]>;
  }

  let { assessment, piece }: Props = $props();

  let line = $derived(assessment.ladder.find((rung) => rung.part === "line"));
  let caught = $derived(assessment.catch);
</script>

<!-- On a phone: what to know and what to call, before the drawing. -->
<dl class="grid grid-cols-[1.4fr_1fr_1fr] border-b border-base-300 sm:hidden">
  <div class="px-3 py-1.5">
    <dt class="text-xs faint">Weight</dt>
    <dd class="text-2xl leading-tight font-bold">{print("mass", piece.mass_kg.likely)}</dd>
    <dd class="text-sm font-semibold">
      {figure("mass", piece.mass_kg.low)} to {print("mass", piece.mass_kg.high)}
    </dd>
  </div>
  {#if caught && line}
    <div class="border-l border-base-300 px-3 py-1.5">
      <dt class="text-xs faint">Line peak</dt>
      <dd class="text-2xl leading-tight font-bold">
        {line.peak_kn === null ? "–" : figure("force", line.peak_kn)}
      </dd>
      <dd class="text-sm">{unitOf("force").label}</dd>
    </div>
    <div class="border-l border-base-300 px-3 py-1.5">
      <dt class="text-xs faint">Call</dt>
      <dd class="text-base leading-tight font-bold">
        {caught.run_m === null
          ? "never stops"
          : caught.runs
            ? `run ${print("height", caught.run_m)}`
            : "no run"}
      </dd>
      <dd class="text-sm">
        {assessment.settings.how === "locked"
          ? "tied off"
          : `${+assessment.settings.wraps.toFixed(2)} wraps`}
      </dd>
    </div>
  {/if}
</dl>
