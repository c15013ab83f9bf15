<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Job, Spot } from "../api/client";
  import Around from "../survey/Around.svelte";
  import Earth from "../survey/Earth.svelte";
  import PlanFile from "../survey/PlanFile.svelte";
  import ItemPicker from "../locker/ItemPicker.svelte";
  import { freshId } from "../order/edits";
  import { assign, byId, read } from "../session/path";
  import type { Session } from "../session/session.svelte";
  import Choice from "./Choice.svelte";
  import Conditions from "./Conditions.svelte";
  import Measure from "./Measure.svelte";
  import Name from "./Name.svelte";

  let { session }: { session: Session } = $props();

  let site = $derived(session.job.site);
  let open = $state("");

  type Lists = "targets" | "zones" | "sectors" | "anchors" | "cranes";
  const titles: Record<Lists, string> = {
    targets: "What must not be hit",
    zones: "Drop zones",
    sectors: "Sectors where nothing may go",
    anchors: "To hold to besides the tree",
    cranes: "Cranes",
  };

  const square = (x: number, y: number, half: number): Spot[] => [
    { x: x - half, y: y - half },
    { x: x + half, y: y - half },
    { x: x + half, y: y + half },
    { x: x - half, y: y + half },
  ];

  function add(list: Lists) {
    const foot = session.tree.at ?? { x: 0, y: 0 };
    const n = site[list].length + 1;
    const id = freshId(session.job, list.charAt(0));
    open = id;
    const make: Record<Lists, (job: Job) => void> = {
      targets: (job) =>
        job.site.targets.push({
          id,
          name: `target ${n}`,
          kind: "building",
          box: { min: { x: foot.x + 5, y: foot.y - 2 }, max: { x: foot.x + 9, y: foot.y + 2 } },
          to_m: 3,
        }),
      zones: (job) =>
        job.site.zones.push({
          id,
          name: `drop zone ${n}`,
          outline: square(foot.x, foot.y + 4, 5),
        }),
      sectors: (job) =>
        job.site.sectors.push({ id, name: `sector ${n}`, from_deg: 150, to_deg: 210 }),
      anchors: (job) =>
        job.site.anchors.push({
          id,
          name: `anchor ${n}`,
          kind: "ground",
          at: { x: foot.x + 6, y: foot.y },
        }),
      cranes: (job) =>
        job.site.cranes.push({
          id,
          name: `crane ${n}`,
          at: { x: foot.x + 8, y: foot.y - 8 },
          boom_m: 20,
          rigging_kg: 100,
          chart: [],
        }),
    };
    void session.change(make[list]);
  }

  function takeAway(job: Job, list: Lists, id: string) {
    const things: { id: string }[] = job.site[list];
    const i = things.findIndex((one) => one.id === id);
    if (i >= 0) things.splice(i, 1);
  }

  function set(path: string) {
    return (value: string) => void session.change((job) => assign(job, path, value));
  }
  const kinds = [
    "building",
    "fence",
    "power-line",
    "tree",
    "shrub",
    "road",
    "water",
    "ground",
    "other",
  ];
</script>

{#snippet corner(path: string, spot: Spot, name: string)}
  <div class="grid grid-cols-2 gap-2">
    <Measure
      {session}
      path={`${path}.x`}
      label={`${name}, east`}
      quantity="height"
      value={spot.x}
      required
    />
    <Measure
      {session}
      path={`${path}.y`}
      label={`${name}, north`}
      quantity="height"
      value={spot.y}
      required
    />
  </div>
{/snippet}

{#snippet outline(path: string, spots: Spot[], least: number)}
  {#each spots as spot, c (c)}
    <div class="grid grid-cols-[1fr_auto] items-end gap-1">
      {@render corner(`${path}[${c}]`, spot, `Corner ${c + 1}`)}
      <button
        class="btn touch btn-ghost px-2"
        aria-label={`Remove corner ${c + 1}`}
        disabled={spots.length <= least}
        onclick={() => session.change((job) => void (read(job, path) as Spot[]).splice(c, 1))}
        ><Icon of={Trash} size={16} /></button
      >
    </div>
  {/each}
  <button
    class="btn touch w-full btn-outline"
    onclick={() =>
      session.change((job) => {
        const own = (read(job, path) ?? []) as Spot[];
        const a = own.at(-1) ?? { x: 0, y: 0 };
        const b = own[0] ?? { x: 2, y: 2 };
        assign(job, path, [...own, { x: (a.x + b.x) / 2, y: (a.y + b.y) / 2 }]);
      })}>Add a corner</button
  >
{/snippet}

<div class="space-y-4">
  <details class="border-b border-base-300 pb-2">
    <summary class="touch cursor-pointer content-center text-lg font-bold"
      >Place by bearing and distance</summary
    >
    <div class="pt-2"><Around {session} /></div>
  </details>
  <details class="border-b border-base-300 pb-2">
    <summary class="touch cursor-pointer content-center text-lg font-bold"
      >Bring in a plan from a file</summary
    >
    <div class="pt-2"><PlanFile {session} /></div>
  </details>
  <p class="text-sm faint">
    East and north from one mark, the tree at {session.tree.at?.x ?? 0} east, {session.tree.at?.y ??
      0} north of it.
  </p>
  <Conditions {session} />
  <Earth {session} />
  {#each Object.keys(titles) as Lists[] as list (list)}
    <section>
      <h3 class="text-sm font-bold">{titles[list]}</h3>
      {#each site[list] as thing, i (thing.id)}
        {@const at = byId(`site.${list}`, thing.id)}
        {@const shown = open === thing.id}
        <div class="border-b border-base-300">
          <button
            class="touch w-full cursor-pointer truncate text-left font-semibold"
            aria-expanded={shown}
            onclick={() => (open = shown ? "" : thing.id)}>{thing.name}</button
          >
          {#if shown}
            <div class="space-y-2 pb-3">
              <Name {session} path={`${at}.name`} label="Called" value={thing.name} required />
              {#if list === "targets"}
                {@const target = site.targets[i]}
                {#if target}
                  <Choice
                    label="Kind"
                    value={target.kind}
                    options={kinds.map((k): [string, string] => [k, k.replace("-", " ")])}
                    onchoose={set(`${at}.kind`)}
                  />
                  <div class="grid grid-cols-2 gap-2">
                    <Measure
                      {session}
                      path={`${at}.from_m`}
                      label="Underside"
                      quantity="height"
                      value={target.from_m}
                      hint="the ground"
                    />
                    <Measure
                      {session}
                      path={`${at}.to_m`}
                      label="Top"
                      quantity="height"
                      value={target.to_m}
                      required
                    />
                  </div>
                  {#if target.box}
                    {@render corner(`${at}.box.min`, target.box.min, "One corner")}
                    {@render corner(`${at}.box.max`, target.box.max, "Far corner")}
                    <button
                      class="btn touch w-full btn-outline"
                      onclick={() =>
                        session.change((job) => {
                          const one = job.site.targets.find((t) => t.id === thing.id);
                          if (!one?.box) return;
                          const { min, max } = one.box;
                          one.outline = [min, { x: max.x, y: min.y }, max, { x: min.x, y: max.y }];
                          delete one.box;
                        })}>Give it more corners</button
                    >
                  {:else}
                    {@render outline(`${at}.outline`, target.outline ?? [], 2)}
                  {/if}
                {/if}
              {:else if list === "zones"}
                {@render outline(`${at}.outline`, site.zones[i]?.outline ?? [], 3)}
              {:else if list === "sectors"}
                <div class="grid grid-cols-2 gap-2">
                  <Measure
                    {session}
                    path={`${at}.from_deg`}
                    label="From"
                    quantity="bearing"
                    value={site.sectors[i]?.from_deg}
                    required
                  />
                  <Measure
                    {session}
                    path={`${at}.to_deg`}
                    label="Clockwise to"
                    quantity="bearing"
                    value={site.sectors[i]?.to_deg}
                    required
                  />
                </div>
              {:else if list === "anchors"}
                {@const anchor = site.anchors[i]}
                {#if anchor}
                  <Choice
                    label="Is"
                    value={anchor.kind}
                    options={[
                      ["ground", "in the ground"],
                      ["tree", "another tree"],
                      ["vehicle", "a vehicle"],
                    ]}
                    onchoose={set(`${at}.kind`)}
                  />
                  {@render corner(`${at}.at`, anchor.at, "Stands")}
                  <div class="grid grid-cols-2 gap-2">
                    <Measure
                      {session}
                      path={`${at}.height_m`}
                      label="Held at"
                      quantity="height"
                      value={anchor.height_m}
                      hint="low down"
                    />
                    <Measure
                      {session}
                      path={`${at}.mass_kg`}
                      label="Weighs"
                      quantity="mass"
                      value={anchor.mass_kg}
                      hint="not said"
                    />
                  </div>
                {/if}
              {:else}
                {@const crane = site.cranes[i]}
                {#if crane}
                  <ItemPicker
                    {session}
                    label="Crane, from the locker"
                    kinds={["crane"]}
                    value={crane.item}
                    onchoose={(item) =>
                      void session.take((job) => assign(job, `${at}.item`, item?.id))}
                  />
                  {@render corner(`${at}.at`, crane.at, "Stands")}
                  <div class="grid grid-cols-2 gap-2">
                    <Measure
                      {session}
                      path={`${at}.boom_m`}
                      label="Boom"
                      quantity="height"
                      value={crane.boom_m}
                      required
                    />
                    <Measure
                      {session}
                      path={`${at}.rigging_kg`}
                      label="On the hook"
                      quantity="mass"
                      value={crane.rigging_kg}
                      required
                    />
                  </div>
                  {#if !crane.item}
                    {#each crane.chart as row, c (c)}
                      <div class="grid grid-cols-3 gap-2">
                        <Measure
                          {session}
                          path={`${at}.chart[${c}].radius_m`}
                          label="Radius"
                          quantity="height"
                          value={row.radius_m}
                          required
                        />
                        <Measure
                          {session}
                          path={`${at}.chart[${c}].boom_m`}
                          label="Boom"
                          quantity="height"
                          value={row.boom_m}
                          required
                        />
                        <Measure
                          {session}
                          path={`${at}.chart[${c}].capacity_kg`}
                          label="Lifts"
                          quantity="mass"
                          value={row.capacity_kg}
                          required
                        />
                      </div>
                    {/each}
                    <button
                      class="btn touch w-full btn-outline"
                      onclick={() =>
                        session.change((job) => {
                          const chart = job.site.cranes.find((c) => c.id === thing.id)?.chart;
                          const last = chart?.at(-1);
                          if (chart && last) chart.push({ ...last, radius_m: last.radius_m + 2 });
                        })}>Add a row of the chart</button
                    >
                  {/if}
                {/if}
              {/if}
              <button
                class="btn touch w-full btn-outline"
                onclick={() => session.change((job) => takeAway(job, list, thing.id))}
                ><Icon of={Trash} size={18} /> Remove {thing.name}</button
              >
            </div>
          {/if}
        </div>
      {/each}
      <button class="btn mt-1 touch w-full btn-outline" onclick={() => add(list)}
        >Add to {titles[list].toLowerCase()}</button
      >
    </section>
  {/each}
</div>
