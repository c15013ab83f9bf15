<script lang="ts">
  import type { Step } from "../api/client";

  let { steps }: { steps: Step[] } = $props();

  function figure(value: number): string {
    const size = Math.abs(value);
    const digits = size >= 100 ? 1 : size >= 1 ? 3 : 4;
    return value.toLocaleString("en", { maximumFractionDigits: digits });
  }
</script>

<p class="mb-1 text-xs faint">Worked in metres, kilograms and kilonewtons.</p>
<ol class="divide-y divide-base-300 text-sm">
  {#each steps as step, i (i)}
    <li class="py-1.5">
      <div class="flex items-baseline justify-between gap-3">
        <span><b class="font-semibold">{step.symbol}</b> · {step.label}</span>
        <span class="shrink-0 font-semibold">{figure(step.value)} {step.unit}</span>
      </div>
      <div class="break-words">{step.expression}</div>
      {#if step.source}<div class="text-xs faint">{step.source}</div>{/if}
    </li>
  {/each}
</ol>
