<script lang="ts">
  // One instrument: the thing drawn, its figures typed, the answer largest.
  import { untrack } from "svelte";
  import { goto } from "$app/navigation";
  import { resolve } from "$app/paths";
  import type { BenchLaid as Laid, Fault } from "../api/client";
  import { core, type Sum } from "../core/core.svelte";
  import Working from "../ladder/Working.svelte";
  import Stump from "../pick/Stump.svelte";
  import { page } from "../session/page";
  import Ask from "./Ask.svelte";
  import BenchField from "./BenchField.svelte";
  import {
    at,
    numberAt,
    parts,
    put,
    said,
    shapeOf,
    withRow,
    withoutRow,
    type Field,
    type Instrument,
  } from "./instruments";
  import Picture from "./Picture.svelte";

  interface Props {
    instrument: Instrument;
    request: Record<string, unknown>;
    onchange: (request: Record<string, unknown>) => void;
  }

  let { instrument, request, onchange }: Props = $props();

  let answer = $state.raw<Sum | null>(null);
  let faults = $state.raw<Fault[]>([]);
  let trouble = $state("");
  let more = $state(false);

  let turn = 0;
  $effect(() => {
    const mine = ++turn;
    const kind = instrument.kind;
    void core.sum(kind, request).then(
      (reply) => {
        if (mine !== turn) return;
        trouble = "";
        faults = reply.faults ?? [];
        if (reply.data) answer = reply.data;
      },
      () => {
        if (mine === turn) trouble = "The core does not answer: the figures are those of before.";
      },
    );
  });

  // What can be typed: as the instrument begins, until the core has laid out what lies here.
  let laid = $state.raw<Laid | null>(null);
  let shape = $derived(shapeOf(request));
  $effect(() => {
    void shape;
    const kind = instrument.kind;
    let left = false;
    void core
      .layout(
        kind,
        untrack(() => request),
      )
      .then(
        (reply) => {
          if (!left && reply.data) laid = reply.data;
        },
        () => undefined,
      );
    return () => (left = true);
  });
  let fields = $derived((laid?.fields ?? instrument.fields) as Field[]);
  let lists = $derived((laid?.lists ?? []).filter((l) => l.least !== l.most));

  let putting = $state("");
  async function putInJob() {
    putting = "";
    const reply = await core.intoJob(instrument.kind, request).catch(() => null);
    const made = reply?.data ? await page.create(reply.data, page.newId()).catch(() => null) : null;
    if (made) await goto(resolve("/job/[id]", { id: made.id }));
    else
      putting = reply?.faults?.[0]
        ? `${reply.faults[0].message}. Allowed: ${reply.faults[0].allowed}.`
        : "The server does not answer: nothing was made.";
  }

  const set = (path: string, value: unknown) => onchange(put(request, path, value));
  const refusedOf = (path: string) =>
    faults.find((f) => f.location === `body.${path}`)?.message ?? "";
  let given = $derived(fields.filter((f) => at(request, f.path) !== undefined));
  let others = $derived(fields.filter((f) => at(request, f.path) === undefined));
  let elsewhere = $derived(
    faults.filter((f) => !fields.some((one) => f.location === `body.${one.path}`)),
  );
  let main = $derived.by(() => {
    const value = numberAt(answer, instrument.answer);
    const figure = instrument.figures.find((f) => f.path === instrument.answer);
    if (value === undefined) return null;
    const [text, unit] = parts(instrument.answer, figure?.unit ?? "", value);
    return { text, unit, label: figure?.label ?? "" };
  });
  let words = $derived(
    Object.entries(answer ?? {}).filter(
      (entry): entry is [string, string] => typeof entry[1] === "string",
    ),
  );
  let stump = $derived.by(() => {
    if (instrument.kind !== "hinge" || !answer || faults.length) return null;
    return {
      diameter_m: numberAt(request, "stump.diameter_m") ?? 0.5,
      cavity_m: numberAt(request, "stump.cavity_m") ?? 0,
      face_depth_m: numberAt(request, "face_depth_m") ?? 0,
      back_cut_m: numberAt(answer, "back_cut_m") ?? 0,
      upside_down: false,
      left_m: numberAt(request, "thickness_m.left") ?? 0,
      right_m: numberAt(request, "thickness_m.right") ?? 0,
      bored_m: numberAt(request, "bored_m") ?? 0,
      nicks_m: numberAt(request, "nicks_m") ?? 0,
      hinge: answer,
    } as unknown as Parameters<typeof Stump>[1]["fell"];
  });
</script>

<section
  class="space-y-4"
  aria-label={instrument.title}
  data-testid="instrument"
  data-kind={instrument.kind}
>
  <h2 class="text-2xl font-bold">{instrument.title}</h2>
  {#if stump}<div class="max-w-sm"><Stump fell={stump} above /></div>{:else}
    <Picture
      kind={instrument.kind}
      {request}
      {answer}
      {fields}
      onset={(values) =>
        onchange(values.reduce((next, [path, value]) => put(next, path, value), request))}
    />
  {/if}
  <div
    class={["flex flex-wrap items-end gap-x-8 gap-y-2", faults.length && "opacity-40"]}
    aria-live="polite"
  >
    {#if main}
      <p data-testid="bench-answer">
        <span class="block text-sm faint">{main.label}</span>
        <span class="text-6xl leading-none font-bold">{main.text}</span>
        <span class="text-2xl font-semibold">{main.unit}</span>
      </p>
    {/if}
    {#each instrument.beside as path (path)}
      {@const figure = instrument.figures.find((f) => f.path === path)}
      {@const value = numberAt(answer, path)}
      {#if value !== undefined}
        <p>
          <span class="block text-sm faint">{figure?.label}</span>
          <span class="text-2xl font-bold">{said(path, figure?.unit ?? "", value)}</span>
        </p>
      {/if}
    {/each}
    {#each words as [name, word] (name)}
      <p>
        <span class="block text-sm faint">{name.replaceAll("_", " ")}</span>
        <span class="text-2xl font-bold">{word}</span>
      </p>
    {/each}
  </div>
  {#each answer?.cautions ?? [] as caution, at (at)}
    <p class="max-w-2xl border-l-4 border-warning pl-2">{caution}</p>
  {/each}
  {#if trouble}<p role="alert" class="text-error">{trouble}</p>{/if}
  {#each elsewhere as fault (fault.location + fault.message)}
    <p role="alert" class="text-error">{fault.message}. Allowed: {fault.allowed}.</p>
  {/each}
  <div class="grid grid-cols-2 gap-x-3 gap-y-2 sm:grid-cols-3 lg:grid-cols-4">
    {#each given as field (field.path)}
      <BenchField
        {field}
        value={at(request, field.path)}
        refused={refusedOf(field.path)}
        onset={(v) => set(field.path, v)}
      />
    {/each}
  </div>
  {#if lists.length || instrument.makes_job}
    <div class="flex flex-wrap gap-2">
      {#each lists as list (list.path)}
        {#if list.rows < list.most}
          <button
            class="btn touch btn-outline"
            onclick={() => onchange(withRow(request, list.path, list.first))}
            >Add a {list.label}</button
          >
        {/if}
        {#if list.rows > (list.first ? 0 : Math.max(1, list.least))}
          <button
            class="btn touch btn-ghost"
            onclick={() => onchange(withoutRow(request, list.path))}
            >Take the last {list.label} away</button
          >
        {/if}
      {/each}
      {#if instrument.makes_job}
        <button class="btn touch btn-outline" disabled={faults.length > 0} onclick={putInJob}
          >Put it in a job</button
        >
      {/if}
    </div>
    {#if putting}<p role="alert" class="text-error">{putting}</p>{/if}
  {/if}
  {#if others.length}
    <details bind:open={more}>
      <summary class="touch cursor-pointer content-center font-semibold"
        >What stands as usual, {others.length}</summary
      >
      {#if more}
        <div class="grid grid-cols-2 gap-x-3 gap-y-2 pt-2 sm:grid-cols-3 lg:grid-cols-4">
          {#each others as field (field.path)}
            <BenchField
              {field}
              value={undefined}
              refused={refusedOf(field.path)}
              onset={(v) => set(field.path, v)}
            />
          {/each}
        </div>
      {/if}
    </details>
  {/if}
  <Ask {instrument} {fields} {request} {answer} onset={set} />
  {#if answer}
    <details>
      <summary class="touch cursor-pointer content-center font-semibold">Working</summary>
      <Working steps={answer.working} />
    </details>
  {/if}
</section>
