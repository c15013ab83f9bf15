<script lang="ts">
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
</script>

<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Lowering device</legend>
  <label class="flex touch cursor-pointer items-center gap-3">
    <input
      type="checkbox"
      class="checkbox checkbox-primary"
      checked={rig.device.none ?? false}
      onchange={(e) => {
        const none = e.currentTarget.checked;
        edits.change((one) => {
          if (none) one.device.none = true;
          else delete one.device.none;
        });
      }}
    />
    <span class="font-semibold">None: hands hold the line as it comes from aloft</span>
  </label>
  <ItemPicker
    {session}
    label="Device"
    kinds={["device"]}
    value={rig.device.item}
    onchoose={edits.take("device")}
  />
  {#if !rig.device.item}
    <Name {session} path={`${at}.device.name`} label="Name" value={rig.device.name} />
  {/if}
  <PlaceField
    {session}
    path={`${at}.device.place`}
    label="Sits"
    value={rig.device.place}
    none="on this stem"
  />
  <div class="grid grid-cols-2 gap-2">
    <Measure
      {session}
      path={`${at}.device.at_m`}
      label="Height on stem"
      quantity="height"
      value={rig.device.at_m ?? standard.device_at_m}
    />
    {#if !rig.device.item}
      <Measure
        {session}
        path={`${at}.device.friction`}
        label="Friction"
        quantity="number"
        value={rig.device.friction ?? standard.friction}
      />
      <Measure
        {session}
        path={`${at}.device.marked_kn`}
        label="Marked limit"
        quantity="force"
        value={rig.device.marked_kn}
        hint="none"
      />
      <Measure
        {session}
        path={`${at}.device.breaking_kn`}
        label="Breaking strength"
        quantity="force"
        value={rig.device.breaking_kn}
        hint="none"
      />
    {/if}
  </div>
</fieldset>

<Choice
  label="Behind the device"
  value={rig.hands.by ?? "hand"}
  options={[
    ["hand", "a hand"],
    ["winch", "a winch"],
  ]}
  onchoose={edits.choose("hands.by")}
/>
{#if rig.hands.by === "winch"}
  <ItemPicker
    {session}
    label="Winch"
    kinds={["winch"]}
    value={rig.hands.item}
    onchoose={edits.take("hands")}
  />
  {#if !rig.hands.item}
    <Measure
      {session}
      path={`${at}.hands.marked_kn`}
      label="Winch holds"
      quantity="force"
      value={rig.hands.marked_kn}
      hint="not said"
    />
  {/if}
{/if}
