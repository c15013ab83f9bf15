<script lang="ts">
  // The two lines of a piece held at both ends, and what their hands do.
  import Icon from "../Icon.svelte";
  import Plus from "lucide-static/icons/plus.svg?raw";
  import Trash from "lucide-static/icons/trash-2.svg?raw";
  import type { Pick } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import Measure from "../fields/Measure.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";

  let { session, pick, at }: { session: Session; pick: Pick; at: string } = $props();

  type Ends = NonNullable<Pick["ends"]>;
  const sides = [
    { end: "butt", title: "Line at the butt" },
    { end: "tip", title: "Line at the tip" },
  ] as const;
  let ends = $derived(session.detail?.ends);
  let program = $derived(pick.ends?.program ?? []);

  const change = (mutate: (ends: Ends) => void) =>
    void session.changePick(pick.id, (one) => mutate((one.ends ??= { butt: {}, tip: {} })));

  /** Before one of its fields can be written there must be something to write to. */
  function put(end: "butt" | "tip", field: "tie_m" | "slack_m" | "tight_kn") {
    const id = pick.id;
    return (value: number | undefined) =>
      session.changePick(id, (one) => {
        const side = (one.ends ??= { butt: {}, tip: {} })[end];
        if (value === undefined) Reflect.deleteProperty(side, field);
        else side[field] = value;
      });
  }

  function putFace() {
    const id = pick.id;
    return (value: number | undefined) =>
      session.changePick(id, (one) => {
        const own = (one.ends ??= { butt: {}, tip: {} });
        if (value === undefined) Reflect.deleteProperty(own, "face_deg");
        else own.face_deg = value;
      });
  }
</script>

{#each sides as side, i (side.end)}
  {@const own = pick.ends?.[side.end]}
  {@const line = ends?.lines[i]}
  <fieldset class="space-y-2 border-t border-base-300 pt-2">
    <legend class="text-sm font-bold">{side.title}</legend>
    {#if line}
      <p class="text-sm">
        <b>{print("force", line.peak_kn)}</b> at the peak, {print("force", line.rest_kn)} at the steepest
        of its way{line.run_m > 0.005 ? `; ${print("height", line.run_m)} runs` : ""}
      </p>
    {/if}
    <div class="grid grid-cols-2 gap-2">
      <Choice
        label={`Rig at the ${side.end}`}
        value={own?.rig ?? session.job.rigs.find((r) => r.name === line?.rig)?.id ?? ""}
        options={session.job.rigs.map((r): [string, string] => [r.id, r.name])}
        onchoose={(id) => change((one) => (one[side.end].rig = id))}
      />
      <Measure
        {session}
        path={`${at}.ends.${side.end}.tie_m`}
        label={`Tied, ${side.end}, from the cut`}
        quantity="height"
        value={own?.tie_m ?? line?.tie_m}
        put={put(side.end, "tie_m")}
      />
      <Measure
        {session}
        path={`${at}.ends.${side.end}.slack_m`}
        label={`Slack, ${side.end}`}
        quantity="height"
        value={own?.slack_m}
        hint={line ? print("height", line.slack_m) : ""}
        put={put(side.end, "slack_m")}
      />
      <Measure
        {session}
        path={`${at}.ends.${side.end}.tight_kn`}
        label={`Made tight, ${side.end}`}
        quantity="force"
        value={own?.tight_kn}
        hint="not at all"
        put={put(side.end, "tight_kn")}
      />
    </div>
  </fieldset>
{/each}
<Measure
  {session}
  path={`${at}.ends.face_deg`}
  label="Its face closes after, °"
  quantity="number"
  value={pick.ends?.face_deg}
  hint="not said: the worst of 0, 35, 75"
  put={putFace()}
/>
<fieldset class="space-y-2 border-t border-base-300 pt-2">
  <legend class="text-sm font-bold">What the hands do</legend>
  {#if program.length === 0}
    <p class="text-sm faint">Nothing is said: both are let out alike, to the ground.</p>
  {/if}
  {#each program as step, i (i)}
    <div class="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
      <Choice
        label={`Step ${i + 1}`}
        value={step.line}
        options={[
          ["butt", "butt"],
          ["tip", "tip"],
          ["both", "both"],
        ]}
        onchoose={(line) =>
          change((one) => {
            const own = one.program?.[i];
            if (own) own.line = line as typeof step.line;
          })}
      />
      <Measure
        {session}
        path={`${at}.ends.program[${i}].by_m`}
        label={`Step ${i + 1}: let out, − taken in`}
        quantity="height"
        value={step.by_m}
        required
      />
      <button
        class="btn touch btn-ghost px-2"
        aria-label={`Remove step ${i + 1}`}
        onclick={() => change((one) => void one.program?.splice(i, 1))}
        ><Icon of={Trash} size={18} /></button
      >
    </div>
  {/each}
  <button
    class="btn touch w-full btn-outline"
    onclick={() =>
      change(
        (one) => void (one.program ??= []).push({ line: program.length ? "both" : "tip", by_m: 2 }),
      )}><Icon of={Plus} size={18} /> Add a step</button
  >
</fieldset>
