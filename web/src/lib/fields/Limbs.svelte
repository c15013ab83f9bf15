<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Limb } from "../api/client";
  import { wind } from "../draw/view";
  import { freshId } from "../order/edits";
  import { print } from "../reference.svelte";
  import { assign } from "../session/path";
  import type { Session } from "../session/session.svelte";
  import Choice from "./Choice.svelte";
  import Rests from "../ladder/Rests.svelte";
  import Measure from "./Measure.svelte";
  import Name from "./Name.svelte";

  let { session }: { session: Session } = $props();

  let limbs = $derived(session.tree.limbs);
  let open = $state("");

  // A new limb leaves a little above the last, a good third of a turn on.
  function add() {
    const last = limbs.at(-1);
    const top = session.treeFigures?.stem.at(-1)?.at_m ?? 8;
    const id = freshId(session.job, "l");
    const limb: Limb = {
      id,
      name: `limb ${limbs.length + 1}`,
      at_m: last && !last.parent ? Math.min(top, last.at_m + 0.8) : Math.round(top * 4) / 10,
      azimuth_deg: ((last?.azimuth_deg ?? -137) + 137) % 360,
      angle_deg: last?.angle_deg ?? 60,
      diameter_m: last?.diameter_m ?? 0.12,
      length_m: last?.length_m ?? 4,
    };
    void session.change((job) => session.treeIn(job).limbs.push(limb));
    open = id;
  }

  function remove(id: string) {
    void session.change((job) => {
      const tree = session.treeIn(job);
      tree.limbs = tree.limbs.filter((l) => l.id !== id);
    });
  }

  function set(path: string) {
    return (value: string) => void session.change((job) => assign(job, path, value || undefined));
  }

  let places = $derived<[string, string][]>([
    ["", "the stem"],
    ...limbs.map((l): [string, string] => [l.id, l.name || `limb ${l.id}`]),
  ]);
</script>

<div class="space-y-3">
  {#if limbs.length === 0}
    <p class="text-sm faint">Walk round the tree: every limb from the bottom up, clockwise.</p>
  {/if}
  <ul>
    {#each limbs as limb (limb.id)}
      {@const shown = open === limb.id}
      {@const at = `${session.treePath}.limbs[#${limb.id}]`}
      <li class="border-b border-base-300">
        <button
          class="flex touch w-full cursor-pointer items-center gap-2 text-left"
          aria-expanded={shown}
          onclick={() => (open = shown ? "" : limb.id)}
        >
          <b class="min-w-0 grow truncate">{limb.name || `limb ${limb.id}`}</b>
          {#if limb.guess}<Rests basis="guess" />{/if}
          <span class="shrink-0 text-sm faint"
            >{print("height", limb.at_m)} · {wind(limb.azimuth_deg)} · {print(
              "diameter",
              limb.diameter_m,
            )}</span
          >
        </button>
        {#if shown}
          <div class="space-y-2 pb-3">
            <Name {session} path={`${at}.name`} label="Called" value={limb.name} />
            <div class="grid grid-cols-2 gap-2">
              <Choice
                label="Leaves"
                value={limb.parent ?? ""}
                options={places.filter(([id]) => id !== limb.id)}
                onchoose={set(`${at}.parent`)}
              />
              <Measure
                {session}
                path={`${at}.at_m`}
                label={limb.parent ? "Out along it" : "At height"}
                quantity="height"
                value={limb.at_m}
                required
              />
              <Measure
                {session}
                path={`${at}.azimuth_deg`}
                label="Grows towards"
                quantity="bearing"
                value={limb.azimuth_deg}
                required
              />
              <Measure
                {session}
                path={`${at}.angle_deg`}
                label="From upright, °"
                quantity="number"
                value={limb.angle_deg}
                required
              />
              <Measure
                {session}
                path={`${at}.diameter_m`}
                label="Diameter at base"
                quantity="diameter"
                value={limb.diameter_m}
                required
              />
              <Measure
                {session}
                path={`${at}.length_m`}
                label="Length"
                quantity="height"
                value={limb.length_m}
                required
              />
              <Measure
                {session}
                path={`${at}.droop_deg`}
                label="Droops, °"
                quantity="number"
                value={limb.droop_deg}
                hint="straight"
              />
              <Choice
                label="Brush"
                value={limb.brush ?? "full"}
                options={[
                  ["full", "with its brush"],
                  ["bare", "a bare pole"],
                ]}
                onchoose={set(`${at}.brush`)}
              />
              <Measure
                {session}
                path={`${at}.mass_kg`}
                label="Judged by eye"
                quantity="mass"
                value={limb.mass_kg}
                hint="by the table"
              />
              {#if limb.mass_kg}
                <div class="col-span-2">
                  <Name
                    {session}
                    path={`${at}.mass_why`}
                    label="Why lighter than the table: without it the table's heavy end counts"
                    value={limb.mass_why}
                    placeholder="hollow, dead, bare …"
                  />
                </div>
              {/if}
              {#if limb.guess}
                <button
                  class="btn col-span-2 touch btn-outline"
                  onclick={() =>
                    session.change((job) => {
                      const one = session.treeIn(job).limbs.find((l) => l.id === limb.id);
                      if (one) delete one.guess;
                    })}>Measured: no guess any more</button
                >
              {/if}
              <button class="btn mt-5 touch btn-outline" onclick={() => remove(limb.id)}
                ><Icon of={Trash} size={18} /> Remove</button
              >
            </div>
          </div>
        {/if}
      </li>
    {/each}
  </ul>
  <button class="btn touch w-full btn-outline" onclick={add}>Add a limb</button>
</div>
