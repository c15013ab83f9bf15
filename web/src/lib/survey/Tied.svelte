<script lang="ts">
  // Where the crown of the tree hangs together with that of another.
  import Icon from "../Icon.svelte";
  import Plus from "lucide-static/icons/plus.svg?raw";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Tree } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import Measure from "../fields/Measure.svelte";
  import { freshId } from "../order/edits";
  import type { Session } from "../session/session.svelte";

  let { session }: { session: Session } = $props();

  type Tied = NonNullable<Tree["tied"]>[number];
  let others = $derived(
    session.job.trees
      .filter((t) => t.id !== session.tree.id)
      .map((t): [string, string] => [t.id, t.name || `tree ${t.id}`]),
  );
  let ties = $derived(session.tree.tied ?? []);

  function change(id: string, mutate: (tied: Tied) => void) {
    void session.change((job) => {
      const found = session.treeIn(job).tied?.find((t) => t.id === id);
      if (found) mutate(found);
    });
  }
  function add() {
    const to = others[0]?.[0];
    if (!to) return;
    const id = freshId(session.job, "k");
    const high = session.tree.height_m ?? 10;
    void session.change((job) =>
      (session.treeIn(job).tied ??= []).push({ id, to, at_m: Math.round(high * 0.8) }),
    );
  }
</script>

{#if others.length}
  <section class="mt-6 space-y-3" aria-label="Crown tied to another tree">
    <h2 class="text-lg font-bold">Crown tied to another tree</h2>
    <p class="text-sm faint">
      Tied, cabled, or grown into each other: one that goes pulls at the other until they are cut
      free.
    </p>
    {#each ties as tied (tied.id)}
      {@const at = `${session.treePath}.tied[#${tied.id}]`}
      <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2 border-t border-base-300 pt-3">
        <Choice
          label="Tied to"
          value={tied.to}
          options={others}
          onchoose={(to) => change(tied.id, (one) => (one.to = to))}
        />
        <Measure
          {session}
          path={`${at}.at_m`}
          label="At height"
          quantity="height"
          value={tied.at_m}
          required
        />
        <button
          class="btn touch btn-ghost px-2"
          aria-label="It is not tied there"
          onclick={() =>
            session.change((job) => {
              const tree = session.treeIn(job);
              tree.tied = tree.tied?.filter((t) => t.id !== tied.id);
              if (!tree.tied?.length) delete tree.tied;
            })}><Icon of={Trash} size={18} /></button
        >
        <label class="col-span-3 flex touch cursor-pointer items-center gap-3">
          <input
            type="checkbox"
            class="checkbox checkbox-primary"
            checked={tied.free ?? false}
            onchange={(e) => {
              const free = e.currentTarget.checked;
              change(tied.id, (one) => {
                if (free) one.free = true;
                else delete one.free;
              });
            }}
          />
          <span class="font-semibold">Cut free before either goes</span>
        </label>
      </div>
    {/each}
    <button class="btn touch w-full btn-outline" onclick={add}
      ><Icon of={Plus} size={18} /> It is tied to another tree</button
    >
  </section>
{/if}
