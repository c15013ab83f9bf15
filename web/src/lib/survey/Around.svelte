<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Fault, Job, Spot } from "../api/client";
  import { core } from "../core/core.svelte";
  import Choice from "../fields/Choice.svelte";
  import Figure from "../fields/Figure.svelte";
  import { allRead } from "../fields/reading";
  import { say } from "../fields/say";
  import { freshId } from "../order/edits";
  import { preferences } from "../preferences.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Compass from "./Compass.svelte";

  let { session }: { session: Session } = $props();

  type What = "target" | "anchor" | "post" | "zone" | "escape" | "sector";
  const whats: [What, string][] = [
    ["target", "Not to be hit"],
    ["anchor", "Anchor"],
    ["post", "Who stands"],
    ["zone", "Drop zone"],
    ["escape", "Way out"],
    ["sector", "No-go sector"],
  ];
  const targetKinds: [string, string][] = [
    ["building", "building"],
    ["fence", "fence"],
    ["power-line", "power line"],
    ["tree", "tree to keep"],
    ["shrub", "shrub"],
    ["road", "road"],
    ["water", "water"],
    ["ground", "ground"],
    ["other", "something else"],
  ];
  /** How wide a thing is taken to be that was sighted once, m. */
  const half = 1;

  let what = $state<What>("target");
  let kind = $state("building");
  let anchor = $state<"ground" | "tree" | "vehicle">("ground");
  let name = $state("");
  let who = $state("");
  let bearing = $state<number>();
  let distance = $state<number>();
  let top = $state<number>();
  let until = $state<number>();
  let corners = $state.raw<Spot[]>([]);
  let refusal = $state("");
  let walked = $derived(what === "zone" || what === "escape");
  let needed = $derived(what === "zone" ? 3 : 2);
  let site = $derived(session.job.site);

  async function sighted(): Promise<Spot | null> {
    if (!(await allRead())) return null;
    const foot = session.tree.at ?? { x: 0, y: 0 };
    try {
      const { data, faults } = await core.sight({
        of: "place",
        units: preferences.units,
        bearing_deg: bearing,
        distance_m: distance,
        from_x: foot.x,
        from_y: foot.y,
      });
      refusal = (faults ?? []).map(say).join(" ");
      const cm = (v: number) => Math.round(v * 100) / 100;
      return data ? { x: cm(data.x), y: cm(data.y) } : null;
    } catch {
      refusal = "No answer: what you typed is kept here.";
      return null;
    }
  }

  async function corner() {
    const at = await sighted();
    if (!at) return;
    corners = [...corners, at];
    bearing = undefined;
    distance = undefined;
  }

  async function put() {
    refusal = "";
    if (!(await allRead())) return;
    const person = who.trim();
    const called = name.trim() || whats.find(([id]) => id === what)?.[1].toLowerCase() || what;
    let make: ((job: Job, id: string) => void) | null = null;
    if (what === "sector") {
      if (bearing === undefined || until === undefined) {
        refusal = "A sector needs the two bearings that it lies between.";
        return;
      }
      const [from, to] = [bearing, until];
      make = (job, id) => job.site.sectors.push({ id, name: called, from_deg: from, to_deg: to });
    } else if (walked) {
      if (corners.length < needed) {
        refusal = `${corners.length} corners so far: ${what === "zone" ? "a zone" : "a way out"} needs at least ${needed}.`;
        return;
      }
      const outline = corners;
      make = (job, id) => {
        if (what === "zone") job.site.zones.push({ id, name: called, outline });
        else job.site.escapes = [...(job.site.escapes ?? []), { id, name: called, outline }];
      };
    } else {
      const at = await sighted();
      if (!at) return;
      if (what === "anchor") {
        make = (job, id) => job.site.anchors.push({ id, name: called, kind: anchor, at });
      } else if (what === "post") {
        make = (job, id) =>
          (job.site.posts = [
            ...(job.site.posts ?? []),
            { id, role: called, ...(person ? { name: person } : {}), at },
          ]);
      } else {
        const kindOf = kind as Job["site"]["targets"][number]["kind"];
        const high = top ?? 3;
        make = (job, id) =>
          job.site.targets.push({
            id,
            name: called,
            kind: kindOf,
            box: {
              min: { x: at.x - half, y: at.y - half },
              max: { x: at.x + half, y: at.y + half },
            },
            to_m: high,
          });
      }
    }
    const id = freshId(session.job, what.charAt(0));
    const faults: Fault[] = await session.change((job) => make(job, id));
    refusal = faults.map(say).join(" ");
    if (!faults.length) {
      name = who = "";
      bearing = distance = until = undefined;
      corners = [];
    }
  }

  let placed = $derived([
    ...site.targets.map((t) => ({ id: t.id, list: "targets", name: t.name, is: t.kind })),
    ...site.anchors.map((a) => ({ id: a.id, list: "anchors", name: a.name, is: "anchor" })),
    ...site.zones.map((z) => ({ id: z.id, list: "zones", name: z.name, is: "drop zone" })),
    ...site.sectors.map((s) => ({ id: s.id, list: "sectors", name: s.name, is: "no-go sector" })),
    ...(site.posts ?? []).map((p) => ({
      id: p.id,
      list: "posts",
      name: p.role,
      is: "stands there",
    })),
    ...(site.escapes ?? []).map((e) => ({
      id: e.id,
      list: "escapes",
      name: e.name,
      is: "way out",
    })),
  ]);

  function remove(list: string, id: string) {
    void session.change((job) => {
      const held = job.site as unknown as Record<string, { id: string }[] | undefined>;
      held[list] = (held[list] ?? []).filter((one) => one.id !== id);
    });
  }
</script>

<div class="space-y-4">
  <div class="grid grid-cols-3 gap-2" role="group" aria-label="What is placed">
    {#each whats as [id, word] (id)}
      <button
        type="button"
        class={["btn h-12 px-1 text-sm", what === id ? "btn-primary" : "btn-outline"]}
        aria-pressed={what === id}
        onclick={() => {
          what = id;
          corners = [];
          refusal = "";
        }}>{word}</button
      >
    {/each}
  </div>
  <div class="grid grid-cols-2 gap-2">
    <label class="block">
      <span class="mb-0.5 block text-sm font-medium"
        >{what === "post" ? "Role, such as rope" : "Called"}</span
      >
      <input class="input touch w-full px-2 text-base" maxlength="60" bind:value={name} />
    </label>
    {#if what === "post"}
      <label class="block">
        <span class="mb-0.5 block text-sm font-medium">Name</span>
        <input class="input touch w-full px-2 text-base" maxlength="80" bind:value={who} />
      </label>
    {:else if what === "target"}
      <Choice label="Kind" value={kind} options={targetKinds} onchoose={(v) => (kind = v)} />
    {:else if what === "anchor"}
      <Choice
        label="Is"
        value={anchor}
        options={[
          ["ground", "in the ground"],
          ["tree", "another tree"],
          ["vehicle", "a vehicle"],
        ]}
        onchoose={(v) => (anchor = v as typeof anchor)}
      />
    {/if}
  </div>
  <Compass
    label={what === "sector" ? "Begins at, from the tree" : "Bearing, from the tree"}
    value={bearing}
    onchoose={(deg) => (bearing = deg)}
  />
  <div class="grid grid-cols-2 gap-2">
    <Figure
      label={what === "sector" ? "Begins at, °" : "Bearing, °"}
      quantity="number"
      value={bearing}
      hint="clockwise from north"
      onchange={(v) => (bearing = v)}
    />
    {#if what === "sector"}
      <Figure
        label="Clockwise to, °"
        quantity="number"
        value={until}
        onchange={(v) => (until = v)}
      />
    {:else}
      <Figure
        label="Distance"
        quantity="height"
        value={distance}
        hint="8 m"
        onchange={(v) => (distance = v)}
      />
    {/if}
    {#if what === "target"}
      <Figure
        label="Its top"
        quantity="height"
        value={top}
        hint="3 m"
        onchange={(v) => (top = v)}
      />
    {/if}
  </div>
  {#if walked}
    <button type="button" class="btn h-12 w-full btn-outline" onclick={corner}
      >Add this corner ({corners.length} so far)</button
    >
  {/if}
  {#if refusal}<p role="alert" class="text-error">{refusal}</p>{/if}
  <button type="button" class="btn h-14 w-full text-lg btn-primary" onclick={put}
    >Put it on the plan</button
  >
  {#if what === "target" && !refusal}
    <p class="text-xs faint">
      Drawn {print("height", 2 * half)} square; Setup, Site gives it its corners.
    </p>
  {/if}
  {#if placed.length}
    <ul aria-label="On the plan" class="border-t border-base-300">
      {#each placed as one (one.id)}
        <li class="flex items-center border-b border-base-300">
          <span class="min-w-0 grow truncate py-2"
            ><b>{one.name}</b> <span class="faint">{one.is.replace("-", " ")}</span></span
          >
          <button
            class="btn touch btn-ghost px-2"
            aria-label={`Remove ${one.name} from the plan`}
            onclick={() => remove(one.list, one.id)}><Icon of={Trash} size={18} /></button
          >
        </li>
      {/each}
    </ul>
  {/if}
</div>
