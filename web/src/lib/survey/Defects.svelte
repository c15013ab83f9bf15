<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Tree } from "../api/client";
  import Measure from "../fields/Measure.svelte";
  import Name from "../fields/Name.svelte";
  import Choice from "../fields/Choice.svelte";
  import { freshId } from "../order/edits";
  import { assign } from "../session/path";
  import type { Session } from "../session/session.svelte";
  import Compass from "./Compass.svelte";
  import Tied from "./Tied.svelte";

  let { session }: { session: Session } = $props();

  type Kind = Tree["defects"][number]["kind"];
  const kinds: [Kind, string][] = [
    ["decay", "Decay"],
    ["crack", "Crack"],
    ["union", "Union, bark between"],
    ["ivy", "Ivy"],
    ["hung-branch", "Hung branch"],
    ["dead", "Dead wood"],
  ];
  let defects = $derived(session.tree.defects);
  let meanings = $derived(session.treeFigures?.defects ?? []);
  let shells = $derived(session.treeFigures?.shells ?? []);
  let places = $derived<[string, string][]>([
    ["", "the stem"],
    ...session.tree.limbs.map((l): [string, string] => [l.id, l.name || `limb ${l.id}`]),
  ]);

  function add(kind: Kind) {
    const id = freshId(session.job, "d");
    const at = session.tree.readings[0]?.at_m ?? 1;
    void session.change((job) => session.treeIn(job).defects.push({ id, kind, at_m: at }));
  }
</script>

{#if shells.length}
  <section class="mb-4 space-y-2" aria-label="Sound shell">
    <h2 class="text-lg font-bold">Sound shell round the cavity</h2>
    {#each shells as shell (shell.at_m)}
      <p
        class={[
          "border-l-4 pl-2",
          shell.caution ? "border-error font-semibold" : "border-base-300",
        ]}
      >
        {shell.words}
      </p>
    {/each}
    <p class="text-xs faint">{shells[0]?.source}</p>
  </section>
{/if}
<div class="grid grid-cols-2 gap-2" role="group" aria-label="Add a defect">
  {#each kinds as [kind, word] (kind)}
    <button class="btn h-14 btn-outline text-base" onclick={() => add(kind)}>+ {word}</button>
  {/each}
</div>
<ol class="mt-4 space-y-5">
  {#each defects as defect (defect.id)}
    {@const meaning = meanings.find((m) => m.id === defect.id)}
    {@const at = `${session.treePath}.defects[#${defect.id}]`}
    <li class="space-y-2 border-t border-base-300 pt-3">
      <div class="flex items-center gap-2">
        <h2 class="min-w-0 grow truncate text-xl font-bold">{meaning?.title ?? defect.kind}</h2>
        <button
          class="btn touch btn-ghost px-2"
          aria-label={`Remove ${meaning?.title ?? defect.kind}`}
          onclick={() =>
            session.change((job) => {
              const tree = session.treeIn(job);
              tree.defects = tree.defects.filter((d) => d.id !== defect.id);
            })}><Icon of={Trash} size={18} /></button
        >
      </div>
      <div class="grid grid-cols-3 gap-2">
        <Choice
          label="On"
          value={defect.limb ?? ""}
          options={places}
          onchoose={(v) => void session.change((job) => assign(job, `${at}.limb`, v || undefined))}
        />
        <Measure
          {session}
          path={`${at}.at_m`}
          label="From"
          quantity="height"
          value={defect.at_m}
          required
        />
        <Measure
          {session}
          path={`${at}.to_m`}
          label="To"
          quantity="height"
          value={defect.to_m}
          hint="one spot"
        />
      </div>
      {#if defect.kind === "ivy" || defect.kind === "hung-branch"}
        <Measure
          {session}
          path={`${at}.mass_kg`}
          label="Weighs about"
          quantity="mass"
          value={defect.mass_kg}
          hint="not said"
        />
      {/if}
      <Compass
        label="On the side"
        value={defect.azimuth_deg}
        onchoose={(deg) => void session.change((job) => assign(job, `${at}.azimuth_deg`, deg))}
      />
      <Name {session} path={`${at}.note`} label="What you see" value={defect.note} />
      {#if meaning}
        <dl class="space-y-1 border-l-4 border-warning pl-3">
          <div>
            <dt class="inline font-bold">Climbing:</dt>
            <dd class="inline">{meaning.climbing}</dd>
          </div>
          <div>
            <dt class="inline font-bold">Hinging:</dt>
            <dd class="inline">{meaning.hinging}</dd>
          </div>
          <div>
            <dt class="inline font-bold">Anchoring:</dt>
            <dd class="inline">{meaning.anchoring}</dd>
          </div>
        </dl>
        <p class="text-xs faint">{meaning.source}</p>
      {/if}
    </li>
  {/each}
</ol>
<Tied {session} />
