<script lang="ts">
  // What an archive brought, and what of it is not as it is here.
  import { resolve } from "$app/paths";
  import { api, explain, type Brought } from "../api/client";

  let { came, onclose }: { came: Brought; onclose: () => void } = $props();

  let taken = $state<string[]>([]);
  let trouble = $state("");
  let busy = $state(false);
  let missing = $derived(came.gear.filter((item) => !taken.includes(item.id)));

  const counted = (n: number, one: string, more: string) => `${n} ${n === 1 ? one : more}`;

  /** Takes the gear over into the locker here, each item as it was there. */
  async function takeOver() {
    busy = true;
    trouble = "";
    for (const item of missing) {
      const answer = await api
        .PUT("/api/locker/items/{id}", {
          params: { path: { id: item.id }, header: { "If-Match": '"0"' } },
          body: item,
        })
        .catch(() => null);
      if (!answer || answer.error) {
        trouble = `${item.name}: ${explain(answer?.error ?? null)}`;
        break;
      }
      taken = [...taken, item.id];
    }
    busy = false;
  }
</script>

<section role="status" class="mt-4 border-l-4 border-primary py-1 pl-3" data-testid="came">
  <p>
    <a class="link font-semibold" href={resolve("/job/[id]", { id: came.id })}>{came.name}</a>
    is here, with {counted(came.pictures, "picture", "pictures")} and
    {counted(came.briefings, "briefing", "briefings")}{came.left_out
      ? `; ${came.left_out} older ones were not in the archive`
      : ""}.
  </p>
  {#if missing.length}
    <p class="mt-1">
      It refers to gear that this locker does not have:
      {missing.map((item) => item.name).join(", ")}.
    </p>
    <button class="btn mt-2 touch btn-outline" disabled={busy} onclick={takeOver}
      >Take {missing.length === 1 ? "it" : `all ${missing.length}`} into the locker</button
    >
  {:else if taken.length}
    <p class="mt-1">{counted(taken.length, "item is", "items are")} in the locker now.</p>
  {/if}
  {#if came.ruled}
    <p class="mt-1">Its crew judged it by other rules. Here it is judged by yours.</p>
  {/if}
  {#if trouble}<p role="alert" class="mt-1 text-error">{trouble}</p>{/if}
  <button class="btn mt-1 touch btn-ghost px-2" onclick={onclose}>Close</button>
</section>
