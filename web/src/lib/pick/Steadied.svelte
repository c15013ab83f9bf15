<script lang="ts">
  // What steadies a piece on its line: a tag line, a second line beside the first, a stop for its swing.
  import type { Pick } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import Measure from "../fields/Measure.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";

  let { session, pick, at }: { session: Session; pick: Pick; at: string } = $props();

  let detail = $derived(session.detail);
  let anchors = $derived(session.job.site.anchors.map((a): [string, string] => [a.id, a.name]));
  let alone = $derived(pick.way !== "both-ends" && pick.way !== "two-points"); // on one line
  let swings = $derived(pick.way === "swung" || pick.way === "from-above");

  const change = (mutate: (one: Pick) => void) => void session.changePick(pick.id, mutate);

  function toggle(name: "tag" | "twin" | "stop", on: boolean) {
    change((one) => {
      if (!on) Reflect.deleteProperty(one, name);
      else if (name === "twin") one.twin = {};
      else if (name === "tag") one.tag = { anchor: anchors[0]?.[0] ?? "" };
      else one.stop = { on: "stem", ...(stems[0] ? { tree: stems[0][0] } : {}) };
    });
  }

  // Limbs, other stems and places of the site that can be in the way of a swing.
  let stems = $derived(
    session.job.trees
      .filter((t) => t.id !== session.tree.id)
      .map((t): [string, string] => [t.id, t.name || `tree ${t.id}`]),
  );
  let stops = $derived<[string, string][]>([
    ["stem  ", "this stem"],
    ...stems.map(([id, name]): [string, string] => [`stem ${id} `, `stem of ${name}`]),
    ...session.job.trees.flatMap((t) =>
      t.limbs
        .filter((l) => t.id !== session.tree.id || l.id !== pick.limb)
        .map((l): [string, string] => [
          `limb ${t.id === session.tree.id ? "" : t.id} ${l.id}`,
          `${l.name || `limb ${l.id}`}${t.id === session.tree.id ? "" : ` of ${t.name || t.id}`}`,
        ]),
    ),
    ...anchors.map(([id, name]): [string, string] => [`line  ${id}`, `a line to ${name}`]),
  ]);
  let stopped = $derived(
    pick.stop
      ? `${pick.stop.on} ${pick.stop.on === "line" ? "" : (pick.stop.tree ?? "")} ${pick.stop.limb ?? pick.stop.anchor ?? ""}`
      : "",
  );
  function chooseStop(chosen: string) {
    const [on = "stem", tree = "", id = ""] = chosen.split(" ");
    change((one) => {
      one.stop = {
        on: on as NonNullable<Pick["stop"]>["on"],
        ...(tree ? { tree } : {}),
        ...(on === "limb" ? { limb: id } : {}),
        ...(on === "line" ? { anchor: id } : {}),
      };
    });
  }
</script>

{#snippet part(name: "tag" | "twin" | "stop", title: string, on: boolean, off: boolean)}
  <label class="flex touch cursor-pointer items-center gap-3">
    <input
      type="checkbox"
      class="checkbox checkbox-primary"
      checked={on}
      disabled={off && !on}
      onchange={(e) => toggle(name, e.currentTarget.checked)}
    />
    <span class="font-semibold">{title}</span>
    {#if off && !on}<span class="text-sm faint">needs an anchor on the site</span>{/if}
  </label>
{/snippet}

<div class="space-y-2 border-t border-base-300 pt-2">
  {@render part("tag", "Tag line", pick.tag !== undefined, anchors.length === 0)}
  {#if pick.tag}
    {#if detail?.tag}<p class="text-sm">{detail.tag.said}</p>{/if}
    <div class="grid grid-cols-2 gap-2">
      <Choice
        label="Leads to"
        value={pick.tag.anchor}
        options={anchors}
        onchoose={(id) => change((one) => void (one.tag && (one.tag.anchor = id)))}
      />
      <Measure
        {session}
        path={`${at}.tag.tie_m`}
        label="Tag tied, from the cut"
        quantity="height"
        value={pick.tag.tie_m}
        hint={detail?.tag ? print("height", detail.tag.tie_m) : ""}
      />
      <Measure
        {session}
        path={`${at}.tag.pull_kn`}
        label="Pulled with"
        quantity="force"
        value={pick.tag.pull_kn}
        hint={detail?.tag ? print("force", detail.tag.pull_kn) : "what they hold"}
      />
      <Measure
        {session}
        path={`${at}.tag.people`}
        label="People on it"
        quantity="number"
        value={pick.tag.people ?? 1}
      />
    </div>
  {/if}
  {#if alone || pick.twin}{@render part(
      "twin",
      "Twin line beside it",
      pick.twin !== undefined,
      false,
    )}{/if}
  {#if pick.twin}
    <div class="grid grid-cols-2 gap-2">
      <Choice
        label="Twin’s rig"
        value={pick.twin.rig ?? ""}
        options={[
          ["", "the same gear again"],
          ...session.job.rigs.map((r): [string, string] => [r.id, r.name]),
        ]}
        onchoose={(id) =>
          change((one) => {
            if (!one.twin) return;
            if (id) one.twin.rig = id;
            else delete one.twin.rig;
          })}
      />
      <Measure
        {session}
        path={`${at}.twin.faster_m`}
        label="One let out more by"
        quantity="height"
        value={pick.twin.faster_m}
        hint="together"
      />
    </div>
  {/if}
  {#if swings}
    {@render part("stop", "Something stops its swing", pick.stop !== undefined, false)}
    {#if pick.stop}
      {#if detail?.stop}<p class="text-sm">{detail.stop.said}</p>{/if}
      <div class="grid grid-cols-2 gap-2">
        <Choice label="Stopped by" value={stopped} options={stops} onchoose={chooseStop} />
        {#if pick.stop.on === "line"}
          <Measure
            {session}
            path={`${at}.stop.line_m`}
            label="Length of that line"
            quantity="height"
            value={pick.stop.line_m}
            hint="tight at the bottom"
          />
        {/if}
      </div>
    {/if}
  {/if}
</div>
