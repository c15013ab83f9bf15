<script lang="ts">
  // A stem or limb as it lies, to scale along it: its logs, the saw's places, what carries it.
  import type { GroundPiece } from "../api/client";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import { loggingOf } from "./document";
  import { sized } from "../draw/sized";

  let { session, piece }: { session: Session; piece: GroundPiece } = $props();

  let width = $state(0);
  let part = $derived(piece.parts[0]);
  // The document, not the figures: they follow.
  let supports = $derived(
    session.job.ground?.logs?.find((l) => l.id === piece.id)?.supports_m ?? [],
  );
  const margin = 28;
  const height = 190;
  const axis = 84;
  let long = $derived(part?.length_m ?? 1);
  let scale = $derived(Math.max(1, (width - 2 * margin) / long));
  let thickest = $derived(Math.max(0.01, ...(part?.outline.map((o) => o[1] ?? 0) ?? [])));
  // Thin and long wood is drawn thicker than it is, and says so.
  let across = $derived(Math.min(104, Math.max(34, thickest * scale)) / thickest);
  let fatter = $derived(across / scale > 1.05 ? across / scale : 0);
  let x = $derived((m: number) => margin + m * scale);
  let outline = $derived.by(() => {
    const o = part?.outline ?? [];
    const upper = o.map((p) => `${x(p[0] ?? 0)} ${axis - ((p[1] ?? 0) / 2) * across}`);
    const lower = o.map((p) => `${x(p[0] ?? 0)} ${axis + ((p[1] ?? 0) / 2) * across}`).reverse();
    return `M${[...upper, ...lower].join("L")}Z`;
  });
  const thick = (m: number) => {
    const o = part?.outline ?? [];
    const i = Math.max(
      1,
      o.findIndex((p) => (p[0] ?? 0) >= m),
    );
    const a = o[i - 1] ?? [0, 0];
    const b = o[i] ?? a;
    const f = (m - (a[0] ?? 0)) / ((b[0] ?? 0) - (a[0] ?? 0) || 1) || 0;
    return (((a[1] ?? 0) + f * ((b[1] ?? 0) - (a[1] ?? 0))) / 2) * across;
  };

  let svg = $state<SVGSVGElement | null>(null);
  let held = -1;
  function put(which: number, to: number) {
    const id = piece.id;
    session.drag((job) => {
      const one = loggingOf(job, id);
      const at = [...(one.supports_m ?? [])];
      if (at.length < 2) return;
      const other = at[1 - which] ?? 0;
      let next = Math.round(Math.max(0, Math.min(long, to)) * 20) / 20;
      // They keep their order, a hand apart.
      if (which === 0) next = Math.min(next, other - 0.1);
      else next = Math.max(next, other + 0.1);
      at[which] = Math.round(next * 100) / 100;
      one.supports_m = at;
    });
  }
  function grab(event: PointerEvent, which: number) {
    if (event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    session.hold();
    held = which;
  }
  function pull(event: PointerEvent) {
    if (held < 0) return;
    put(held, (event.clientX - (svg?.getBoundingClientRect().left ?? 0) - margin) / scale);
  }
  function letGo() {
    held = -1;
    session.release();
  }
  function nudge(event: KeyboardEvent, which: number) {
    const step = event.shiftKey ? 0.05 : 0.2;
    const by = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    put(which, (supports[which] ?? 0) + by);
  }
</script>

<div {@attach sized((w) => (width = w))} class="w-full" data-testid="log-view">
  <svg
    bind:this={svg}
    {width}
    {height}
    class="block text-[12px] select-none"
    role="group"
    aria-label={`${piece.title} as it lies, its butt to the left`}
  >
    {#if part && width > 80}
      <line
        x1={0}
        x2={width}
        y1={height - 34}
        y2={height - 34}
        class="stroke-base-content/40"
        stroke-width="2"
      />
      <path d={outline} class="fill-base-300 stroke-base-content" stroke-width="1.5" />
      {#each part.logs as log, i (i)}
        {@const from = x(log.from_m)}
        {@const to = x(log.to_m)}
        <path
          d={`M${from} ${axis - thick(log.from_m)}L${to} ${axis - thick(log.to_m)}L${to} ${axis + thick(log.to_m)}L${from} ${axis + thick(log.from_m)}Z`}
          class={log.lifted === "by neither" ? "fill-warning/45" : "fill-success/30"}
        />
        {#if to - from > 56}
          <text
            x={(from + to) / 2}
            y={axis + 5}
            text-anchor="middle"
            class="fill-base-content halo text-[14px] font-bold"
            >{print("mass", log.mass_kg.likely)}</text
          >
        {/if}
        {#if to - from > 52}
          <text
            x={(from + to) / 2}
            y={axis - thick(log.from_m) - 8}
            text-anchor="middle"
            class="fill-base-content">{print("height", log.length_m)}</text
          >
        {/if}
      {/each}
      {#each part.cuts as cut, i (cut.at_m)}
        {@const at = x(cut.at_m)}
        {@const half = thick(cut.at_m) + 8}
        <line
          x1={at}
          x2={at}
          y1={axis - half}
          y2={axis + half}
          class="stroke-error"
          stroke-width="2.5"
        />
        {#if cut.begin}
          <!-- Where to begin: the pressed side. -->
          <path
            d={cut.begin === "top"
              ? `M${at - 7} ${axis - half - 11}L${at} ${axis - half}L${at + 7} ${axis - half - 11}Z`
              : `M${at - 7} ${axis + half + 11}L${at} ${axis + half}L${at + 7} ${axis + half + 11}Z`}
            class="fill-error"
          />
        {/if}
        {#if part.cuts.length <= 12}
          <text
            x={at}
            y={cut.begin === "top" ? axis - half - 15 : axis - half - 4}
            text-anchor="middle"
            class="fill-error halo font-bold">{i + 1}</text
          >
        {/if}
      {/each}
      {#each supports as at, which (which)}
        <g
          role="slider"
          tabindex="0"
          aria-label={which === 0
            ? "What carries it towards the butt"
            : "What carries it further out"}
          aria-valuemin={0}
          aria-valuemax={Math.round(long * 100) / 100}
          aria-valuenow={at}
          aria-valuetext={`${print("height", at)} from the butt`}
          class="group cursor-ew-resize touch-none outline-none"
          onpointerdown={(e) => grab(e, which)}
          onpointermove={pull}
          onpointerup={letGo}
          onpointercancel={letGo}
          onkeydown={(e) => nudge(e, which)}
          onkeyup={() => session.release()}
          onblur={() => session.release()}
        >
          <circle cx={x(at)} cy={height - 46} r="24" fill="transparent" />
          <path
            d={`M${x(at)} ${axis + thick(at)}L${x(at) + 13} ${height - 34}L${x(at) - 13} ${height - 34}Z`}
            class="fill-base-content stroke-primary stroke-0 group-focus-visible:stroke-[4px]"
          />
          <text
            x={x(at)}
            y={height - 18}
            text-anchor="middle"
            class="fill-base-content halo font-semibold">{print("height", at)}</text
          >
        </g>
      {/each}
      <text x={margin} y={height - 2} class="fill-base-content">butt</text>
      <text x={width - margin} y={height - 2} text-anchor="end" class="fill-base-content">
        {fatter ? `drawn ${fatter.toFixed(1)} times thicker than to scale · ` : ""}{print(
          "height",
          long,
        )}
      </text>
    {/if}
  </svg>
</div>
