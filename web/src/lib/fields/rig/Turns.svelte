<script lang="ts">
  import Trash from "@lucide/svelte/icons/trash-2";
  import ItemPicker from "../../locker/ItemPicker.svelte";
  import Choice from "../Choice.svelte";
  import Measure from "../Measure.svelte";
  import Name from "../Name.svelte";
  import PlaceField from "../PlaceField.svelte";
  import { known } from "../../reference.svelte";
  import { RigEdits, type PartProps } from "./parts";

  let { session, rig, at }: PartProps = $props();

  const edits = new RigEdits(() => ({ session, rig, at }));
  // The defaults a rig stands at are those of a rig nobody has filled in.
  const standard = known.get().rig_defaults;

  function addTurn() {
    const top = session.treeFigures?.stem.at(-1)?.at_m ?? 4;
    edits.change((one) =>
      one.redirects.push({
        name: `Redirect ${one.redirects.length + 1}`,
        place: { on: "stem", at_m: Math.round(top * 3) / 10 },
        efficiency: standard.block_efficiency,
      }),
    );
  }

  function turnKind(i: number, kind: string) {
    edits.change((one) => {
      const turn = one.redirects[i];
      if (!turn) return;
      if (kind === "pulley") {
        delete turn.friction;
        turn.efficiency = standard.block_efficiency;
      } else {
        delete turn.efficiency;
        turn.friction = standard.friction;
      }
    });
  }
</script>

<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Turns between block and device</legend>
  {#each rig.redirects as turn, i (i)}
    <div class="space-y-2 border-t border-base-300 pt-2">
      <div class="grid grid-cols-[1fr_auto] items-end gap-2">
        <Name
          {session}
          path={`${at}.redirects[${i}].name`}
          label="Name"
          value={turn.name}
          required
        />
        <button
          class="btn touch btn-ghost px-2"
          aria-label={`Remove ${turn.name}`}
          onclick={() => edits.change((one) => one.redirects.splice(i, 1))}
          ><Trash size={18} /></button
        >
      </div>
      {#if turn.friction === undefined}
        <ItemPicker
          {session}
          label={`Gear of ${turn.name}`}
          kinds={["pulley", "block"]}
          value={turn.item}
          onchoose={edits.take(`redirects[${i}]`)}
        />
      {/if}
      <PlaceField {session} path={`${at}.redirects[${i}].place`} label="Sits" value={turn.place} />
      <div class="grid grid-cols-3 gap-2">
        <Choice
          label="Is a"
          value={turn.friction === undefined ? "pulley" : "fork"}
          options={[
            ["pulley", "pulley"],
            ["fork", "fork, ring"],
          ]}
          onchoose={(kind) => turnKind(i, kind)}
        />
        {#if turn.friction === undefined}
          <Measure
            {session}
            path={`${at}.redirects[${i}].efficiency`}
            label="Efficiency"
            quantity="number"
            value={turn.efficiency}
            required
          />
        {:else}
          <Measure
            {session}
            path={`${at}.redirects[${i}].friction`}
            label="Friction"
            quantity="number"
            value={turn.friction}
            required
          />
        {/if}
        <Measure
          {session}
          path={`${at}.redirects[${i}].marked_kn`}
          label="Marked"
          quantity="force"
          value={turn.marked_kn}
          hint="none"
        />
      </div>
    </div>
  {/each}
  <button class="btn touch w-full btn-outline" onclick={addTurn}>Add a turn</button>
</fieldset>
