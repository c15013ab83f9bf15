<script lang="ts">
  import type { Job, Place } from "../api/client";
  import type { Session } from "../session/session.svelte";
  import { assign } from "../session/path";
  import Choice from "./Choice.svelte";
  import Measure from "./Measure.svelte";

  interface Props {
    session: Session;
    /** Where the place stands in the document. */
    path: string;
    label: string;
    value: Place | undefined;
    /** What it means when there is none; absent: there must be one. */
    none?: string;
    /** Makes the change in place of writing the value at path. */
    put?: (place: Place | undefined) => void;
  }

  let { session, path, label, value, none, put }: Props = $props();

  const others = $derived(session.job.trees.length > 1);
  let key = $derived(
    !value
      ? ""
      : value.on === "anchor"
        ? `anchor  ${value.anchor}`
        : `${value.on} ${value.tree ?? ""} ${value.limb ?? ""}`,
  );
  let options = $derived.by(() => {
    const job: Job = session.job;
    const list: [string, string][] = none ? [["", none]] : [];
    // Wood of the tree that the pick is of needs no name; of another, its own.
    list.push(["stem  ", others ? "on the pick’s own stem" : "on the stem"]);
    if (!others) {
      for (const limb of session.tree.limbs)
        list.push([`limb  ${limb.id}`, limb.name || `limb ${limb.id}`]);
    } else {
      for (const tree of job.trees) {
        const name = tree.name || `tree ${tree.id}`;
        list.push([`stem ${tree.id} `, `stem of ${name}`]);
        for (const limb of tree.limbs)
          list.push([`limb ${tree.id} ${limb.id}`, `${limb.name || `limb ${limb.id}`} of ${name}`]);
      }
    }
    for (const anchor of job.site.anchors) list.push([`anchor  ${anchor.id}`, anchor.name]);
    return list;
  });

  function choose(chosen: string) {
    const [on = "", tree = "", id = ""] = chosen.split(" ");
    const top = session.treeFigures?.stem.at(-1)?.at_m ?? 5;
    let place: Place | undefined;
    if (on === "stem") place = { on, at_m: Math.round(top * 8) / 10 };
    if (on === "limb") place = { on, limb: id, at_m: 0.5 };
    if (on === "anchor") {
      const anchor = session.job.site.anchors.find((a) => a.id === id);
      place = { on, anchor: id, at_m: anchor?.height_m ?? 0.5 };
    }
    if (place && tree) place.tree = tree;
    if (put) put(place);
    else void session.change((job) => assign(job, path, place));
  }
</script>

<div class="grid grid-cols-2 items-end gap-2">
  <Choice {label} value={key} {options} onchoose={choose} />
  {#if value}
    <Measure
      {session}
      path={`${path}.at_m`}
      label={value.on === "limb" ? "Out along it" : "Height"}
      quantity="height"
      value={value.at_m}
      required
    />
  {/if}
</div>
