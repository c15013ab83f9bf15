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
  <legend class="text-sm font-bold">Block</legend>
  <ItemPicker
    {session}
    label="Block"
    kinds={["block", "pulley", "device"]}
    value={rig.block.item}
    onchoose={edits.take("block")}
  />
  {#if !rig.block.item}
    <Name {session} path={`${at}.block.name`} label="Name" value={rig.block.name} />
  {/if}
  <PlaceField
    {session}
    path={`${at}.block.place`}
    label="Sits"
    value={rig.block.place}
    none="with the cuts, down the stem"
  />
  <div class="grid grid-cols-2 gap-2">
    <Measure
      {session}
      path={`${at}.block.below_cut_m`}
      label="Below the cut"
      quantity="height"
      value={rig.block.below_cut_m ?? standard.block_below_cut_m}
    />
    {#if !rig.block.item}
      <Choice
        label="It turns the rope by"
        value={rig.block.friction === undefined ? "pulley" : "friction"}
        options={[
          ["pulley", "a pulley"],
          ["friction", "a fork, a ring, a hitch"],
        ]}
        onchoose={(kind) =>
          edits.change((one) => {
            if (kind === "friction") {
              one.block.friction = standard.friction;
              delete one.block.efficiency;
            } else {
              delete one.block.friction;
              delete one.block.turns;
            }
          })}
      />
    {/if}
    {#if rig.block.friction !== undefined || rig.block.item}
      {#if !rig.block.item}
        <Measure
          {session}
          path={`${at}.block.friction`}
          label="Friction aloft"
          quantity="number"
          value={rig.block.friction}
          required
        />
      {/if}
      <Measure
        {session}
        path={`${at}.block.turns`}
        label="Turns round it"
        quantity="number"
        value={rig.block.turns}
        hint="none"
        step={0.5}
      />
    {:else if !rig.block.item}
      <Measure
        {session}
        path={`${at}.block.efficiency`}
        label="Efficiency"
        quantity="number"
        value={rig.block.efficiency ?? standard.block_efficiency}
      />
    {/if}
    {#if !rig.block.item}
      <Measure
        {session}
        path={`${at}.block.marked_kn`}
        label="Marked limit"
        quantity="force"
        value={rig.block.marked_kn}
        hint="none"
      />
      <Measure
        {session}
        path={`${at}.block.breaking_kn`}
        label="Breaking strength"
        quantity="force"
        value={rig.block.breaking_kn}
        hint="none"
      />
      <Measure
        {session}
        path={`${at}.block.bend_m`}
        label="Sheave across"
        quantity="gauge"
        value={rig.block.bend_m}
        hint="not said"
      />
    {/if}
  </div>
</fieldset>

<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Sling of the block</legend>
  <ItemPicker
    {session}
    label="Sling"
    kinds={["sling"]}
    value={rig.sling.item}
    onchoose={edits.take("sling")}
  />
  {#if !rig.sling.item}
    <Name {session} path={`${at}.sling.name`} label="Name" value={rig.sling.name} />
  {/if}
  <div class="grid grid-cols-2 gap-2">
    <Choice
      label="Hitch"
      value={rig.sling.hitch ?? "choker"}
      options={[
        ["choker", "choker"],
        ["basket", "basket"],
        ["vertical", "straight"],
      ]}
      onchoose={edits.choose("sling.hitch")}
    />
    {#if rig.sling.hitch === "basket"}
      <Measure
        {session}
        path={`${at}.sling.basket_deg`}
        label="Between its legs"
        quantity="number"
        value={rig.sling.basket_deg}
        hint="120°"
      />
    {/if}
    {#if !rig.sling.item}
      <Measure
        {session}
        path={`${at}.sling.marked_kn`}
        label="Marked limit"
        quantity="force"
        value={rig.sling.marked_kn}
        hint="none"
      />
    {/if}
  </div>
  {#if rig.connector}
    <ItemPicker
      {session}
      label="Connector between block and sling"
      kinds={["connector"]}
      value={rig.connector.item}
      onchoose={edits.take("connector")}
    />
    {#if !rig.connector.item}
      <div class="grid grid-cols-2 gap-2">
        <Name {session} path={`${at}.connector.name`} label="Name" value={rig.connector.name} />
        <Measure
          {session}
          path={`${at}.connector.marked_kn`}
          label="Marked limit"
          quantity="force"
          value={rig.connector.marked_kn}
          hint="none"
        />
      </div>
    {/if}
    <button
      class="btn touch w-full btn-outline"
      onclick={() => edits.change((one) => delete one.connector)}>Take the connector out</button
    >
  {:else}
    <button
      class="btn touch w-full btn-outline"
      onclick={() => edits.change((one) => (one.connector = {}))}
      >Add a connector to the block</button
    >
  {/if}
</fieldset>
