<script lang="ts">
  import { scaleLinear } from "d3-scale";
  import { path } from "../draw/view";
  import { figure, print } from "../reference.svelte";
  import type { Assessment } from "../api/client";
  import type { Session } from "../session/session.svelte";
  import Across from "./Across.svelte";
  import Axes from "./Axes.svelte";
  import Course from "./Course.svelte";
  import Fall from "./Fall.svelte";
  import Hook from "./Hook.svelte";
  import Lies from "./Lies.svelte";
  import Reel from "./Reel.svelte";
  import { sized } from "../draw/sized";

  // What is beneath the tree belongs to the way down: a drop, a fall, both lines, the hook's chart
  // or where it lies.
  let { session, assessment }: { session: Session; assessment: Assessment } = $props();

  let width = $state(0);
  let spreading = $state(false);
  const height = 104;
  const pad = { left: 34, right: 92, top: 8, bottom: 16 };

  let trace = $derived(session.trace);
  let detail = $derived(session.detail);
  let series = $derived(trace?.run?.series);
  let end = $derived(series?.t_s.at(-1) ?? 1);
  let most = $derived(
    Math.max(
      0.1,
      trace?.run?.block_peak_kn ?? 0,
      trace?.run?.ceiling_kn ?? 0,
      trace?.spread?.p99_kn ?? 0,
      Math.min(trace?.block_limit_kn ?? 0, 3 * (trace?.run?.block_peak_kn ?? 0)),
      Math.min(trace?.line_limit_kn ?? 0, 3 * (trace?.run?.block_peak_kn ?? 0)),
    ) * 1.08,
  );
  let x = $derived(scaleLinear([0, end], [pad.left, Math.max(pad.left + 10, width - pad.right)]));
  let y = $derived(scaleLinear([0, most], [height - pad.bottom, pad.top]));
  let curve = $derived((values: number[]) =>
    path(
      values.map((v, i) => ({ x: x(series?.t_s[i] ?? 0), y: y(v) })),
      false,
    ),
  );
  let now = $derived.by(() => {
    if (!series) return null;
    const after = series.t_s.findIndex((t) => t >= session.at);
    const i = after < 0 ? series.t_s.length - 1 : after;
    return { line: series.line_kn[i] ?? 0, block: series.block_kn[i] ?? 0 };
  });
  let phase = $derived(trace?.run?.phases.filter((p) => p.at_s <= session.at).at(-1)?.name ?? "");

  async function spread() {
    spreading = true;
    await session.simulate(400);
    spreading = false;
  }

  function scrub(event: PointerEvent) {
    if (event.buttons !== 1) return;
    const box = (event.currentTarget as Element).getBoundingClientRect();
    session.at = Math.max(0, Math.min(end, x.invert(event.clientX - box.left)));
  }

  let limits = $derived(
    [
      { name: "line limit", kn: trace?.line_limit_kn ?? null, tone: "stroke-info" },
      { name: "block limit", kn: trace?.block_limit_kn ?? null, tone: "stroke-base-content" },
    ].filter((l): l is { name: string; kn: number; tone: string } => l.kn !== null && l.kn <= most),
  );
</script>

<section
  class={[
    "shrink-0 overflow-hidden border-t border-base-300",
    trace?.fall ? "h-[212px]" : "h-[178px]",
  ]}
  aria-label="How it comes down"
  data-testid="trace"
>
  {#if trace?.fall}
    <Fall {session} {trace} />
    {#each trace.cautions.slice(0, 1) as caution, at (at)}
      <p class="mx-3 mb-1 truncate border-l-4 border-warning pl-2 text-xs" title={caution}>
        {caution}
      </p>
    {/each}
  {:else if trace?.course}
    <Course {session} {trace} />
  {:else if trace && series && trace.run}
    <div class="flex items-center gap-2 px-2 pt-1 text-sm">
      <Reel {session} {end} {phase} />
      <span class="shrink-0 max-xl:hidden">
        <b class="text-info">line</b>
        {print("force", now?.line ?? 0)} · <b>block</b>
        {print("force", now?.block ?? 0)}
      </span>
      <button
        class="btn touch btn-outline px-2"
        disabled={spreading || trace.kind !== "drop"}
        onclick={spread}>{spreading ? "Spreading" : "Spread"}</button
      >
    </div>
    <div class="w-full" {@attach sized((w) => (width = w))}>
      <svg
        {width}
        {height}
        class="block touch-none text-[11px] select-none"
        role="img"
        aria-label={`Line and block force through time. Line peak ${print("force", trace.run.line_peak_kn ?? 0)}, ceiling ${print("force", trace.run.ceiling_kn)}.`}
        onpointerdown={scrub}
        onpointermove={scrub}
      >
        {#if width > 100}
          <Axes {x} {y} {width} {height} {pad} forces={4} />
          <text x={width - pad.right + 4} y={height - 3} class="fill-[var(--faint)]">s</text>
          {#if trace.spread}
            <rect
              x={pad.left}
              y={y(trace.spread.p95_kn)}
              width={Math.max(0, width - pad.left - pad.right)}
              height={Math.max(1, y(trace.spread.p50_kn) - y(trace.spread.p95_kn))}
              class="fill-info/20"
            />
            <text
              x={width - pad.right + 4}
              y={y(trace.spread.p95_kn) + 4}
              class="fill-info font-bold"
              data-testid="p95">p95 {print("force", trace.spread.p95_kn)}</text
            >
          {/if}
          {#each limits as limit, at (at)}
            <path
              d={`M${pad.left} ${y(limit.kn)}H${width - pad.right}`}
              class={limit.tone}
              stroke-width="1.4"
              stroke-dasharray="7 4"
            />
            <text x={width - pad.right + 4} y={y(limit.kn) + 4} class="fill-base-content"
              >{limit.name}</text
            >
          {/each}
          <path
            d={`M${pad.left} ${y(trace.run.ceiling_kn)}H${width - pad.right}`}
            class="stroke-primary"
            stroke-width="1"
            stroke-dasharray="2 3"
          />
          {#if !trace.spread}
            <text x={width - pad.right + 4} y={y(trace.run.ceiling_kn) + 4} class="fill-primary"
              >ceiling {figure("force", trace.run.ceiling_kn)}</text
            >
          {/if}
          <path
            d={curve(series.block_kn)}
            fill="none"
            class="stroke-base-content"
            stroke-width="1.5"
          />
          <path d={curve(series.line_kn)} fill="none" class="stroke-info" stroke-width="2.2" />
          <path
            d={`M${x(session.at)} ${pad.top}V${height - pad.bottom}`}
            class="stroke-primary"
            stroke-width="1.6"
          />
        {/if}
      </svg>
    </div>
    {#each trace.cautions as caution, at (at)}
      <p class="mx-3 mb-1 truncate border-l-4 border-warning pl-2 text-xs" title={caution}>
        {caution}
      </p>
    {/each}
  {:else if detail?.lift}
    <Hook lift={detail.lift} />
  {:else if detail?.carried?.length}
    <Across carried={detail.carried} />
  {:else if detail?.landing}
    <Lies
      {session}
      {assessment}
      {detail}
      landing={detail.landing}
      why={detail.fell ? (trace?.why ?? "") : ""}
    />
  {:else}
    <p class="px-4 py-3 text-sm faint">
      {trace?.why || (session.pick ? "Following the drop" : "Choose a pick to follow its drop.")}
    </p>
  {/if}
</section>
