<script lang="ts">
  // Turns of a line in its order: pulleys, forks, rings.
  import Icon from "../../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { ItemRow, Rig } from "../../api/client";
  import ItemPicker from "../../locker/ItemPicker.svelte";
  import { known } from "../../reference.svelte";
  import { assign } from "../../session/path";
  import type { Session } from "../../session/session.svelte";
  import Choice from "../Choice.svelte";
  import Measure from "../Measure.svelte";
  import Name from "../Name.svelte";
  import PlaceField from "../PlaceField.svelte";

  type Redirect = Rig["redirects"][number];

  interface Props {
    session: Session;
    redirects: Redirect[];
    /** Where what they belong to stands in the document. */
    at: string;
    change: (mutate: (list: Redirect[]) => void) => void;
    /** A turn to begin with. */
    fresh: (number: number) => Redirect;
  }

  let { session, redirects, at, change, fresh }: Props = $props();

  const standard = known.get().rig_defaults;

  function turnKind(i: number, kind: string) {
    change((list) => {
      const turn = list[i];
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
  const take = (i: number) => (item: ItemRow | null) =>
    void session.take((job) => assign(job, `${at}.redirects[${i}].item`, item?.id));
</script>

{#each redirects as turn, i (i)}
  <div class="space-y-2 border-t border-base-300 pt-2">
    <div class="grid grid-cols-[1fr_auto] items-end gap-2">
      <Name {session} path={`${at}.redirects[${i}].name`} label="Name" value={turn.name} required />
      <button
        class="btn touch btn-ghost px-2"
        aria-label={`Remove ${turn.name}`}
        onclick={() => change((list) => void list.splice(i, 1))}
        ><Icon of={Trash} size={18} /></button
      >
    </div>
    {#if turn.friction === undefined}
      <ItemPicker
        {session}
        label={`Gear of ${turn.name}`}
        kinds={["pulley", "block"]}
        value={turn.item}
        onchoose={take(i)}
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
<button
  class="btn touch w-full btn-outline"
  onclick={() => change((list) => void list.push(fresh(list.length + 1)))}>Add a turn</button
>
