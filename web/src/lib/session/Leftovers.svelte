<script lang="ts">
  import { resolve } from "$app/paths";
  import { when } from "../when";
  import { invalidateAll } from "$app/navigation";
  import { keepOrphan, leftovers, letGo, sendLeftover, type Leftover } from "./leftovers";

  // What this device kept and no server has goes out from here as well.
  let left = $state.raw<Leftover[]>([]);
  $effect(() => {
    const go = async () => {
      const found = leftovers();
      left = found;
      const orphans: string[] = [];
      for (const one of found) if (await sendLeftover(one.id)) orphans.push(one.id);
      left = leftovers().map((one) => ({ ...one, orphan: orphans.includes(one.id) }));
    };
    void go();
    window.addEventListener("online", go);
    return () => window.removeEventListener("online", go);
  });

  let trouble = $state("");
  let sure = $state("");
  async function keep(one: Leftover) {
    const made = await keepOrphan(one.id);
    trouble = made ? "" : "That did not work: it is still on this device.";
    if (!made) return;
    left = left.filter((other) => other.id !== one.id);
    await invalidateAll();
  }
  function forget(one: Leftover) {
    // The second press means it.
    if (sure !== one.id) sure = one.id;
    else {
      letGo(one.id);
      left = left.filter((other) => other.id !== one.id);
    }
  }
</script>

{#each left as one (one.id)}
  <div role="status" class="mt-4 border-l-4 border-warning py-1 pl-3" data-testid="leftover">
    {#if one.orphan}
      <b>{one.name}</b>:
    {:else}
      <a class="link font-semibold" href={resolve("/job/[id]", { id: one.id })}>{one.name}</a>:
    {/if}
    {one.waiting === 1 ? "1 change waits" : `${one.waiting} changes wait`} on this device{one.since
      ? `, the first ${when(new Date(one.since).toISOString())}`
      : ""}.
    {#if one.orphan}
      The server has no such job any more.
      <span class="mt-1 flex flex-wrap gap-2">
        <button class="btn touch btn-outline" onclick={() => keep(one)}>Keep it as a new job</button
        >
        <button class="btn touch btn-ghost px-2" onclick={() => forget(one)}
          >{sure === one.id ? "Forget it for good" : "Let it go"}</button
        >
      </span>
    {/if}
    {#if trouble}<p role="alert" class="text-error">{trouble}</p>{/if}
  </div>
{/each}
