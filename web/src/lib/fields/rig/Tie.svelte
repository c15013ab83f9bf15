<script lang="ts">
  import ItemPicker from "../../locker/ItemPicker.svelte";
  import Choice from "../Choice.svelte";
  import Measure from "../Measure.svelte";
  import { known } from "../../reference.svelte";
  import { RigEdits, type PartProps } from "./parts";

  let { session, rig, at }: PartProps = $props();

  const edits = new RigEdits(() => ({ session, rig, at }));
  // The defaults a rig stands at are those of a rig nobody has filled in.
  const standard = known.get().rig_defaults;
</script>

<div class="grid grid-cols-2 gap-2">
  <Measure
    {session}
    path={`${at}.tie.above_cut_m`}
    label="Tie above cut"
    quantity="height"
    value={rig.tie.above_cut_m ?? standard.tie_m}
  />
  <Measure
    {session}
    path={`${at}.slack_m`}
    label="Slack"
    quantity="height"
    value={rig.slack_m ?? standard.slack_m}
  />
</div>

<ItemPicker
  {session}
  label="Sling on the piece, when there is one"
  kinds={["sling"]}
  value={rig.tie.item}
  onchoose={edits.take("tie")}
/>
<Choice
  label="Knot on the piece"
  value={rig.tie.knot ?? "running-bowline"}
  options={known.get().knots.map((knot): [string, string] => [knot, knot.replace("-", " ")])}
  onchoose={edits.choose("tie.knot")}
/>
