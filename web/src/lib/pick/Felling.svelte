<script lang="ts">
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Pick } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import Measure from "../fields/Measure.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import FellLine from "./FellLine.svelte";
  import Stump from "./Stump.svelte";

  let { session, pick, at }: { session: Session; pick: Pick; at: string } = $props();

  let anchors = $derived(session.job.site.anchors);
  let fell = $derived(session.detail?.fell);
  let lines = $derived(pick.fell?.lines ?? []);
  let where = $derived.by(() => {
    if (!fell) return "";
    const off = (m: number) => print("height", Math.abs(m));
    const ahead = `${off(fell.forward_m)} ${fell.forward_m < 0 ? "behind" : "ahead of"} the hinge`;
    const aside =
      Math.abs(fell.side_m) < 0.05
        ? ""
        : ` and ${off(fell.side_m)} to the ${fell.side_m > 0 ? "right" : "left"}`;
    const within = fell.within_m > 0.01 ? `, give or take ${off(fell.within_m)}` : "";
    return `Its balance stands ${ahead}${aside}${within}. Its tip may come down ${off(fell.farthest_m)} out.`;
  });

  type Fell = NonNullable<Pick["fell"]>;
  const change = (mutate: (fell: Fell) => void) =>
    void session.changePick(pick.id, (one) => mutate((one.fell ??= {})));
  const numbered = (i: number) =>
    lines.slice(0, i + 1).filter((one) => !one.holds === !lines[i]?.holds).length;

  // Tied two thirds up what stands, on the first anchor of the site that has no line yet.
  function add(holds: boolean) {
    const anchor = anchors.find((a) => lines.every((l) => l.anchor !== a.id)) ?? anchors[0];
    if (!anchor) return;
    const top = session.figures?.to_m ?? 6;
    const from = session.figures?.from_m ?? 0;
    change((one) => {
      const list = (one.lines ??= []);
      let n = 1;
      while (list.some((l) => l.id === `l${n}`)) n++;
      list.push({
        id: `l${n}`,
        at_m: Math.round((from + ((top - from) * 2) / 3) * 10) / 10,
        anchor: anchor.id,
        ...(holds ? { holds: true } : {}),
      });
    });
  }

  // Ties round weak places, and logs for it to come down on: lists of one height or distance each.
  let straps = $derived(pick.fell?.straps ?? []);
  let beds = $derived(pick.fell?.beds ?? []);
  const free = (list: { id: string }[], letter: string) => {
    let n = 1;
    while (list.some((one) => one.id === `${letter}${n}`)) n++;
    return `${letter}${n}`;
  };
  const round = (m: number) => Math.round(m * 10) / 10;
  function addStrap() {
    const weak = session.tree.defects.find(
      (d) => !d.limb && (d.kind === "union" || d.kind === "crack"),
    );
    const at = weak?.at_m ?? ((session.figures?.from_m ?? 0) + (session.figures?.to_m ?? 6)) / 2;
    change((one) => (one.straps ??= []).push({ id: free(straps, "s"), at_m: round(at) }));
  }
  function addBed() {
    const far = (session.figures?.length_m ?? 10) * (0.35 + 0.3 * (beds.length % 2));
    change((one) => (one.beds ??= []).push({ id: free(beds, "b"), out_m: round(far) }));
  }
  function takeOff(list: "straps" | "beds", id: string) {
    change((one) => {
      if (list === "straps") one.straps = one.straps?.filter((s) => s.id !== id);
      else one.beds = one.beds?.filter((b) => b.id !== id);
      if (!one[list]?.length) Reflect.deleteProperty(one, list);
    });
  }
  function flag(name: "wedged" | "upside_down", on: boolean) {
    change((one) => {
      if (on) one[name] = true;
      else Reflect.deleteProperty(one, name);
    });
  }
</script>

<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Stump</legend>
  {#if fell}
    <Stump {fell} {session} pick={pick.id} />
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
      path={`${at}.fell.opening_deg`}
      label="Opens, °"
      quantity="number"
      value={pick.fell?.opening_deg}
      hint={String(fell?.opening_deg ?? "")}
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
      path={`${at}.fell.back_up_m`}
      label="Back cut, up"
      quantity="diameter"
      value={pick.fell?.back_up_m}
      hint={fell ? print("diameter", fell.back_up_m) : ""}
    />
    <Measure
      {session}
      path={`${at}.fell.strap_m`}
      label="Strap kept"
      quantity="diameter"
      value={pick.fell?.strap_m}
      hint="none"
    />
    <Measure
      {session}
      path={`${at}.fell.margin`}
      label="Margin"
      quantity="number"
      value={pick.fell?.margin}
      hint={String(session.assessment?.limits.fell_margin ?? "")}
    />
    {#if session.job.site.gust_m_s}
      <Measure
        {session}
        path={`${at}.fell.wind_m2`}
        label="Wind on, m²"
        quantity="number"
        value={pick.fell?.wind_m2}
        hint="its outline"
      />
    {/if}
  </div>
  <Choice
    label="Face"
    value={pick.fell?.upside_down ? "down" : "up"}
    options={[
      ["up", "sloping cut above"],
      ["down", "upside down, sloping cut below"],
    ]}
    onchoose={(kind) => flag("upside_down", kind === "down")}
  />
  <label class="flex touch cursor-pointer items-center gap-3">
    <input
      type="checkbox"
      class="checkbox checkbox-primary"
      checked={pick.fell?.wedged ?? false}
      onchange={(e) => flag("wedged", e.currentTarget.checked)}
    />
    <span class="font-semibold">Wedges in the back cut</span>
  </label>
</fieldset>
<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Lines</legend>
  {#if anchors.length === 0}
    <p class="text-sm faint">
      There is nothing on the site to pull from: add an anchor under Setup, Site.
    </p>
  {/if}
  {#each lines as line, i (line.id)}
    <FellLine {session} {pick} {line} number={numbered(i)} />
  {/each}
  {#if pick.fell?.push}
    <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2 border-t border-base-300 pt-2">
      <Measure
        {session}
        path={`${at}.fell.push.at_m`}
        label="Pushed at"
        quantity="height"
        value={pick.fell.push.at_m}
        required
      />
      <Measure
        {session}
        path={`${at}.fell.push.limit_kn`}
        label="The machine can"
        quantity="force"
        value={pick.fell.push.limit_kn}
        hint="not said"
      />
      <button
        class="btn touch btn-ghost px-2"
        aria-label="No machine pushes it"
        onclick={() => change((one) => void delete one.push)}><Icon of={Trash} size={18} /></button
      >
    </div>
  {:else}
    <button
      class="btn touch w-full btn-outline"
      onclick={() =>
        change(
          (one) =>
            (one.push = { at_m: Math.round(((session.figures?.from_m ?? 0) + 3) * 10) / 10 }),
        )}>A machine pushes it</button
    >
  {/if}
  {#if anchors.length > 0 && lines.length < 6}
    <div class="grid grid-cols-2 gap-2">
      <button class="btn touch btn-outline" onclick={() => add(false)}>Add a line that pulls</button
      >
      <button class="btn touch btn-outline" onclick={() => add(true)}>Add a line that holds</button>
    </div>
  {/if}
</fieldset>
<fieldset class="space-y-2">
  <legend class="text-sm font-bold">Ties round it, bedding logs</legend>
  {#each straps as strap, i (strap.id)}
    <div class="grid grid-cols-[1fr_auto] items-end gap-2">
      <Measure
        {session}
        path={`${at}.fell.straps[#${strap.id}].at_m`}
        label={`Tie ${i + 1} round the stem at`}
        quantity="height"
        value={strap.at_m}
        required
      />
      <button
        class="btn touch btn-ghost px-2"
        aria-label={`Take off tie ${i + 1}`}
        onclick={() => takeOff("straps", strap.id)}><Icon of={Trash} size={18} /></button
      >
    </div>
  {/each}
  {#each beds as bed, i (bed.id)}
    <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
      <Measure
        {session}
        path={`${at}.fell.beds[#${bed.id}].out_m`}
        label={`Log ${i + 1}, out`}
        quantity="height"
        value={bed.out_m}
        required
      />
      <Measure
        {session}
        path={`${at}.fell.beds[#${bed.id}].thick_m`}
        label={`Log ${i + 1}, thick`}
        quantity="diameter"
        value={bed.thick_m}
        hint={fell?.beds[i] ? print("diameter", fell.beds[i].thick_m) : ""}
      />
      <button
        class="btn touch btn-ghost px-2"
        aria-label={`Take away log ${i + 1}`}
        onclick={() => takeOff("beds", bed.id)}><Icon of={Trash} size={18} /></button
      >
    </div>
  {/each}
  <div class="grid grid-cols-2 gap-2">
    <button class="btn touch btn-outline" disabled={straps.length >= 6} onclick={addStrap}
      >Tie round a union</button
    >
    <button class="btn touch btn-outline" disabled={beds.length >= 6} onclick={addBed}
      >Lay a bedding log</button
    >
  </div>
</fieldset>
{#if fell}
  <section class="space-y-1">
    <h3 class="text-sm font-bold">What to cut, in order</h3>
    <ol class="list-decimal space-y-0.5 pl-5 text-sm">
      {#each fell.steps as step, at (at)}<li>{step}</li>{/each}
    </ol>
    <h3 class="pt-1 text-sm font-bold">If that does not do</h3>
    <ul class="space-y-0.5 text-sm">
      {#each fell.plans as plan, at (at)}
        <li><span class="font-semibold">{plan.title}:</span> {plan.said} <i>{plan.verdict}</i></li>
      {/each}
    </ul>
  </section>
{/if}
