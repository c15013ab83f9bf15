<script lang="ts">
  // What each saved policy changed; each change can be taken back.
  import { api, type PolicySave } from "../api/client";
  import { when } from "../when";

  interface Props {
    /** Number of the newest policy: another one, and the list is read anew. */
    newest: number;
    say: (path: string, value: unknown) => string;
    ontakeback: (path: string, was: unknown) => void;
  }
  let { newest, say, ontakeback }: Props = $props();

  let saves = $state.raw<PolicySave[]>([]);
  let next = $state(0);
  let total = $state(0);
  let trouble = $state("");

  async function read(before = 0) {
    const answer = await api
      .GET("/api/policy/history", { params: { query: before ? { before } : {} } })
      .catch(() => null);
    trouble = answer?.data ? "" : "The history could not be read.";
    if (!answer?.data) return;
    saves = before ? [...saves, ...answer.data.saves] : answer.data.saves;
    next = answer.data.next;
    total = answer.data.total;
  }
  $effect(() => {
    void newest;
    void read();
  });
</script>

<section class="mt-7" aria-label="What was changed before">
  <h2 class="border-b border-base-300 pb-1 text-lg font-bold">What was changed before</h2>
  {#if trouble}<p role="alert" class="mt-2 text-error">{trouble}</p>{/if}
  {#if !saves.length && !trouble}
    <p class="mt-2 faint">Nothing yet: every rule stands at its default.</p>
  {/if}
  <ol>
    {#each saves as save (save.number)}
      <li class="border-b border-base-300 py-2" data-save={save.number}>
        <p class="font-semibold">No. {save.number}, {when(save.saved_at)}</p>
        {#each save.changes as change (change.path)}
          <p class="flex flex-wrap items-center gap-x-3">
            <span class="grow">
              {change.title}: {say(change.path, change.was)} → <b>{say(change.path, change.is)}</b>
            </span>
            <button
              class="btn touch btn-outline"
              onclick={() => ontakeback(change.path, change.was)}
              >Take it back<span class="sr-only"
                >: {change.title} to {say(change.path, change.was)}</span
              ></button
            >
          </p>
        {:else}
          <p class="faint">Saved as it was.</p>
        {/each}
      </li>
    {/each}
  </ol>
  {#if next}
    <button class="btn mt-2 touch btn-outline" onclick={() => read(next)}
      >Earlier ones ({saves.length} of {total})</button
    >
  {/if}
</section>
