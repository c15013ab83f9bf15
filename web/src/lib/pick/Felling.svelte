<script lang="ts">
  import Trash from "@lucide/svelte/icons/trash-2";
  import type { Pick } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import Measure from "../fields/Measure.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";

  let { session, pick, at }: { session: Session; pick: Pick; at: string } = $props();

  let anchors = $derived(session.job.site.anchors);
  let fell = $derived(session.detail?.fell);
  let where = $derived.by(() => {
    if (!fell) return "";
    const off = (m: number) => print("height", Math.abs(m));
    const ahead = `${off(fell.forward_m)} ${fell.forward_m < 0 ? "behind" : "ahead of"} the hinge`;
    const aside =
      Math.abs(fell.side_m) < 0.05
        ? ""
        : ` and ${off(fell.side_m)} to the ${fell.side_m > 0 ? "right" : "left"}`;
    return `Its balance stands ${ahead}${aside}. Its tip may come down ${off(fell.farthest_m)} out.`;
  });
  type Line = "pull" | "hold";
  const systems = [1, 2, 3, 4, 5, 6, 9].map((n): [string, string] => [String(n), `${n}:1`]);
  const lines: [Line, string, string][] = [
    ["pull", "Line that pulls", "Add a line that pulls"],
    ["hold", "Line that holds it sideways", "Add a line that holds"],
  ];

  const change = (mutate: (fell: NonNullable<Pick["fell"]>) => void) =>
    void session.changePick(pick.id, (one) => mutate((one.fell ??= {})));

  // Tied two thirds up what stands, on the first anchor of the site.
  function add(which: Line) {
    const anchor = anchors[0];
    if (!anchor) return;
    const top = session.figures?.to_m ?? 6;
    const from = session.figures?.from_m ?? 0;
    change((one) => {
      one[which] = {
        at_m: Math.round((from + ((top - from) * 2) / 3) * 10) / 10,
        anchor: anchor.id,
      };
    });
  }
</script>

<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Hinge and lines</legend>
  {#if fell}
    <p class="text-sm">{where}</p>
  {/if}
  <div class="grid grid-cols-3 gap-2">
    <Measure
      {session}
      path={`${at}.fell.face_depth_m`}
      label="Face, deep"
      quantity="diameter"
      value={pick.fell?.face_depth_m ?? fell?.face_depth_m}
    />
    <Measure
      {session}
      path={`${at}.fell.left_m`}
      label="Hinge, left"
      quantity="diameter"
      value={pick.fell?.left_m ?? fell?.left_m}
    />
    <Measure
      {session}
      path={`${at}.fell.right_m`}
      label="Hinge, right"
      quantity="diameter"
      value={pick.fell?.right_m ?? fell?.right_m}
    />
    <Measure
      {session}
      path={`${at}.fell.bored_m`}
      label="Bored out"
      quantity="diameter"
      value={pick.fell?.bored_m}
      hint="none"
    />
    <Measure
      {session}
      path={`${at}.fell.nicks_m`}
      label="Nicks, each"
      quantity="diameter"
      value={pick.fell?.nicks_m}
      hint="none"
    />
    <Measure
      {session}
      path={`${at}.fell.margin`}
      label="Margin"
      quantity="number"
      value={pick.fell?.margin}
      hint="1.3"
    />
  </div>
  <label class="flex touch cursor-pointer items-center gap-3">
    <input
      type="checkbox"
      class="checkbox checkbox-primary"
      checked={pick.fell?.wedged ?? false}
      onchange={(e) => {
        const wedged = e.currentTarget.checked;
        change((one) => {
          if (wedged) one.wedged = true;
          else delete one.wedged;
        });
      }}
    />
    <span class="font-semibold">Wedges in the back cut</span>
  </label>
  {#if anchors.length === 0}
    <p class="text-sm faint">
      There is nothing on the site to pull from: add an anchor under Setup, Site.
    </p>
  {/if}
  {#each lines as [which, title, adds] (which)}
    {@const line = pick.fell?.[which]}
    {#if line}
      <div class="space-y-2 border-t border-base-300 pt-2" role="group" aria-label={title}>
        <div class="flex items-center justify-between">
          <span class="text-sm font-bold">{title}</span>
          <button
            class="btn touch btn-ghost px-2"
            aria-label={`Take off the ${title.toLowerCase()}`}
            onclick={() => change((one) => void Reflect.deleteProperty(one, which))}
            ><Trash size={18} /></button
          >
        </div>
        <div class="grid grid-cols-2 gap-2">
          <Choice
            label="To"
            value={line.anchor}
            options={anchors.map((a): [string, string] => [a.id, a.name])}
            onchoose={(id) => change((one) => one[which] && (one[which].anchor = id))}
          />
          <Measure
            {session}
            path={`${at}.fell.${which}.at_m`}
            label="Tied at"
            quantity="height"
            value={line.at_m}
            step={0.5}
            required
          />
          <Choice
            label="Rope of"
            value={line.rig ?? session.job.rigs[0]?.id ?? ""}
            options={session.job.rigs.map((r): [string, string] => [r.id, r.name])}
            onchoose={(id) => change((one) => one[which] && (one[which].rig = id))}
          />
          <Choice
            label="System"
            value={String(line.parts ?? 1)}
            options={systems}
            onchoose={(n) => change((one) => one[which] && (one[which].parts = Number(n)))}
          />
          <Measure
            {session}
            path={`${at}.fell.${which}.effort_kn`}
            label={which === "pull" ? "Pulled with" : "Held with"}
            quantity="force"
            value={line.effort_kn}
            hint="not said"
          />
          <Measure
            {session}
            path={`${at}.fell.${which}.anchor_m`}
            label="Height at the anchor"
            quantity="height"
            value={line.anchor_m}
            hint="0.3 m"
          />
        </div>
      </div>
    {:else if anchors.length > 0}
      <button class="btn touch w-full btn-outline" onclick={() => add(which)}>{adds}</button>
    {/if}
  {/each}
</fieldset>
