<script lang="ts">
  import type { Verdict } from "../api/client";

  let { verdict, size = 20 }: { verdict: Verdict; size?: number } = $props();

  const tones = {
    within: "text-success",
    close: "text-warning",
    over: "text-error",
    "not known": "faint",
    "not held": "text-error",
  };
</script>

<!-- Each verdict has a shape of its own, so that it reads without colour. -->
<svg
  viewBox="0 0 20 20"
  width={size}
  height={size}
  class={["shrink-0", tones[verdict]]}
  aria-hidden="true"
>
  {#if verdict === "within"}
    <circle cx="10" cy="10" r="7.5" fill="currentColor" />
  {:else if verdict === "close"}
    <path d="M10 2 18.5 17.5H1.5Z" fill="currentColor" />
  {:else if verdict === "over"}
    <path d="M2 2h16v16H2Z" fill="currentColor" />
    <path d="m6 6 8 8m0-8-8 8" class="stroke-base-100" stroke-width="2.5" />
  {:else if verdict === "not held"}
    <path d="M7 1h6v9h5.5L10 19 1.5 10H7Z" fill="currentColor" />
  {:else}
    <circle
      cx="10"
      cy="10"
      r="7"
      fill="none"
      stroke="currentColor"
      stroke-width="2"
      stroke-dasharray="3 2.5"
    />
  {/if}
</svg>
