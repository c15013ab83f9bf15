<script lang="ts">
  import { untrack } from "svelte";
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import { freshId } from "../order/edits";
  import { movesOf, picksOf, usersOf } from "../order/users";
  import type { Rig as RigOf } from "../api/client";
  import { known } from "../reference.svelte";
  import { byId } from "../session/path";
  import type { Session } from "../session/session.svelte";
  import Choice from "./Choice.svelte";
  import Hold from "./Hold.svelte";
  import Measure from "./Measure.svelte";
  import Name from "./Name.svelte";
  import Block from "./rig/Block.svelte";
  import Device from "./rig/Device.svelte";
  import Rope from "./rig/Rope.svelte";
  import Second from "./rig/Second.svelte";
  import Tie from "./rig/Tie.svelte";
  import Turns from "./rig/Turns.svelte";

  let { session }: { session: Session } = $props();

  let chosen = $state(untrack(() => session.job.rigs[session.rigIndex]?.id ?? ""));
  let rigs = $derived(session.job.rigs);
  let rig = $derived(rigs.find((r) => r.id === chosen) ?? rigs[0]);
  let at = $derived(byId("rigs", rig?.id ?? ""));
  const standard = known.get().rig_defaults;

  function addRig() {
    if (!rig) return;
    const id = freshId(session.job, "r");
    const copy = structuredClone($state.snapshot(rig)) as typeof rig;
    const name = `Rig ${rigs.length + 1}`;
    void session
      .change((job) => job.rigs.push({ ...copy, id, name }))
      .then((faults) => {
        if (!faults.length) chosen = id;
      });
  }

  // What lost its rig when one was removed, until the next is looked at.
  let lost = $state.raw<{ rig: RigOf; at: number; said: string } | null>(null);
  let missing = $derived(lost && !rigs.some((r) => r.id === lost?.rig.id) ? lost : null);

  function removeRig() {
    if (!rig) return;
    const { id, name } = rig;
    const gone = structuredClone($state.snapshot(rig)) as RigOf;
    const place = rigs.findIndex((r) => r.id === id);
    const users = usersOf(session.job, id);
    const moves = movesOf(session.job, id);
    const losers = [...(users.length ? [picksOf(users)] : []), ...moves];
    const before = rigs[place - 1];
    void session
      .change((job) => {
        job.rigs = job.rigs.filter((r) => r.id !== id);
      })
      .then((faults) => {
        if (faults.length || !losers.length) return;
        const said = `${name} is gone: ${losers.join(", ")} ${users.length + moves.length > 1 ? "lose" : "loses"} it.`;
        lost = { rig: gone, at: place, said };
      });
    chosen = before?.id ?? "";
  }

  function bringBack() {
    if (!missing) return;
    const { rig: gone, at: place } = missing;
    void session.change((job) => job.rigs.splice(place, 0, structuredClone(gone)));
    chosen = gone.id;
    lost = null;
  }
</script>

{#if rig}
  <div class="space-y-4">
    <div class="flex items-end gap-2">
      <div class="grow">
        <Choice
          label="Rig"
          value={rig.id}
          options={rigs.map((r): [string, string] => [r.id, r.name])}
          onchoose={(id) => {
            chosen = id;
            lost = null;
          }}
        />
      </div>
      <button class="btn touch btn-outline" onclick={addRig}>Add</button>
      <button
        class="btn touch btn-ghost px-2"
        aria-label={`Remove ${rig.name}`}
        disabled={rigs.length < 2}
        onclick={removeRig}><Icon of={Trash} size={18} /></button
      >
    </div>
    {#if missing}
      <p role="status" class="border-l-4 border-warning pl-2 text-base" data-testid="lost">
        {missing.said}
        <button class="btn touch btn-ghost px-2 font-semibold underline" onclick={bringBack}
          >Bring it back</button
        >
      </p>
    {/if}
    <Name {session} path={`${at}.name`} label="Called" value={rig.name} required />
    <Rope {session} {rig} {at} />
    <Tie {session} {rig} {at} />
    <Block {session} {rig} {at} />
    <Turns {session} {rig} {at} />
    <Device {session} {rig} {at} />
    <div class="grid grid-cols-2 gap-2">
      <Measure
        {session}
        path={`${at}.anchor_stiffness_kn_m`}
        label="Anchor gives, kN/m"
        quantity="number"
        value={rig.anchor_stiffness_kn_m}
        hint="rigid"
      />
      <Measure
        {session}
        path={`${at}.energy_lost_pct`}
        label="Energy lost, %"
        quantity="number"
        value={rig.energy_lost_pct ?? standard.energy_lost_pct}
      />
    </div>

    <Hold {session} {rig} {at} />
    <Second {session} {rig} {at} />
  </div>
{/if}
