<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import Measure from "../fields/Measure.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Offered from "./Offered.svelte";

  let { session }: { session: Session } = $props();

  let readings = $derived(session.tree.readings);
  let shells = $derived(session.treeFigures?.shells ?? []);

  // The next reading stands where the last one was, a good way up.
  function add() {
    void session.change((job) => {
      const last = session.treeIn(job).readings.at(-1);
      const top = session.treeIn(job).height_m ?? 60;
      const at = last ? Math.min(last.at_m + 3, top - 0.1) : 0.5;
      session.treeIn(job).readings.push({
        at_m: last && session.treeIn(job).readings.length === 1 ? 1.3 : Math.round(at * 10) / 10,
        tape: last?.tape ?? "girth",
        tape_m: last ? Math.round(last.tape_m * 90) / 100 : 1.5,
        offered: true,
      });
    });
  }
</script>

<p class="mb-3 faint">From the ground up, tape round the stem. Three readings make a tree.</p>
<ol class="space-y-3">
  {#each readings as reading, i (i)}
    {@const shell = shells.find((s) => s.at_m === reading.at_m)}
    <li class="border-b border-base-300 pb-3">
      <div class="grid grid-cols-[1fr_1fr_1fr_auto] items-end gap-2">
        <Measure
          {session}
          path={`${session.treePath}.readings[${i}].at_m`}
          label="At"
          quantity="height"
          value={reading.at_m}
          required
        />
        <Measure
          {session}
          path={`${session.treePath}.readings[${i}].tape_m`}
          label={reading.tape === "girth" ? "Girth" : "Diameter"}
          quantity="diameter"
          value={reading.tape_m}
          noted={reading.noted}
          required
          put={(value, text, seen) =>
            session.change(
              (job) => {
                const one = session.treeIn(job).readings[i];
                if (!one || value === undefined) return;
                one.tape_m = value;
                delete one.offered;
                if (text) one.noted = text;
                else delete one.noted;
              },
              undefined,
              seen,
            )}
        />
        <Measure
          {session}
          path={`${session.treePath}.readings[${i}].cavity_m`}
          label="Cavity"
          quantity="diameter"
          value={reading.cavity_m}
          hint="none"
        />
        <button
          class="btn touch btn-ghost px-2"
          aria-label={`Remove the reading at ${print("height", reading.at_m)}`}
          onclick={() => session.change((job) => void session.treeIn(job).readings.splice(i, 1))}
          ><Icon of={Trash} size={18} /></button
        >
      </div>
      {#if reading.offered}<Offered {session} {i} />{/if}
      {#if shell}
        <p
          class={[
            "mt-2 border-l-4 pl-2 text-sm",
            shell.caution ? "border-error font-semibold" : "border-base-300",
          ]}
        >
          {shell.words} <span class="font-normal faint">({shell.source})</span>
        </p>
      {/if}
    </li>
  {/each}
</ol>
<button class="btn mt-3 h-14 w-full btn-outline text-lg" onclick={add}>Add a reading</button>
