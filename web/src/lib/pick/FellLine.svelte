<script lang="ts">
  // One line of a felling: where it is tied, its turns, what it ends at and what pulls at it.
  import Icon from "../Icon.svelte";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Pick } from "../api/client";
  import { resolve } from "$app/paths";
  import Choice from "../fields/Choice.svelte";
  import Measure from "../fields/Measure.svelte";
  import TurnList from "../fields/rig/TurnList.svelte";
  import { known, print } from "../reference.svelte";
  import { byId } from "../session/path";
  import type { Session } from "../session/session.svelte";

  type Line = NonNullable<NonNullable<Pick["fell"]>["lines"]>[number];

  interface Props {
    session: Session;
    pick: Pick;
    line: Line;
    number: number;
  }

  let { session, pick, line, number }: Props = $props();

  let at = $derived(`${session.pickPath}.${byId("fell.lines", line.id)}`);
  let title = $derived(`${line.holds ? "Line that holds" : "Line that pulls"} ${number}`);
  let drawn = $derived(session.detail?.pulls.find((one) => one.id === line.id));
  const systems = [1, 2, 3, 4, 5, 6, 9].map((n): [string, string] => [String(n), `${n}:1`]);
  const efforts: [string, string][] = [
    ["", "not said"],
    ["hands", "hands"],
    ["hand-winch", "hand winch"],
    ["capstan-winch", "capstan winch"],
    ["vehicle", "vehicle, by its grip"],
    ["machine", "machine"],
  ];

  // The system is drawn on the bench, and comes back from there.
  let drawing = $derived(
    [
      "sum=haul",
      `line=${encodeURIComponent([session.id, pick.id, line.id].join("/"))}`,
      line.system && `with=${encodeURIComponent(JSON.stringify(line.system))}`,
    ]
      .filter(Boolean)
      .join("&"),
  );

  function change(mutate: (line: Line) => void) {
    const id = line.id;
    void session.changePick(pick.id, (one) => {
      const found = one.fell?.lines?.find((l) => l.id === id);
      if (found) mutate(found);
    });
  }

  const middles: [string, string][] = [
    ["", "nothing"],
    ["weight", "a weight"],
    ["side", "a side pull"],
  ];
  function putOnMiddle(kind: string) {
    change((one) => {
      if (!kind) delete one.mid;
      else one.mid = { kind: kind as NonNullable<Line["mid"]>["kind"] };
      // With a weight in it, it is made fast: nothing else pulls at it.
      if (kind !== "weight") return;
      for (const name of ["by", "effort_kn", "parts", "people", "pretension_kn"] as const) {
        Reflect.deleteProperty(one, name);
      }
    });
  }

  function remove() {
    const id = line.id;
    void session.changePick(pick.id, (one) => {
      if (one.fell?.lines) one.fell.lines = one.fell.lines.filter((l) => l.id !== id);
    });
  }

  function fresh(n: number) {
    const anchors = session.job.site.anchors;
    const other = anchors.find((a) => a.id !== line.anchor) ?? anchors[0];
    return {
      name: `Redirect ${n}`,
      place: other
        ? { on: "anchor" as const, anchor: other.id, at_m: 0.3 }
        : { on: "stem" as const, at_m: 0.5 },
      efficiency: known.get().rig_defaults.block_efficiency,
    };
  }
</script>

<div class="space-y-2 border-t border-base-300 pt-2" role="group" aria-label={title}>
  <div class="flex items-center justify-between">
    <span class="text-sm font-bold">{title}</span>
    <button
      class="btn touch btn-ghost px-2"
      aria-label={`Take off the ${title.toLowerCase()}`}
      onclick={remove}><Icon of={Trash} size={18} /></button
    >
  </div>
  <div class="grid grid-cols-2 gap-2">
    <Choice
      label="To"
      value={line.anchor}
      options={session.job.site.anchors.map((a): [string, string] => [a.id, a.name])}
      onchoose={(id) => change((one) => (one.anchor = id))}
    />
    <Measure
      {session}
      path={`${at}.at_m`}
      label="Tied at"
      quantity="height"
      value={line.at_m}
      step={0.5}
      required
    />
    {#if !line.holds}
      <Choice
        label="On its middle"
        value={line.mid?.kind ?? ""}
        options={middles}
        onchoose={putOnMiddle}
      />
    {/if}
    {#if line.mid?.kind === "weight"}
      <Measure
        {session}
        path={`${at}.mid.weight_kg`}
        label="Weight hung"
        quantity="mass"
        value={line.mid?.weight_kg}
        required
      />
      <Measure
        {session}
        path={`${at}.mid.line_m`}
        label="Line of that part"
        quantity="height"
        value={line.mid?.line_m}
        hint={`${Math.round(100 * known.get().fell_defaults.sag)} % over its way`}
      />
    {:else if line.mid?.kind === "side"}
      <Measure
        {session}
        path={`${at}.mid.side_kn`}
        label="Pulled aside with"
        quantity="force"
        value={line.mid?.side_kn}
        required
      />
    {/if}
    {#if line.mid?.kind !== "weight"}
      <Choice
        label="Pulled by"
        value={line.by ?? ""}
        options={efforts}
        onchoose={(by) =>
          change((one) => {
            if (by) one.by = by as NonNullable<Line["by"]>;
            else delete one.by;
          })}
      />
      {#if line.by === "hands"}
        <Measure
          {session}
          path={`${at}.people`}
          label="People"
          quantity="number"
          value={line.people ?? 1}
        />
      {/if}
      <Measure
        {session}
        path={`${at}.effort_kn`}
        label={line.holds ? "Held with" : "Pulled with"}
        quantity="force"
        value={line.effort_kn}
        hint={line.by === "hands"
          ? "the crew’s rule"
          : line.by === "vehicle"
            ? "its grip"
            : "not said"}
      />
      <Choice
        label="System"
        value={line.system ? "drawn" : String(line.parts ?? 1)}
        options={line.system ? [["drawn", "as drawn"], ...systems] : systems}
        onchoose={(n) =>
          change((one) => {
            if (n === "drawn") return;
            delete one.system;
            one.parts = Number(n);
          })}
      />
      <a class="btn touch self-end btn-outline" href={resolve(`/bench?${drawing}`)}
        >Draw the system</a
      >
      {#if line.system || (line.parts ?? 1) > 1}
        <Choice
          label="Its effort"
          value={line.effort ?? "turned"}
          options={[
            ["turned", "turned at the anchor"],
            ["straight", "pulled straight past it"],
          ]}
          onchoose={(how) =>
            change((one) => {
              if (how === "straight") one.effort = how;
              else delete one.effort;
            })}
        />
      {/if}
    {/if}
    <Choice
      label="Rope of"
      value={line.rig ?? session.job.rigs[0]?.id ?? ""}
      options={session.job.rigs.map((r): [string, string] => [r.id, r.name])}
      onchoose={(id) => change((one) => (one.rig = id))}
    />
    {#if line.mid?.kind !== "weight"}
      <Measure
        {session}
        path={`${at}.pretension_kn`}
        label="Made tight with"
        quantity="force"
        value={line.pretension_kn}
        hint="what is needed"
      />
    {/if}
    <Measure
      {session}
      path={`${at}.anchor_m`}
      label="Height at its end"
      quantity="height"
      value={line.anchor_m}
      hint={print("height", known.get().fell_defaults.anchor_m)}
    />
    <Measure
      {session}
      path={`${at}.haul_m_s`}
      label="Hauled in, m/s"
      quantity="number"
      value={line.haul_m_s}
      hint={String(known.get().fell_defaults.haul_m_s)}
    />
  </div>
  {#if drawn}<p class="text-sm font-semibold" data-testid="line-said">{drawn.said}</p>{/if}
  <TurnList
    {session}
    redirects={line.redirects ?? []}
    {at}
    change={(mutate) => change((one) => mutate((one.redirects ??= [])))}
    {fresh}
  />
</div>
