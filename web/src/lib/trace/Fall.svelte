<script lang="ts">
  // A felling followed through time: what its lines carry against the tilt, and what the pull
  // must be until the tree goes alone.
  import { scaleLinear } from "d3-scale";
  import type { Trace } from "../api/client";
  import { path } from "../draw/view";
  import { figure, print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Axes from "./Axes.svelte";
  import Reel from "./Reel.svelte";
  import { sized } from "../draw/sized";

  let { session, trace }: { session: Session; trace: Trace } = $props();

  let width = $state(0);
  let spreading = $state(false);
  const height = 84;
  const pad = { left: 34, right: 112, top: 8, bottom: 16 };

  let fall = $derived(trace.fall);
  let end = $derived(Math.max(2, fall?.highest_deg ?? 0, fall?.goes_alone_deg ?? 0));
  let most = $derived(
    Math.max(
      0.1,
      ...(fall?.lines ?? []).map((one) => one.peak_kn),
      ...(trace.need ?? []).map((one) => one.pull_kn),
    ) * 1.1,
  );
  let x = $derived(scaleLinear([0, end], [pad.left, Math.max(pad.left + 10, width - pad.right)]));
  let y = $derived(scaleLinear([0, most], [height - pad.bottom, pad.top]));
  let curves = $derived(
    (fall?.series.lines ?? []).map((values) =>
      path(
        values.map((v, i) => ({ x: x(fall?.series.tilt_deg[i] ?? 0), y: y(v) })),
        false,
      ),
    ),
  );
  let need = $derived(
    path(
      (trace.need ?? []).map((one) => ({ x: x(one.tilt_deg), y: y(one.pull_kn) })),
      false,
    ),
  );
  // Where it is at the moment of the film.
  let now = $derived.by(() => {
    const series = fall?.series;
    if (!series || session.at <= 0) return null;
    const after = series.t_s.findIndex((t) => t >= session.at);
    return series.tilt_deg[after < 0 ? series.t_s.length - 1 : after] ?? null;
  });
  let phase = $derived(fall?.phases.filter((p) => p.at_s <= session.at).at(-1)?.name ?? "");
  let odds = $derived(
    Object.entries(trace.odds?.outcomes_pct ?? {})
      .filter(([, pct]) => pct > 0)
      .sort((a, b) => b[1] - a[1])
      .map(([outcome, pct]) => `${outcome} ${Math.round((pct * (trace.odds?.runs ?? 0)) / 100)}`)
      .join(", "),
  );

  async function spread() {
    spreading = true;
    await session.simulate(100);
    spreading = false;
  }
</script>

<div class="flex h-12 items-center gap-2 px-3 text-sm">
  <p class="line-clamp-2 min-w-0 grow leading-snug font-semibold">
    {trace.said}
    {#if trace.odds}<span class="font-normal">Of {trace.odds.runs}: {odds}.</span>{/if}
  </p>
  <button class="btn touch btn-outline px-2" disabled={spreading} onclick={spread}
    >{spreading ? "Spreading" : "Spread"}</button
  >
</div>
{#if fall}
  <div class="flex items-center gap-2 px-2 text-sm">
    <Reel {session} end={fall.time_s} {phase} speed={fall.time_s > 20 ? 4 : 1} />
  </div>
{/if}
<div class="w-full" {@attach sized((w) => (width = w))}>
  <svg
    {width}
    {height}
    class="block text-[11px] select-none"
    role="img"
    aria-label={`Tension of the lines by tilt. ${trace.said}`}
  >
    {#if width > 100 && fall}
      <Axes {x} {y} {width} {height} {pad} forces={3} unit="°" />
      {#if fall.goes_alone_deg}
        <path
          d={`M${x(fall.goes_alone_deg)} ${pad.top}V${height - pad.bottom}`}
          class="stroke-success"
          stroke-width="1.4"
          stroke-dasharray="5 4"
        />
        <text x={x(fall.goes_alone_deg) + 4} y={pad.top + 8} class="fill-success font-bold"
          >goes alone</text
        >
      {/if}
      <path d={need} class="fill-none stroke-primary" stroke-width="1.6" stroke-dasharray="3 3" />
      {#if trace.need?.length}
        <text x={width - pad.right + 4} y={y(trace.need[0]?.pull_kn ?? 0) + 4} class="fill-primary"
          >need {figure("force", trace.need[0]?.pull_kn ?? 0)}</text
        >
      {/if}
      {#if now !== null}
        <path
          d={`M${x(Math.min(end, now))} ${pad.top}V${height - pad.bottom}`}
          class="stroke-primary"
          stroke-width="1.6"
        />
      {/if}
      {#each curves as curve, i (i)}
        <path
          d={curve}
          class={i === 0 ? "fill-none stroke-info" : "fill-none stroke-base-content"}
          stroke-width="2"
        />
        <text
          x={width - pad.right + 4}
          y={height - pad.bottom - 12 * i}
          class={i === 0 ? "fill-info font-bold" : "fill-base-content font-bold"}
          >{print("force", fall.lines[i]?.peak_kn ?? 0)} {fall.lines[i]?.name}</text
        >
      {/each}
    {/if}
  </svg>
</div>
