<script lang="ts">
  // Why a bearing of the rose is closed, by its shape; round the origin.
  import type { Rose } from "../api/client";

  let { kind }: { kind: Rose["bearings"][number]["kind"] } = $props();
</script>

{#if kind === "open" || kind === "close"}
  <path d="M0 5V-5" class="stroke-success" stroke-width={kind === "open" ? 4 : 2} />
{:else if kind === "strikes"}
  <rect x="-3.5" y="-3.5" width="7" height="7" class="fill-error" />
{:else if kind === "sector"}
  <path d="M-3.5 -3.5l7 7m0 -7l-7 7" class="stroke-error" stroke-width="2" />
{:else if kind === "hangs"}
  <circle r="3.5" class="fill-none stroke-warning" stroke-width="2" />
{:else if kind === "pull"}
  <path d="M-4 3h8l-4 -7z" class="fill-none stroke-base-content" stroke-width="1.5" />
{:else if kind === "hinge"}
  <path
    d="M0 -4.5l4 4.5l-4 4.5l-4 -4.5z"
    class="fill-none stroke-base-content"
    stroke-width="1.5"
  />
{:else if kind === "gear"}
  <path d="M0 -4.5l4 4.5l-4 4.5l-4 -4.5z" class="fill-base-content" />
{:else if kind === "room"}
  <path d="M-4 0h8" class="stroke-error" stroke-width="2.5" />
{:else}
  <text y="4" text-anchor="middle" class="fill-base-content text-[11px] font-bold">?</text>
{/if}
