<script lang="ts">
  // What another program knows of the site, laid beside what stands here; taken over part by part.
  import { SvelteSet } from "svelte/reactivity";
  import Icon from "../Icon.svelte";
  import Upload from "lucide-static/icons/upload.svg?raw";
  import {
    explain,
    type PlanPart,
    type PlanRead,
    type PlanTold,
    type Problem,
    type Spot,
  } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import { faultsOf, say } from "../fields/say";
  import { freshId } from "../order/edits";
  import type { Session } from "../session/session.svelte";
  import { outlineOf } from "../draw/view";
  import { inBase64, mostPlanBytes, readPlan, takeParts } from "./plan";

  let { session }: { session: Session } = $props();

  let file = $state.raw<{ name: string; data: string } | null>(null);
  let told = $state.raw<PlanTold>({});
  let read = $state.raw<PlanRead | null>(null);
  let trouble = $state<string[]>([]);
  let busy = $state(false);
  let done = $state("");
  const off = new SvelteSet<number>();

  let parts = $derived(read?.parts ?? []);
  let open = $derived(parts.filter((p) => p.does === "new" || p.does === "change"));
  let taken = $derived(open.filter((p) => !off.has(p.number)));
  let rest = $derived(parts.filter((p) => p.does === "same" || p.does === "left"));
  let unknown = $derived([
    ...new Set(parts.filter((p) => p.does === "unknown").map((p) => p.name)),
  ]);
  let points = $derived(parts.filter((p) => p.shape === "point").slice(0, 100));
  let tree = $derived(session.job.trees[0]);

  async function look() {
    if (!file) return;
    busy = true;
    trouble = [];
    done = "";
    try {
      const answer = await readPlan(session.job, file.name, file.data, told);
      if (answer.data) read = answer.data;
      else {
        trouble = faultsOf(answer.error).map(say);
        if (!trouble.length) trouble = [explain(answer.error as Problem)];
        read = null;
      }
    } catch {
      trouble = [explain(null)];
    } finally {
      busy = false;
    }
  }

  async function choose(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const chosen = input.files?.[0];
    input.value = "";
    if (!chosen) return;
    read = null;
    told = {};
    off.clear();
    if (chosen.size > mostPlanBytes) {
      trouble = [
        `${chosen.name} has ${(chosen.size / 1e6).toFixed(1)} MB; a plan has at most 6 MB.`,
      ];
      return;
    }
    file = { name: chosen.name, data: await inBase64(chosen) };
    await look();
  }

  function tell(more: PlanTold) {
    told = { ...told, ...more };
    void look();
  }

  async function take() {
    const these = taken;
    const faults = await session.change((job) => takeParts(job, these, read?.earth, freshId));
    trouble = faults.map(say);
    if (faults.length) return;
    done = `${these.length} taken over.`;
    read = null;
    file = null;
  }

  const toggle = (p: PlanPart) => (off.has(p.number) ? off.delete(p.number) : off.add(p.number));

  const cornersOf = (p: PlanPart): Spot[] =>
    p.zone?.outline ?? p.escape?.outline ?? (p.target ? outlineOf(p.target) : []);
  const spotOf = (p: PlanPart): Spot | undefined => p.anchor?.at ?? p.foot;
  const path = (spots: readonly Spot[], closed: boolean) =>
    spots.map((s, i) => `${i ? "L" : "M"}${s.x} ${-s.y}`).join("") + (closed ? "Z" : "");

  /** What stands here already, and how far all of it reaches. */
  let here = $derived([
    ...session.job.site.targets.map((t) => ({
      spots: outlineOf(t),
      closed: t.kind !== "fence" && t.kind !== "power-line",
    })),
    ...session.job.site.zones.map((z) => ({ spots: z.outline, closed: true })),
  ]);
  let frame = $derived.by(() => {
    const all = [
      ...here.flatMap((one) => one.spots),
      ...session.job.trees.map((one) => one.at ?? { x: 0, y: 0 }),
      ...open.flatMap((p) => [...cornersOf(p), ...(spotOf(p) ? [spotOf(p) as Spot] : [])]),
    ];
    const xs = all.map((s) => s.x);
    const ys = all.map((s) => -s.y);
    const [left, top] = [Math.min(...xs) - 3, Math.min(...ys) - 3];
    const [wide, high] = [Math.max(...xs) + 3 - left, Math.max(...ys) + 3 - top];
    return { box: `${left} ${top} ${wide} ${high}`, dot: Math.max(wide, high) / 70 };
  });

  const kinds: [string, string][] = [
    ["", "what is it?"],
    ["target building", "building"],
    ["target fence", "fence"],
    ["target power-line", "power line"],
    ["target tree", "a tree that stays"],
    ["target shrub", "shrub"],
    ["target road", "road"],
    ["target water", "water"],
    ["target other", "something else not to be hit"],
    ["drop zone", "drop zone"],
    ["anchor ground", "ground anchor"],
    ["anchor tree", "anchor tree"],
    ["tree", "a tree of this job"],
    ["way out", "way out"],
    ["leave", "leave it out"],
  ];
  const lasting = ["drop zone", "way out", "tree", "leave"];

  function is(name: string, chosen: string) {
    const [kind, ...more] = lasting.includes(chosen) ? [chosen] : chosen.split(" ");
    const rest = (told.as ?? []).filter((one) => one.name !== name);
    const as = { name, kind, ...(more[0] && { is: more[0] }) } as NonNullable<
      PlanTold["as"]
    >[number];
    tell({ as: [...rest, as] });
  }
  const units: [number, string][] = [
    [1, "metres"],
    [0.001, "millimetres"],
    [0.3048, "feet"],
    [0.0254, "inches"],
  ];
</script>

<div class="space-y-3">
  <p class="text-sm faint">
    GeoJSON, a DXF drawing, or a surveyor's list of points (CSV, XLSX). Nothing is changed until you
    take it over.
  </p>
  <label class="btn touch btn-outline focus-within:outline-3 focus-within:outline-primary">
    <Icon of={Upload} size={18} /> Choose a plan
    <input
      type="file"
      accept=".geojson,.json,.dxf,.csv,.txt,.xlsx"
      class="sr-only"
      onchange={choose}
    />
  </label>
  {#if trouble.length}
    <div role="alert" class="border-l-4 border-error py-1 pl-3 text-error">
      {#each trouble as line, at (at)}<p>{line}</p>{/each}
    </div>
  {/if}
  {#if busy}<p role="status">Reading {file?.name}</p>{/if}
  {#if done}<p role="status" class="font-semibold">{done}</p>{/if}

  {#if read}
    <section aria-label="What the plan would do" class="space-y-3">
      {#if read.asks === "unit"}
        <div class="border-l-4 border-warning py-1 pl-3">
          <p>The drawing does not say its unit. It is in</p>
          <div class="mt-1 flex flex-wrap gap-2">
            {#each units as [metres, name] (name)}
              <button class="btn touch btn-outline" onclick={() => tell({ unit_m: metres })}
                >{name}</button
              >
            {/each}
          </div>
        </div>
      {:else if read.asks === "order"}
        <div class="border-l-4 border-warning py-1 pl-3">
          <p>
            The list has no heads. {told.swap
              ? "East is read before north."
              : "North is read before east."}
          </p>
          <button class="btn mt-1 touch btn-outline" onclick={() => tell({ swap: !told.swap })}
            >Swap east and north</button
          >
        </div>
      {/if}
      {#each unknown as name (name)}
        <Choice
          label={`“${name}” is`}
          value=""
          options={kinds}
          onchoose={(chosen) => chosen && is(name, chosen)}
        />
      {/each}
      <p>{read.moved}</p>
      {#if tree && points.length && read.moved && !read.moved.startsWith("By its place")}
        <Choice
          label={`The foot of ${tree.name || "the tree"} is`}
          value={told.foot ? String(told.foot) : ""}
          options={[
            ["", "as it was laid"],
            ...points.map((p): [string, string] => [String(p.number), `${p.name} (${p.number})`]),
          ]}
          onchoose={(n) => tell({ foot: n ? Number(n) : undefined })}
        />
      {/if}
      {#if open.length}
        <svg
          viewBox={frame.box}
          class="max-h-72 w-full bg-base-200"
          role="img"
          aria-label="Plan: what stands here thin, what would come thick"
        >
          {#each here as one, i (i)}
            <path
              d={path(one.spots, one.closed)}
              class="fill-none stroke-base-content/50"
              stroke-width="1"
              vector-effect="non-scaling-stroke"
            />
          {/each}
          {#each session.job.trees as one (one.id)}
            <circle
              cx={one.at?.x ?? 0}
              cy={-(one.at?.y ?? 0)}
              r={frame.dot}
              class="fill-base-content"
            />
          {/each}
          {#each open as p (p.number)}
            {@const spot = spotOf(p)}
            {@const chosen = !off.has(p.number)}
            <g class={chosen ? "stroke-primary" : "stroke-base-content/30"}>
              {#if spot}
                <circle
                  cx={spot.x}
                  cy={-spot.y}
                  r={frame.dot}
                  class={chosen ? "fill-primary" : "fill-none"}
                />
              {:else}
                <path
                  d={path(cornersOf(p), p.shape !== "line")}
                  class="fill-none"
                  stroke-width="3"
                  vector-effect="non-scaling-stroke"
                />
              {/if}
            </g>
          {/each}
        </svg>
        <ul class="border-t border-base-300">
          {#each open as p (p.number)}
            <li class="border-b border-base-300">
              <label class="flex touch cursor-pointer items-start gap-3 py-2">
                <input
                  type="checkbox"
                  class="checkbox mt-1"
                  checked={!off.has(p.number)}
                  onchange={() => toggle(p)}
                />
                <span class="min-w-0">
                  <span class="block font-semibold">{p.name}</span>
                  <span class="block text-sm"
                    >{p.does === "new" ? "new" : "changes what is here"}: {p.target?.kind.replace(
                      "-",
                      " ",
                    ) ?? p.kind}{p.why ? `; ${p.why}` : ""}</span
                  >
                </span>
              </label>
            </li>
          {/each}
        </ul>
        <button
          class="btn touch btn-primary"
          disabled={!taken.length || read.asks === "unit"}
          onclick={take}>Take {taken.length} over</button
        >
      {:else if !unknown.length}
        <p class="font-semibold">Nothing of it is new here.</p>
      {/if}
      {#if rest.length || read.left.length || read.left_out}
        <details>
          <summary class="touch cursor-pointer content-center faint"
            >{rest.filter((p) => p.does === "same").length} the same, {rest.filter(
              (p) => p.does === "left",
            ).length} left out</summary
          >
          <ul class="text-sm">
            {#each rest as p (p.number)}
              <li>{p.name}: {p.does === "same" ? "the same" : p.why}</li>
            {/each}
            {#each read.left as line (line)}<li>not read: {line}</li>{/each}
            {#if read.left_out}<li>{read.left_out} more are not listed</li>{/if}
          </ul>
        </details>
      {/if}
    </section>
  {/if}
</div>
