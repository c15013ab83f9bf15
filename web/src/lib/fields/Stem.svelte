<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Job, Reading } from "../api/client";
  import { known } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Measure from "./Measure.svelte";
  import Name from "./Name.svelte";
  import Offered from "../survey/Offered.svelte";
  import Offsets from "./Offsets.svelte";
  import TreeChoice from "./TreeChoice.svelte";

  let { session }: { session: Session } = $props();

  let tree = $derived(session.tree);
  const species = known.get().species.toSorted((a, b) => (a.common_name < b.common_name ? -1 : 1));

  function choose(id: string) {
    void session.change((job) => {
      session.treeIn(job).wood = id ? { species: id } : {};
    });
  }

  function setTape(i: number, value: number | undefined, text: string, seen: Job) {
    const change = (job: Job) => {
      const reading = session.treeIn(job).readings[i];
      if (!reading || value === undefined) return;
      reading.tape_m = value;
      delete reading.offered;
      if (text) reading.noted = text;
      else delete reading.noted;
    };
    return session.change(change, undefined, seen);
  }

  function setWay(i: number, way: Reading["tape"]) {
    void session.change((job) => {
      const reading = session.treeIn(job).readings[i];
      if (reading) reading.tape = way;
    });
  }

  // A new reading starts a little above the highest, with what the tape read there.
  function add() {
    void session.change((job) => {
      const last = session.treeIn(job).readings.at(-1);
      session.treeIn(job).readings.push({
        at_m: last ? last.at_m + 2 : 1.3,
        tape: last?.tape ?? "girth",
        tape_m: last?.tape_m ?? 1,
        offered: true,
      });
    });
  }

  // A new lump hangs at the middle of the piece, where it counts.
  function attach() {
    const at = session.detail?.piece?.cog.z ?? tree.readings.at(-1)?.at_m ?? 2;
    void session.change((job) => {
      session.treeIn(job).attached = [
        ...(session.treeIn(job).attached ?? []),
        { mass_kg: 10, at_m: Math.round(at * 10) / 10 },
      ];
    });
  }

  function detach(i: number) {
    void session.change((job) => {
      session.treeIn(job).attached?.splice(i, 1);
      if (session.treeIn(job).attached?.length === 0) delete session.treeIn(job).attached;
    });
  }

  function note(text: string) {
    void session.change((job) => {
      if (text.trim()) job.note = text;
      else delete job.note;
    });
  }

  function remove(i: number) {
    void session.change((job) => {
      session.treeIn(job).readings.splice(i, 1);
    });
  }
</script>

<div class="space-y-4">
  <label class="block">
    <span class="mb-0.5 block text-sm font-medium">Species</span>
    <select
      class="select touch w-full text-base font-medium"
      value={tree.wood.species ?? ""}
      onchange={(e) => choose(e.currentTarget.value)}
    >
      <option value="">{tree.wood.density_kg_m3 ? "density given" : "choose"}</option>
      {#each species as s (s.id)}<option value={s.id}>{s.common_name}</option>{/each}
    </select>
  </label>
  {#if session.detail?.piece}
    <p class="-mt-2 text-xs faint">{session.detail.piece.density_source}</p>
  {/if}

  <fieldset>
    <legend class="mb-1 text-sm font-medium">Tape readings, from the ground up</legend>
    {#if tree.readings.length === 0}
      <p class="mb-2 text-sm faint">
        Take the tape round the stem at three heights you can reach or climb to.
      </p>
    {/if}
    {#if tree.readings.length > 0}
      <div class="columns text-sm" aria-hidden="true">
        <span>Height</span><span>Tape</span><span></span><span>Cavity</span><span></span>
      </div>
    {/if}
    <ul class="space-y-1">
      {#each tree.readings as reading, i (i)}
        <li class="columns items-start">
          <Measure
            {session}
            path={`${session.treePath}.readings[${i}].at_m`}
            label={`Height of reading ${i + 1}`}
            quantity="height"
            value={reading.at_m}
            required
            bare
          />
          <Measure
            {session}
            path={`${session.treePath}.readings[${i}].tape_m`}
            label={`${reading.tape === "girth" ? "Girth" : "Diameter"} of reading ${i + 1}`}
            quantity="diameter"
            value={reading.tape_m}
            noted={reading.noted}
            required
            bare
            put={(value, text, seen) => setTape(i, value, text, seen)}
          />
          <button
            type="button"
            class="btn touch btn-ghost px-0"
            aria-label={`Reading ${i + 1} is a ${reading.tape}: change`}
            title={reading.tape === "girth" ? "girth: the tape went round" : "diameter"}
            onclick={() => setWay(i, reading.tape === "girth" ? "diameter" : "girth")}
          >
            <svg
              viewBox="0 0 24 24"
              width="24"
              height="24"
              fill="none"
              stroke="currentColor"
              stroke-width="2"
            >
              {#if reading.tape === "girth"}
                <circle cx="12" cy="12" r="8" stroke-width="3" />
              {:else}
                <circle cx="12" cy="12" r="8" stroke-width="1" stroke-dasharray="2 2" />
                <path d="M4 12h16M7 9l-3 3 3 3m10-6 3 3-3 3" />
              {/if}
            </svg>
          </button>
          <Measure
            {session}
            path={`${session.treePath}.readings[${i}].cavity_m`}
            label={`Cavity across at reading ${i + 1}`}
            quantity="diameter"
            value={reading.cavity_m || undefined}
            hint="none"
            bare
          />
          <button
            type="button"
            class="btn touch btn-ghost px-0"
            aria-label={`Remove reading ${i + 1}`}
            onclick={() => remove(i)}><Icon of={Trash} size={18} /></button
          >
        </li>
        {#if reading.offered}<li><Offered {session} {i} /></li>{/if}
      {/each}
    </ul>
    <button type="button" class="btn mt-3 touch w-full btn-outline" onclick={add}
      >Add a reading</button
    >
  </fieldset>

  <div class="grid grid-cols-2 gap-2">
    <Measure
      {session}
      path={`${session.treePath}.height_m`}
      label="Height of the top"
      quantity="height"
      value={tree.height_m}
      hint="highest reading"
    />
    <Measure
      {session}
      path={`${session.treePath}.top_diameter_m`}
      label="Diameter there"
      quantity="diameter"
      value={tree.top_diameter_m ?? session.treeFigures?.stem.at(-1)?.diameter_m}
    />
  </div>

  <div class="grid grid-cols-2 gap-2">
    <Measure
      {session}
      path={`${session.treePath}.lean_deg`}
      label="Leans, °"
      quantity="number"
      value={tree.lean_deg}
      hint="upright"
    />
    <Measure
      {session}
      path={`${session.treePath}.lean_towards_deg`}
      label="Towards"
      quantity="bearing"
      value={tree.lean_towards_deg}
      hint="north"
    />
  </div>
  <Offsets {session} />
  <Measure
    {session}
    path={`${session.treePath}.bark_m`}
    label="Thickness of the bark"
    quantity="diameter"
    value={tree.bark_m}
    hint="by species; taken off where the stem bears"
  />
  <label class="flex touch cursor-pointer items-center gap-3">
    <input
      type="checkbox"
      class="checkbox checkbox-primary"
      checked={tree.in_leaf ?? true}
      onchange={(e) => {
        const leaf = e.currentTarget.checked;
        void session.change((job) => {
          if (leaf) delete session.treeIn(job).in_leaf;
          else session.treeIn(job).in_leaf = false;
        });
      }}
    />
    <span class="font-medium">In leaf</span>
  </label>

  <fieldset>
    <legend class="mb-1 text-sm font-medium">Hanging on the stem: brush, ivy, hardware</legend>
    <ul class="space-y-2">
      {#each tree.attached ?? [] as lump, i (i)}
        <li class="lump items-end">
          <Name
            {session}
            path={`${session.treePath}.attached[${i}].label`}
            label=""
            reads={`What hangs on the stem, ${i + 1}`}
            value={lump.label}
          />
          <Measure
            {session}
            path={`${session.treePath}.attached[${i}].mass_kg`}
            label={`Mass of ${lump.label || `item ${i + 1}`}`}
            quantity="mass"
            value={lump.mass_kg}
            required
            bare
          />
          <Measure
            {session}
            path={`${session.treePath}.attached[${i}].at_m`}
            label={`Height of ${lump.label || `item ${i + 1}`}`}
            quantity="height"
            value={lump.at_m}
            required
            bare
          />
          <button
            type="button"
            class="btn touch btn-ghost px-0"
            aria-label={`Remove ${lump.label || `item ${i + 1}`}`}
            onclick={() => detach(i)}><Icon of={Trash} size={18} /></button
          >
        </li>
      {/each}
    </ul>
    <button type="button" class="btn mt-2 touch w-full btn-outline" onclick={attach}
      >Add something that hangs on it</button
    >
  </fieldset>

  <TreeChoice {session} />

  <label class="block">
    <span class="mb-0.5 block text-sm font-medium">Note</span>
    <textarea
      class="textarea min-h-24 w-full px-2 text-base"
      maxlength="4000"
      value={session.job.note ?? ""}
      onchange={(e) => note(e.currentTarget.value)}></textarea>
  </label>
</div>

<style>
  .columns {
    display: grid;
    grid-template-columns: 3.9rem minmax(0, 1fr) 44px 3.9rem 44px;
    gap: 0 0.25rem;
  }

  .lump {
    display: grid;
    grid-template-columns: minmax(0, 1fr) 4.5rem 4.5rem 44px;
    gap: 0 0.25rem;
  }
</style>
