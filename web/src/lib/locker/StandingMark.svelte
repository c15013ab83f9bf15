<script lang="ts">
  import type { Standing } from "../api/client";
  import { standingMark } from "./words";

  let { standing }: { standing: Standing } = $props();

  let mark = $derived(standingMark(standing));
</script>

<span class="inline-flex items-center gap-1.5 text-sm font-semibold whitespace-nowrap">
  <span class={mark.tone} aria-hidden="true">{mark.shape}</span>{standing.state}
</span>
