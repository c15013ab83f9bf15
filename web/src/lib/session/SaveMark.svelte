<script lang="ts">
  import { when } from "../when";
  import type { Saver } from "./saver.svelte";

  let { saver }: { saver: Saver } = $props();

  let now = $state(Date.now());
  $effect(() => {
    const timer = setInterval(() => (now = Date.now()), 20_000);
    return () => clearInterval(timer);
  });

  let count = $derived(saver.waiting === 1 ? "1 change" : `${saver.waiting} changes`);
  // Of what has waited for a while, since when.
  let since = $derived(
    saver.since && now - saver.since > 60_000
      ? `, the first ${when(new Date(saver.since).toISOString(), now)}`
      : "",
  );
  // Where what waits is: on the device, or in this page alone.
  let where = $derived(
    saver.here ? "on this device" : "in this page only, which must stay open: the device is full",
  );

  let says = $derived.by(() => {
    switch (saver.state) {
      case "saved":
        return `Saved for everybody ${when(saver.savedAt, now)}${now - saver.broughtIn < 30_000 ? ", with a change from elsewhere" : ""}`;
      case "waiting":
        return `${count} ${where}`;
      case "saving":
        return `${count} sent`;
      case "unreachable":
        return `Not saved: ${count} ${where}${since}. ${saver.reason ? `${saver.reason} ` : ""}Trying again`;
      case "stale":
        return `Not saved: changed elsewhere; ${count} ${where}`;
      case "refused":
        return `Not saved: ${count} ${where}`;
      case "gone":
        return saver.waiting
          ? `Not saved: the job was deleted; ${count} ${where}`
          : "The job was deleted";
    }
  });
  let short = $derived(
    { saved: "Saved", waiting: "Here", saving: "Sent" }[saver.state as string] ??
      `Not saved${saver.waiting ? ` · ${saver.waiting}` : ""}`,
  );
  let bad = $derived(!["saved", "waiting", "saving"].includes(saver.state) || !saver.here);
</script>

<span
  role="status"
  data-testid="save-state"
  data-state={saver.state}
  title={bad ? says : undefined}
  class={["shrink-0 px-1 text-sm sm:shrink sm:truncate", bad ? "font-bold text-error" : "faint"]}
>
  <span class="sm:hidden">{short}</span>
  <span class="max-sm:hidden">{says}</span>
  <span class="hidden lg:inline">· revision {saver.revision}</span>
</span>
