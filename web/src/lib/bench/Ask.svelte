<script lang="ts">
  // Two more questions of any sum: hold a figure and ask for an input; an input over a range.
  import { scaleLinear } from "d3-scale";
  import type { BenchAsked, Swept } from "../api/client";
  import { core } from "../core/core.svelte";
  import Choice from "../fields/Choice.svelte";
  import { path } from "../draw/view";
  import BenchField from "./BenchField.svelte";
  import { numberAt, said, type Field, type Instrument } from "./instruments";

  interface Props {
    instrument: Instrument;
    /** What can be typed of the request as it stands. */
    fields: Field[];
    request: Record<string, unknown>;
    answer: Record<string, unknown> | null;
    onset: (path: string, value: number) => void;
  }

  let { instrument, fields, request, answer, onset }: Props = $props();

  let inputs = $derived(fields.filter((f) => f.number && numberAt(request, f.path) !== undefined));
  let of = $state("");
  let over = $state("");
  let held = $state<number | undefined>(undefined);
  let asked = $state.raw<BenchAsked | null>(null);
  let swept = $state.raw<Swept | null>(null);
  let trouble = $state("");
  let figurePath = $derived(of || instrument.answer);
  let inputPath = $derived(over || inputs[0]?.path || "");
  let figure = $derived(instrument.figures.find((f) => f.path === figurePath));
  let input = $derived(inputs.find((f) => f.path === inputPath));
  let now = $derived(numberAt(answer, figurePath));
  let value = $derived(held ?? now);

  /** A range about where the input stands, within its own. */
  function range() {
    const at = numberAt(request, inputPath) ?? 0;
    const span = Math.max(Math.abs(at), 0.05);
    const low = Math.max(input?.min ?? -Infinity, at - 0.9 * span);
    const high = Math.min(input?.max ?? Infinity, at + 2 * span);
    return {
      from: String(input?.above && low <= (input.min ?? 0) ? low + 1e-6 * span : low),
      to: String(high),
    };
  }

  async function ask() {
    trouble = "";
    swept = null;
    const reply = await core
      .hold(request, { kind: instrument.kind, of: figurePath, over: inputPath, held: value ?? 0 })
      .catch(() => null);
    if (reply?.data) asked = reply.data;
    else trouble = reply?.faults?.[0]?.message ?? "The core does not answer";
  }

  async function sweep() {
    trouble = "";
    asked = null;
    const reply = await core
      .sweep(request, { kind: instrument.kind, of: figurePath, over: inputPath, ...range() })
      .catch(() => null);
    if (reply?.data) swept = reply.data;
    else trouble = reply?.faults?.[0]?.message ?? "The core does not answer";
  }

  const width = 560;
  const height = 200;
  const pad = { left: 56, right: 16, top: 10, bottom: 24 };
  let ys = $derived((swept?.y ?? []).filter((y): y is number => y !== null));
  let x = $derived(
    scaleLinear([swept?.x[0] ?? 0, swept?.x.at(-1) ?? 1], [pad.left, width - pad.right]),
  );
  let y = $derived(
    scaleLinear([Math.min(0, ...ys), Math.max(1e-9, ...ys)], [height - pad.bottom, pad.top]).nice(),
  );
  let curve = $derived(
    path(
      (swept?.x ?? []).flatMap((v, i) => {
        const at = swept?.y[i];
        return at === null || at === undefined ? [] : [{ x: x(v), y: y(at) }];
      }),
      false,
    ),
  );
  let cursor = $state<number | null>(null);
  let read = $derived.by(() => {
    if (cursor === null || !swept) return null;
    const i = Math.max(0, Math.min(swept.x.length - 1, cursor));
    return { x: swept.x[i] ?? 0, y: swept.y[i] ?? null };
  });
  let drawing = $state<SVGSVGElement | null>(null);
  function save(type: string, ending: string, text: string) {
    const link = document.createElement("a");
    link.href = `data:${type};charset=utf-8,${encodeURIComponent(text)}`;
    link.download = `${instrument.kind}-${swept?.of ?? ""}.${ending}`;
    link.click();
  }
  const asTable = () =>
    [
      `${swept?.over},${swept?.of}`,
      ...(swept?.x ?? []).map((v, i) => `${v},${swept?.y[i] ?? ""}`),
    ].join("\n");
</script>

<section class="space-y-2" aria-label="Hold and ask">
  <h3 class="text-sm font-bold">Hold one figure, ask for another</h3>
  <div class="grid gap-2 sm:grid-cols-3">
    <Choice
      label="Hold"
      value={figurePath}
      options={instrument.figures.map((f): [string, string] => [f.path, f.label])}
      onchoose={(p) => {
        of = p;
        held = undefined;
        asked = null;
        swept = null;
      }}
    />
    <BenchField
      field={{
        path: figurePath,
        label: "at",
        unit: figure?.unit ?? "",
        doc: "",
        number: true,
        required: true,
      }}
      {value}
      refused=""
      onset={(v) => {
        held = v as number;
        asked = null;
      }}
    />
    <Choice
      label="Ask for"
      value={inputPath}
      options={inputs.map((f): [string, string] => [f.path, f.label])}
      onchoose={(p) => {
        over = p;
        asked = null;
        swept = null;
      }}
    />
  </div>
  <div class="flex flex-wrap gap-2">
    <button class="btn touch btn-primary" disabled={value === undefined} onclick={ask}>Ask</button>
    <button class="btn touch btn-outline" onclick={sweep}>Over a range</button>
  </div>
  {#if trouble}<p role="alert" class="text-error">{trouble}.</p>{/if}
  {#if asked}
    <div role="status" data-testid="asked">
      {#each asked.answers as one (one.value)}
        <p class="flex flex-wrap items-baseline gap-3">
          <span class="text-3xl font-bold">{said(inputPath, input?.unit ?? "", one.value)}</span>
          <span>{input?.label}</span>
          <button class="btn touch btn-outline" onclick={() => onset(inputPath, one.value)}
            >Take it</button
          >
        </p>
      {:else}
        <p class="text-lg font-semibold">
          No {input?.label} was found that does, between {said(
            inputPath,
            input?.unit ?? "",
            asked.from,
          )} and {said(inputPath, input?.unit ?? "", asked.to)}.
        </p>
      {/each}
    </div>
  {/if}
  {#if swept}
    <svg
      bind:this={drawing}
      xmlns="http://www.w3.org/2000/svg"
      viewBox={`0 0 ${width} ${height}`}
      class="block w-full text-[12px] text-base-content select-none"
      role="slider"
      tabindex="0"
      aria-label={`${figure?.label ?? ""} over ${input?.label ?? ""}`}
      aria-valuenow={cursor ?? 0}
      aria-valuemin={0}
      aria-valuemax={swept.x.length - 1}
      aria-valuetext={read
        ? `${said(inputPath, input?.unit ?? "", read.x)}: ${read.y === null ? "refused" : said(figurePath, figure?.unit ?? "", read.y)}`
        : "no place chosen"}
      data-testid="sweep"
      onpointermove={(e) => {
        const box = e.currentTarget.getBoundingClientRect();
        const at = x.invert(((e.clientX - box.left) / box.width) * width);
        cursor = (swept?.x ?? []).reduce(
          (best, v, i) => (Math.abs(v - at) < Math.abs((swept?.x[best] ?? 0) - at) ? i : best),
          0,
        );
      }}
      onkeydown={(e) => {
        const by = { ArrowRight: 1, ArrowUp: 1, ArrowLeft: -1, ArrowDown: -1 }[e.key];
        if (by === undefined) return;
        e.preventDefault();
        cursor = Math.max(0, Math.min((swept?.x.length ?? 1) - 1, (cursor ?? 0) + by));
      }}
    >
      {#each y.ticks(4) as tick (tick)}
        <path
          d={`M${pad.left} ${y(tick)}H${width - pad.right}`}
          stroke="currentColor"
          opacity="0.2"
        />
        <text x={pad.left - 5} y={y(tick) + 4} text-anchor="end" fill="currentColor"
          >{said(figurePath, figure?.unit ?? "", tick)}</text
        >
      {/each}
      {#each x.ticks(5) as tick (tick)}
        <text x={x(tick)} y={height - 6} text-anchor="middle" fill="currentColor"
          >{said(inputPath, input?.unit ?? "", tick)}</text
        >
      {/each}
      {#if value !== undefined && held !== undefined}
        <path
          d={`M${pad.left} ${y(value)}H${width - pad.right}`}
          stroke="currentColor"
          stroke-dasharray="7 4"
        />
      {/if}
      <path d={curve} fill="none" stroke="#a3125f" stroke-width="2.5" />
      {#if read && read.y !== null}
        <circle cx={x(read.x)} cy={y(read.y)} r="6" fill="#a3125f" />
      {/if}
    </svg>
    <p class="font-semibold">
      {#if read}{said(inputPath, input?.unit ?? "", read.x)}: {read.y === null
          ? "refused there"
          : said(figurePath, figure?.unit ?? "", read.y)}{:else}{figure?.label} over {input?.label}{/if}
    </p>
    {#if swept.why}<p class="text-sm faint">Refused somewhere: {swept.why}</p>{/if}
    <p class="flex gap-2">
      <button class="btn touch btn-ghost" onclick={() => save("text/csv", "csv", asTable())}
        >CSV</button
      >
      <button
        class="btn touch btn-ghost"
        onclick={() =>
          drawing && save("image/svg+xml", "svg", new XMLSerializer().serializeToString(drawing))}
        >SVG</button
      >
    </p>
  {/if}
</section>
