<script lang="ts">
  import { when } from "../when";
  import type { Saver } from "./saver.svelte";

  let { saver }: { saver: Saver } = $props();

  let now = $state(Date.now());
  $effect(() => {
    const timer = setInterval(() => (now = Date.now()), 20_000);
    return () => clearInterval(timer);
  });

  let says = $derived.by(() => {
    switch (saver.state) {
      case "saved":
        return `Saved ${when(saver.savedAt, now)}${now - saver.broughtIn < 30_000 ? ", with a change from elsewhere" : ""}`;
      case "waiting":
      case "saving":
        return "Saving";
      case "unreachable":
        return `${saver.reason || "Not saved: kept on this device."} Trying again`;
      case "stale":
        return "Not saved: changed elsewhere";
      case "refused":
        return "Not saved";
      case "gone":
        return "Not saved: the job was deleted";
    }
  });
  let bad = $derived(!["saved", "waiting", "saving"].includes(saver.state));
</script>

<span
  role="status"
  data-testid="save-state"
  data-state={saver.state}
  title={bad ? says : undefined}
  class={["shrink-0 px-1 text-sm sm:shrink sm:truncate", bad ? "font-bold text-error" : "faint"]}
>
  <span class="sm:hidden">{bad ? "Not saved" : (says.split(" ")[0] ?? "")}</span>
  <span class="max-sm:hidden">{says}</span>
  <span class="hidden lg:inline">· revision {saver.revision}</span>
</span>
