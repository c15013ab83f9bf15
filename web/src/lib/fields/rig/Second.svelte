<script lang="ts">
  import Choice from "../Choice.svelte";
  import ItemPicker from "../../locker/ItemPicker.svelte";
  import Measure from "../Measure.svelte";
  import Name from "../Name.svelte";
  import PlaceField from "../PlaceField.svelte";
  import { RigEdits, type PartProps } from "./parts";

  let { session, rig, at }: PartProps = $props();

  const edits = new RigEdits(() => ({ session, rig, at }));

  function setSecond(on: boolean) {
    edits.change((one, job) => {
      // The highest there is: what is carried hangs from it.
      const [anchor] = [...job.site.anchors].sort((a, b) => (b.height_m ?? 0) - (a.height_m ?? 0));
      if (on) {
        one.second = {
          place: anchor
            ? { on: "anchor", anchor: anchor.id, at_m: anchor.height_m ?? 0.5 }
            : { on: "stem", at_m: 2 },
        };
      } else delete one.second;
    });
  }
</script>

<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Second line, to carry a piece between two points</legend>
  {#if rig.second}
    <ItemPicker
      {session}
      label="Its block"
      kinds={["block", "pulley"]}
      value={rig.second.item}
      onchoose={edits.take("second")}
    />
    {#if !rig.second.item}
      <Name {session} path={`${at}.second.name`} label="Name" value={rig.second.name} />
    {/if}
    <Choice
      label="Its rope, device and hands"
      value={rig.second.rig ?? ""}
      options={[
        ["", "nobody has said"],
        ...session.job.rigs
          .filter((r) => r.id !== rig.id)
          .map((r): [string, string] => [r.id, r.name]),
      ]}
      onchoose={(id) =>
        edits.change((one) => {
          if (!one.second) return;
          if (id) one.second.rig = id;
          else delete one.second.rig;
        })}
    />
    <PlaceField {session} path={`${at}.second.place`} label="Sits" value={rig.second.place} />
    {#if !rig.second.item}
      <Measure
        {session}
        path={`${at}.second.marked_kn`}
        label="Marked limit"
        quantity="force"
        value={rig.second.marked_kn}
        hint="none"
      />
    {/if}
    <button class="btn touch w-full btn-outline" onclick={() => setSecond(false)}
      >Take the second line off</button
    >
  {:else}
    <button class="btn touch w-full btn-outline" onclick={() => setSecond(true)}
      >Add a second line</button
    >
  {/if}
</fieldset>
