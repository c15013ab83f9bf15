<script lang="ts">
  import { known } from "../../reference.svelte";
  import { RigEdits, type PartProps } from "./parts";
  import TurnList from "./TurnList.svelte";

  let { session, rig, at }: PartProps = $props();

  const edits = new RigEdits(() => ({ session, rig, at }));
  // The defaults a rig stands at are those of a rig nobody has filled in.
  const standard = known.get().rig_defaults;

  function fresh(number: number) {
    const top = session.treeFigures?.stem.at(-1)?.at_m ?? 4;
    return {
      name: `Redirect ${number}`,
      place: { on: "stem" as const, at_m: Math.round(top * 3) / 10 },
      efficiency: standard.block_efficiency,
    };
  }
</script>

<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Turns between block and device</legend>
  <TurnList
    {session}
    redirects={rig.redirects}
    {at}
    change={(mutate) => edits.change((one) => mutate(one.redirects))}
    {fresh}
  />
</fieldset>
