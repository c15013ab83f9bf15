<script lang="ts">
  import type { Verdict } from "../api/client";

  let { usePct, verdict }: { usePct: number | null; verdict: Verdict } = $props();

  // The notch of the limit stands at the same place on every bar; what is beyond
  // it runs on to the end and is cut off there.
  const notch = 78;
  const tones = {
    within: "fill-success",
    close: "fill-warning",
    over: "fill-error",
    "not known": "fill-base-300",
    "not held": "fill-error",
  };
  let length = $derived(Math.min(100, ((usePct ?? 0) / 100) * notch));
</script>

<svg viewBox="0 0 100 10" preserveAspectRatio="none" class="h-2.5 w-full" aria-hidden="true">
  <rect x="0" y="2" width={notch} height="6" class="fill-base-300" />
  <rect x={notch} y="4.4" width={100 - notch} height="1.2" class="fill-base-300" />
  {#if usePct !== null}
    <rect x="0" y="2" width={length} height="6" class={tones[verdict]} />
  {/if}
  <rect x={notch - 0.5} y="0" width="1" height="10" class="fill-base-content" />
</svg>
