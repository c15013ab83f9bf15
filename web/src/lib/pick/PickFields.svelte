<script lang="ts">
  import Icon from "../Icon.svelte";
  import Combine from "lucide-static/icons/combine.svg?raw";
  import Scissors from "lucide-static/icons/scissors.svg?raw";
  import type { Pick, Place, Way } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import Measure from "../fields/Measure.svelte";
  import Name from "../fields/Name.svelte";
  import PlaceField from "../fields/PlaceField.svelte";
  import Rope from "../fields/rig/Rope.svelte";
  import { ways } from "../order/edits";
  import { keepWeight, markDown, weighedKg } from "../order/marks";
  import { isHeld } from "../order/users";
  import { byId } from "../session/path";
  import type { Session } from "../session/session.svelte";
  import Advice from "./Advice.svelte";
  import BothEnds from "./BothEnds.svelte";
  import Felling from "./Felling.svelte";
  import Slings from "./Slings.svelte";
  import Steadied from "./Steadied.svelte";
  import WhatIf from "./WhatIf.svelte";

  interface Props {
    session: Session;
    onsplit: () => void;
    onjoin: () => void;
  }

  let { session, onsplit, onjoin }: Props = $props();

  let pick = $derived(session.pick);
  let figures = $derived(session.figures);
  let detail = $derived(session.detail);
  let at = $derived(session.pickPath);
  let held = $derived(pick && isHeld(pick.way));
  let rig = $derived(session.job.rigs[session.rigIndex]);
  let many = $derived(session.chosen.length);

  /** Changes every chosen pick alike. */
  function all(mutate: (pick: Pick) => void) {
    const ids = session.chosen;
    void session.change((job) => {
      for (const one of job.picks) if (ids.includes(one.id)) mutate(one);
    });
  }

  function setWay(way: string) {
    all((one) => {
      one.way = way as Way;
      if (way === "felled") one.fell ??= {};
      if (way === "both-ends") one.ends ??= { butt: {}, tip: {} };
      if (way === "crane" && !one.lift) {
        const crane = session.job.site.cranes[0]?.id ?? "";
        if (crane)
          one.lift = {
            crane,
            slings: (session.detail?.piece?.slings ?? []).map((s) => ({ ...s })),
          };
      }
    });
  }

  /** Gives a rig its second line, or moves it. */
  function carryTo(id: string, place: Place | undefined) {
    void session.change((job) => {
      const one = job.rigs.find((r) => r.id === id);
      if (one && place) one.second = { ...one.second, place };
    });
  }

  function setWhat(chosen: string) {
    if (!pick) return;
    void session.changePick(pick.id, (one) => {
      delete one.cut_m;
      delete one.tie_m;
      if (chosen === "stem" || chosen === "top") {
        one.what = chosen;
        delete one.limb;
      } else {
        one.what = "limb";
        one.limb = chosen;
      }
    });
  }
  function setTree(id: string) {
    const first = session.job.trees[0]?.id === id;
    all((one) => {
      if (first) delete one.tree;
      else one.tree = id;
      delete one.cut_m;
      delete one.tie_m;
      if (one.what === "limb") {
        one.what = "stem";
        delete one.limb;
      }
    });
  }
  let whats = $derived<[string, string][]>([
    ["stem", "section of the stem"],
    ["top", "whole top, limbs and all"],
    ...session.tree.limbs.map((l): [string, string] => [l.id, l.name || `limb ${l.id}`]),
  ]);
</script>

{#if pick && detail}
  <div class="space-y-4 p-3">
    {#if many > 1}
      <p class="text-sm font-semibold" role="status">
        {many} picks chosen: way, rig and done change on all of them.
      </p>
    {/if}
    <div class="grid grid-cols-2 gap-2">
      {#if session.job.trees.length > 1}
        <Choice
          label="Of"
          value={pick.tree || session.job.trees[0]?.id || ""}
          options={session.job.trees.map((t): [string, string] => [t.id, t.name || `tree ${t.id}`])}
          onchoose={setTree}
        />
      {/if}
      <Choice
        label="Takes"
        value={pick.what === "limb" ? (pick.limb ?? "") : pick.what}
        options={whats}
        onchoose={setWhat}
      />
      <Choice
        label="Way down"
        value={pick.way}
        options={Object.entries(ways())}
        onchoose={setWay}
      />
    </div>
    <div class="grid grid-cols-2 gap-2">
      <Measure
        {session}
        path={`${at}.cut_m`}
        label={pick.what === "limb" ? "Cut, out along it" : "Cut at height"}
        quantity="height"
        value={figures?.from_m}
        nought={pick.what === "limb" ? "union" : undefined}
        step={0.1}
      />
      {#if held}
        <Choice
          label="Rig"
          value={pick.rig ?? session.job.rigs[0]?.id ?? ""}
          options={session.job.rigs.map((r): [string, string] => [r.id, r.name])}
          onchoose={(id) => all((one) => (one.rig = id))}
        />
      {:else}
        <Measure
          {session}
          path={`${at}.fall_towards_deg`}
          label="Falls towards"
          quantity="bearing"
          value={figures?.fall_towards_deg}
        />
      {/if}
    </div>
    {#if held && rig && !rig.rope}
      <!-- Without a rope there is nothing to work out: it is chosen here as in the rig. -->
      <div class="space-y-2 border-l-4 border-primary pl-2" role="group" aria-label="Its rope">
        <Rope {session} {rig} at={byId("rigs", rig.id)} />
      </div>
    {/if}
    {#if pick.way === "two-points" && rig}
      <!-- Where it is carried to, chosen here as in the rig. -->
      <div class="border-l-4 border-primary pl-2">
        <PlaceField
          {session}
          path={`${byId("rigs", rig.id)}.second.place`}
          label="Carried to"
          value={rig.second?.place}
          none={rig.second ? undefined : "not said"}
          put={(place) => carryTo(rig.id, place)}
        />
      </div>
    {/if}
    <div class="grid grid-cols-2 gap-2">
      <button class="btn touch btn-outline" onclick={onsplit} title="Split in two (S)"
        ><Icon of={Scissors} size={18} /> Split</button
      >
      <button class="btn touch btn-outline" onclick={onjoin} title="Join to the one before (J)"
        ><Icon of={Combine} size={18} /> Join</button
      >
    </div>
    {#if held && pick.way !== "both-ends"}
      <div class="grid grid-cols-2 gap-2">
        <Measure
          {session}
          path={`${at}.tie_m`}
          label="Tie, from the cut"
          quantity="height"
          value={detail.settings.tie_m}
        />
        <Measure
          {session}
          path={`${at}.wraps`}
          label="Wraps"
          quantity="number"
          value={detail.settings.wraps}
          step={0.5}
        />
        <Measure
          {session}
          path={`${at}.fall_towards_deg`}
          label="Tips towards"
          quantity="bearing"
          value={figures?.fall_towards_deg}
        />
        {#if pick.way === "from-above" || pick.way === "swung"}
          <Measure
            {session}
            path={`${at}.tight_kn`}
            label="Made tight before"
            quantity="force"
            value={pick.tight_kn}
            hint="not at all"
          />
        {/if}
        {#if pick.way === "two-points"}
          <Measure
            {session}
            path={`${at}.carry_m`}
            label="Tie carried at"
            quantity="height"
            value={pick.carry_m}
            hint="under the lower"
          />
        {/if}
      </div>
    {/if}
    {#if held}
      <Steadied {session} {pick} {at} />
    {/if}
    {#if pick.way === "crane"}<Slings {session} {pick} {at} />{/if}
    {#if pick.way === "both-ends"}<BothEnds {session} {pick} {at} />{/if}
    {#if pick.way === "felled"}<Felling {session} {pick} {at} />{/if}

    <WhatIf {session} />
    <Advice {detail} />

    <div class="grid grid-cols-2 gap-2">
      <Measure
        {session}
        path={`${at}.mass_kg`}
        label="Judged by eye"
        quantity="mass"
        value={pick.mass_kg}
        hint="by the survey"
      />
      <Measure
        {session}
        path={`weighed ${pick.id}`}
        label="Weighed"
        quantity="mass"
        value={weighedKg(session, pick.id)}
        hint="not yet"
        put={(kg) => keepWeight(session, pick.id, kg)}
      />
    </div>
    {#if pick.mass_kg && weighedKg(session, pick.id) === undefined}
      <Name
        {session}
        path={`${at}.mass_why`}
        label="Why lighter than the survey: without it the survey's heavy end counts"
        value={pick.mass_why}
        placeholder="hollow, dead, bare …"
      />
    {/if}
    <PlaceField
      {session}
      path={`${at}.tie_in`}
      label="Climber tied in"
      value={pick.tie_in}
      none="not said"
    />
    <Name {session} path={`${at}.label`} label="Called" value={pick.label} />
    <label class="block">
      <span class="mb-0.5 block text-sm font-medium">Note</span>
      <textarea
        class="textarea min-h-16 w-full px-2 text-base"
        maxlength="2000"
        value={pick.note ?? ""}
        onchange={(e) => {
          const text = e.currentTarget.value.trim();
          void session.changePick(pick.id, (one) => {
            if (text) one.note = text;
            else delete one.note;
          });
        }}></textarea>
    </label>
    <label class="flex touch cursor-pointer items-center gap-3">
      <input
        type="checkbox"
        class="checkbox checkbox-primary"
        checked={session.down.has(pick.id)}
        onchange={(e) => void markDown(session, session.chosen, e.currentTarget.checked)}
      />
      <span class="font-semibold">It is down</span>
    </label>
  </div>
{:else}
  <p class="p-4 faint">Choose a pick, in the order or on the drawing.</p>
{/if}
