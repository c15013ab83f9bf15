<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Session } from "../session/session.svelte";
  import Choice from "./Choice.svelte";
  import Measure from "./Measure.svelte";
  import Name from "./Name.svelte";

  let { session }: { session: Session } = $props();

  let trees = $derived(session.job.trees);
  let many = $derived(trees.length > 1);

  /** Another tree stands six metres east of this one until it is put where it stands. */
  function add() {
    const foot = session.tree.at ?? { x: 0, y: 0 };
    let n = trees.length + 1;
    while (trees.some((t) => t.id === String(n))) n++;
    const id = String(n);
    const at = { x: foot.x + 6, y: foot.y };
    void session
      .change((job) => job.trees.push({ id, at, wood: {}, readings: [], limbs: [], defects: [] }))
      .then((faults) => {
        if (!faults.length) session.chooseTree(id);
      });
  }

  /** A tree that picks are of stays: they would be of nothing. */
  let used = $derived(session.job.picks.some((p) => session.treeOf(p) === session.treeIndex));
  function remove() {
    const id = session.tree.id;
    void session.change((job) => {
      job.trees = job.trees.filter((t) => t.id !== id);
    });
  }
</script>

{#if many}
  <div class="flex items-end gap-2">
    <div class="grow">
      <Choice
        label="Tree"
        value={session.tree.id}
        options={trees.map((t): [string, string] => [t.id, t.name || `tree ${t.id}`])}
        onchoose={(id) => session.chooseTree(id)}
      />
    </div>
    <button
      class="btn touch btn-ghost px-2"
      aria-label={`Remove ${session.tree.name || `tree ${session.tree.id}`}`}
      title={used ? "Picks are of this tree: take them out first" : "Remove this tree"}
      disabled={used || session.treeIndex === 0}
      onclick={remove}><Icon of={Trash} size={18} /></button
    >
  </div>
  <Name {session} path={`${session.treePath}.name`} label="Called" value={session.tree.name} />
  <div class="grid grid-cols-2 gap-2">
    <Measure
      {session}
      path={`${session.treePath}.at.x`}
      label="Foot, east"
      quantity="height"
      value={session.tree.at?.x ?? 0}
      put={(x, _text, seen) =>
        session.change(
          (job) => {
            const tree = session.treeIn(job);
            tree.at = { x: x ?? 0, y: tree.at?.y ?? 0 };
          },
          undefined,
          seen,
        )}
    />
    <Measure
      {session}
      path={`${session.treePath}.at.y`}
      label="Foot, north"
      quantity="height"
      value={session.tree.at?.y ?? 0}
      put={(y, _text, seen) =>
        session.change(
          (job) => {
            const tree = session.treeIn(job);
            tree.at = { x: tree.at?.x ?? 0, y: y ?? 0 };
          },
          undefined,
          seen,
        )}
    />
  </div>
{/if}
<button class="btn touch w-full btn-outline" onclick={add}>Add another tree</button>
