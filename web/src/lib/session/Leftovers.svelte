<script lang="ts">
  import { resolve } from "$app/paths";
  import { when } from "../when";
  import { leftovers, sendLeftover, type Leftover } from "./leftovers";

  // What this device kept and no server has goes out from here as well.
  let left = $state.raw<Leftover[]>([]);
  $effect(() => {
    const go = async () => {
      const found = leftovers();
      left = found;
      for (const one of found) await sendLeftover(one.id);
      left = leftovers();
    };
    void go();
    window.addEventListener("online", go);
    return () => window.removeEventListener("online", go);
  });
</script>

{#each left as one (one.id)}
  <p role="status" class="mt-4 border-l-4 border-warning py-1 pl-3" data-testid="leftover">
    <a class="link font-semibold" href={resolve("/job/[id]", { id: one.id })}>{one.name}</a>:
    {one.waiting === 1 ? "1 change waits" : `${one.waiting} changes wait`} on this device{one.since
      ? `, the first ${when(new Date(one.since).toISOString())}`
      : ""}.
  </p>
{/each}
