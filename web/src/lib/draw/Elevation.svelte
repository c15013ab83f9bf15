<script lang="ts">
  import { scaleLinear } from "d3-scale";
  import type { Assessment } from "../api/client";
  import { figure, print, unitOf } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import { corners, markStep, outline, widthAt } from "./geometry";

  interface Props {
    session: Session;
    assessment: Assessment;
    /** The whole stem from the ground, or the piece and its rig close up. */
    view: "whole" | "close";
  }

  let { session, assessment, view }: Props = $props();

  let width = $state(0);
  let height = $state(0);
  let svg = $state<SVGSVGElement>();

  const margin = { top: 26, bottom: 34 };
  // The weight stands above the close view.
  let above = $derived(view === "close" ? 70 : margin.top);

  let stem = $derived(assessment.stem);
  let settings = $derived(assessment.settings);
  let piece = $derived(assessment.piece);
  let caught = $derived(assessment.catch);
  let room = $derived(assessment.room);
  let cut = $derived(session.job.cut.at_m ?? settings.cut_at_m);
  let bottom = $derived(stem[0]?.at_m ?? 0);
  let top = $derived(stem.at(-1)?.at_m ?? 1);

  // The close view follows the cut, but holds still while something is in hand.
  let held = $state<{ low: number; high: number } | null>(null);
  let range = $derived.by(() => {
    if (view === "whole") return { low: 0, high: top * 1.02 };
    if (held) return held;
    const below = settings.block_below_cut_m + Math.max(0.8, (top - cut) * 0.25);
    return { low: Math.max(0, cut - below), high: top + (top - cut) * 0.06 };
  });
  let scale = $derived.by(() => {
    const tall = Math.max(60, height - above - margin.bottom);
    const thick = widthAt(stem, Math.max(bottom, range.low)).outside;
    const perMetre = Math.min(tall / (range.high - range.low), (width * 0.26) / thick);
    const used = perMetre * (range.high - range.low);
    return scaleLinear()
      .domain([range.low, range.high])
      .range([height - margin.bottom, height - margin.bottom - used]);
  });
  let perMetre = $derived(Math.abs(scale(1) - scale(0)));
  let narrow = $derived(width < 200);
  let gripWidth = $derived(narrow ? 48 : 66);
  let axis = $derived(view === "whole" ? width * (narrow ? 0.5 : 0.45) : (width - 40) * 0.44);
  let y = $derived((z: number) => scale(z));
  let place = $derived((across: number, z: number) => ({
    x: axis + across * perMetre,
    y: scale(z),
  }));

  let standing = $derived(corners(stem, Math.max(bottom, range.low), Math.max(cut, range.low)));
  let taken = $derived(corners(stem, cut, top));
  let outside = $derived((z: number) => widthAt(stem, z).outside);
  let cavity = $derived((z: number) => widthAt(stem, z).cavity);
  let hollow = $derived(
    corners(stem, Math.max(bottom, range.low), top).filter((z, i, all) => {
      return cavity(z) > 0 || cavity(all[i - 1] ?? z) > 0 || cavity(all[i + 1] ?? z) > 0;
    }),
  );

  let marks = $derived.by(() => {
    const unit = unitOf("height").factor;
    const step = markStep(perMetre, view === "whole" ? 44 : 60, unit);
    const list: number[] = [];
    for (let z = Math.ceil(range.low / step) * step; z <= range.high + 1e-9; z += step)
      list.push(z);
    return { step, list };
  });

  // Bark: short strokes along the shaded side, the same every time.
  let bark = $derived.by(() => {
    const strokes: string[] = [];
    const from = Math.max(bottom, range.low);
    const gap = Math.max(0.12, 7 / perMetre);
    for (let z = from + gap / 2, i = 0; z < top - gap / 2; z += gap, i++) {
      const half = outside(z) / 2;
      const inset = half * (0.14 + 0.3 * ((i * 37) % 11) * 0.09);
      const long = gap * (0.5 + 0.06 * ((i * 53) % 7));
      const a = place(half - inset, z);
      const b = place(half - inset * 0.82, z + long);
      strokes.push(`M${a.x.toFixed(1)} ${a.y.toFixed(1)}L${b.x.toFixed(1)} ${b.y.toFixed(1)}`);
    }
    return strokes.join("");
  });

  let tieAt = $derived(cut + settings.tie_above_cut_m);
  let blockAt = $derived(cut - settings.block_below_cut_m);
  let deviceAt = $derived(settings.device_at_m);
  const out = 11;
  let tie = $derived({ x: axis + (outside(Math.min(top, tieAt)) / 2) * perMetre, y: y(tieAt) });
  let block = $derived({
    x: axis + (outside(Math.max(bottom, blockAt)) / 2) * perMetre + out,
    y: y(blockAt),
  });
  let device = $derived({
    x: axis + (outside(Math.max(bottom, deviceAt)) / 2) * perMetre + out - 3,
    y: y(deviceAt),
  });
  let hand = $derived({
    x: Math.min(width - 26, device.x + 62),
    y: y(0) - Math.min(34, perMetre * 1.3),
  });
  let slackBow = $derived(8 + Math.min(34, settings.slack_m * perMetre));

  // Where the caught piece hangs: its lower end at the lowest point, beside the stem.
  let ghost = $derived.by(() => {
    if (!piece || !caught || !room || room.lowest_at_m === null) return null;
    const low = room.lowest_at_m;
    const x = block.x + 8 + (outside(cut) / 2) * perMetre;
    const flipped = caught.tip_down;
    const heights = corners(stem, cut, top).map((z) =>
      flipped ? low + (top - z) : low + (z - cut),
    );
    const at = (h: number) => outside(flipped ? top - (h - low) : cut + (h - low));
    heights.sort((a, b) => a - b);
    const path = outline(heights, at, (across, z) => ({ x: x + across * perMetre, y: scale(z) }));
    return { path, x, low, high: low + (top - cut) };
  });

  // Sizes are heard of after the first layout: nothing is drawn twice, and no layout
  // is forced.
  function sized(box: Element) {
    const observer = new ResizeObserver(([entry]) => {
      width = entry?.contentRect.width ?? 0;
      height = entry?.contentRect.height ?? 0;
    });
    observer.observe(box);
    return () => observer.disconnect();
  }

  function clampCut(z: number): number {
    const least = Math.max(bottom, 0) + 0.01;
    return Math.round(Math.max(least, Math.min(top - 0.01, z)) * 100) / 100;
  }

  function moveCut(z: number) {
    session.drag((job) => {
      job.cut.at_m = clampCut(z);
    });
  }

  let grabbed = 0;
  function grab(event: PointerEvent) {
    if (event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    held = { ...range };
    session.hold();
    grabbed = heightAt(event) - cut;
  }
  function heightAt(event: PointerEvent): number {
    const box = svg?.getBoundingClientRect();
    return scale.invert(event.clientY - (box?.top ?? 0));
  }
  function pull(event: PointerEvent) {
    if (held) moveCut(heightAt(event) - grabbed);
  }
  function letGo() {
    if (!held) return;
    held = null;
    session.release();
  }

  function nudge(event: KeyboardEvent) {
    const fine = event.shiftKey ? 0.01 : 0.1;
    const by: Record<string, number> = {
      ArrowUp: fine,
      ArrowRight: fine,
      ArrowDown: -fine,
      ArrowLeft: -fine,
      PageUp: 1,
      PageDown: -1,
      Home: -1000,
      End: 1000,
    };
    const step = by[event.key];
    if (step === undefined) return;
    event.preventDefault();
    moveCut(cut + step);
  }
</script>

<div class="relative h-full min-h-0 w-full overflow-hidden" {@attach sized}>
  <svg
    bind:this={svg}
    {width}
    {height}
    class="absolute inset-0 block select-none"
    role="group"
    aria-label={view === "whole"
      ? "The stem in elevation, to scale"
      : "The piece and its rig, close up, to scale"}
  >
    {#if width > 80 && height > 160}
      <!-- Height marks -->
      <g class="text-[11px]">
        {#each marks.list as z (z)}
          <line x1="0" x2="7" y1={y(z)} y2={y(z)} class="stroke-base-content" stroke-width="1" />
          <line
            x1="7"
            x2={width}
            y1={y(z)}
            y2={y(z)}
            class="stroke-base-300"
            stroke-width="0.5"
            stroke-dasharray="1 5"
          />
          <text x="10" y={y(z) + 4} class="fill-[var(--faint)]"
            >{figure("height", z).replace(/\.0+$/, "")}</text
          >
        {/each}
        <text x="2" y="14" class="fill-[var(--faint)] font-semibold">
          {unitOf("height").label} above ground
        </text>
      </g>

      <!-- Ground -->
      {#if range.low <= 0}
        <path d={`M0 ${y(0)}H${width}`} class="stroke-base-content" stroke-width="1.5" />
        {#each Array.from({ length: Math.ceil(width / 14) }, (_, i) => i * 14) as x (x)}
          <path
            d={`M${x + 8} ${y(0)}l-7 8`}
            class="stroke-base-content"
            stroke-width="0.8"
            opacity="0.6"
          />
        {/each}
      {/if}

      {#if ghost}
        <g opacity="0.9">
          <path
            d={ghost.path}
            class="fill-primary/5 stroke-primary"
            stroke-width="1"
            stroke-dasharray="5 4"
          />
          {#if view === "whole"}
            <path
              d={`M${ghost.x} ${y(ghost.low)}V${y(0)}`}
              class="stroke-base-content"
              stroke-width="0.8"
              stroke-dasharray="2 3"
            />
            <text
              x={ghost.x + 6}
              y={(y(ghost.low) + y(0)) / 2 + 4}
              class="fill-base-content text-[12px] font-semibold"
            >
              {print("height", ghost.low)}
            </text>
          {/if}
        </g>
      {/if}

      <!-- Below the lowest reading nothing was measured -->
      {#if range.low < bottom}
        {@const foot = (outside(bottom) / 2) * perMetre}
        <path
          d={`M${axis - foot} ${y(bottom)}L${axis - foot * 1.06} ${y(0)}M${axis + foot} ${y(bottom)}L${axis + foot * 1.06} ${y(0)}`}
          class="stroke-base-content"
          stroke-width="1.2"
          stroke-dasharray="3 3"
          fill="none"
        />
      {/if}

      <!-- The stem that stays, then the piece -->
      {#if cut > range.low}
        <path
          d={outline(standing, outside, place)}
          class="fill-[var(--wood)] stroke-base-content"
          stroke-width="1.5"
          stroke-linejoin="round"
        />
      {/if}
      <path
        d={outline(taken, outside, place)}
        class="fill-primary/15 stroke-primary"
        stroke-width="2"
        stroke-linejoin="round"
      />
      <path d={bark} class="stroke-base-content" stroke-width="0.8" fill="none" opacity="0.45" />
      {#if hollow.length > 1}
        <path
          d={outline(hollow, cavity, place)}
          fill="none"
          class="stroke-base-content"
          stroke-width="1.3"
          stroke-dasharray="5 3.5"
        />
      {/if}

      <!-- What hangs on the stem -->
      {#each session.job.tree.attached ?? [] as lump, i (i)}
        {#if lump.at_m >= range.low && lump.at_m <= top}
          {@const x = axis - (outside(lump.at_m) / 2) * perMetre}
          <path
            d={`M${x} ${y(lump.at_m)}l-9 -5m9 5l-11 0m11 0l-9 5`}
            class="stroke-success"
            stroke-width="1.6"
            fill="none"
            ><title>{lump.label || "hangs on the stem"}, {print("mass", lump.mass_kg)}</title></path
          >
        {/if}
      {/each}

      <!-- The line's way: tie, block, device, hand -->
      {#if caught}
        <g fill="none" class="stroke-info" stroke-width="2.2" stroke-linecap="round">
          <path
            d={`M${tie.x} ${tie.y}C${tie.x + slackBow} ${tie.y} ${block.x + slackBow} ${block.y + 4} ${block.x} ${block.y}`}
          />
          <path d={`M${block.x} ${block.y}L${device.x} ${device.y}`} />
          {#if range.low <= 0}<path
              d={`M${device.x} ${device.y}Q${(device.x + hand.x) / 2} ${hand.y + 14} ${hand.x} ${hand.y}`}
            />{/if}
        </g>
      {/if}
      {#if piece}
        <!-- Tie: a turn round the piece -->
        {@const half = (outside(Math.min(top, tieAt)) / 2) * perMetre}
        <path
          d={`M${axis - half - 2} ${y(tieAt)}q${half + 2} 6 ${2 * half + 4} 0`}
          fill="none"
          class="stroke-info"
          stroke-width="3.5"
          stroke-linecap="round"
        />
        <!-- Block and its sling -->
        {@const bh = (outside(Math.max(bottom, blockAt)) / 2) * perMetre}
        <path
          d={`M${axis - bh - 2} ${y(blockAt) - 3}q${bh + 2} 6 ${2 * bh + 4} 0L${block.x} ${block.y}`}
          fill="none"
          class="stroke-base-content"
          stroke-width="2.5"
          stroke-linecap="round"
        />
        <circle
          cx={block.x}
          cy={block.y}
          r="6.5"
          class="fill-base-100 stroke-base-content"
          stroke-width="2.2"
        />
        <circle cx={block.x} cy={block.y} r="1.8" class="fill-base-content" />
        {#if range.low <= deviceAt}
          {@const dh = (outside(Math.max(bottom, deviceAt)) / 2) * perMetre}
          <path
            d={`M${axis - dh - 2} ${y(deviceAt)}H${axis + dh}`}
            class="stroke-base-content"
            stroke-width="2.5"
          />
          <rect
            x={device.x - 5}
            y={device.y - 9}
            width="10"
            height="18"
            rx="2"
            class="fill-base-100 stroke-base-content"
            stroke-width="2"
          />
          <path
            d={`M${device.x - 5} ${device.y - 3}h10m-10 4h10m-10 4h10`}
            class="stroke-info"
            stroke-width="1.6"
          />
        {/if}
        {#if range.low <= 0 && settings.how !== "locked" && caught}
          <circle cx={hand.x} cy={hand.y} r="3.5" class="fill-info" />
          <text x={hand.x} y={hand.y - 8} text-anchor="middle" class="fill-base-content text-[11px]"
            >hand</text
          >
        {/if}
        <!-- Centre of gravity -->
        <g transform={`translate(${axis} ${y(piece.cog_m)})`}>
          <circle r="6.5" class="fill-base-100 stroke-primary" stroke-width="1.6" />
          <path
            d="M0 -6.5A6.5 6.5 0 0 1 6.5 0H0ZM0 6.5A6.5 6.5 0 0 1 -6.5 0H0Z"
            class="fill-primary"
          />
        </g>
      {/if}

      {#if view === "close" && piece}
        {@const right = Math.min(width - 96, axis + (outside(cut) / 2) * perMetre + slackBow + 24)}
        {@const rows = [
          { z: piece.cog_m, name: "balance", by: piece.cog_above_cut_m },
          { z: tieAt, name: "tie", by: settings.tie_above_cut_m },
          { z: blockAt, name: "to block", by: settings.block_below_cut_m },
        ]}
        <g class="text-[12px]">
          {#each rows as row (row.name)}
            <path d={`M${right - 8} ${y(row.z)}h6`} class="stroke-base-content" stroke-width="1" />
            <text x={right + 2} y={y(row.z) + 4} class="fill-base-content">
              <tspan class="font-bold">{print("height", row.by)}</tspan>
              {row.name}
            </text>
          {/each}
          <path d={`M${right - 8} ${y(cut)}h6`} class="stroke-primary" stroke-width="1" />
          <text x={right + 2} y={y(cut) + 4} class="fill-primary font-semibold">
            {print("diameter", piece.diameter_at_cut_m)} at cut
          </text>
        </g>
        <!-- Length of the piece -->
        {@const left = axis - (outside(cut) / 2) * perMetre - 26}
        <g class="stroke-base-content" stroke-width="1">
          <path
            d={`M${left} ${y(cut)}V${y(top)}M${left - 4} ${y(cut) + 4}l8 -8M${left - 4} ${y(top) + 4}l8 -8`}
            fill="none"
          />
        </g>
        <text
          transform={`translate(${left - 8} ${(y(cut) + y(top)) / 2}) rotate(-90)`}
          text-anchor="middle"
          class="fill-base-content text-[14px] font-bold">{print("height", piece.length_m)}</text
        >
      {/if}

      <!-- The cut: drag it, or move it with the keys -->
      {#if stem.length > 1}
        {@const half = (outside(cut) / 2) * perMetre}
        {@const grip = Math.max(
          gripWidth / 2 + (narrow ? 1 : 13),
          axis - half - (view === "close" ? 84 : 58),
        )}
        <g
          role="slider"
          tabindex="0"
          aria-label="Height of the cut"
          aria-orientation="vertical"
          aria-valuemin={bottom}
          aria-valuemax={top}
          aria-valuenow={cut}
          aria-valuetext={print("height", cut)}
          class="group cursor-ns-resize touch-none outline-none"
          data-testid={`cut-${view}`}
          onpointerdown={grab}
          onpointermove={pull}
          onpointerup={letGo}
          onpointercancel={letGo}
          onkeydown={nudge}
          onkeyup={() => session.release()}
          onblur={() => session.release()}
        >
          <rect
            x={grip - gripWidth / 2}
            y={y(cut) - 22}
            width={axis + half + 12 - grip + gripWidth / 2}
            height="44"
            fill="transparent"
          />
          <path
            d={`M${grip + gripWidth / 2} ${y(cut)}H${axis + half + 10}`}
            class="stroke-primary"
            stroke-width="2.5"
            stroke-dasharray="9 4"
          />
          <rect
            x={grip - gripWidth / 2}
            y={y(cut) - 14}
            width={gripWidth}
            height="28"
            rx="4"
            class="fill-primary stroke-base-content stroke-0 group-focus-visible:stroke-[3px]"
          />
          <text
            x={grip}
            y={y(cut) + 5}
            text-anchor="middle"
            class="fill-primary-content text-[14px] font-bold"
          >
            {figure("height", cut)}
          </text>
        </g>
      {/if}

      <!-- Scale bar -->
      {#if perMetre > 0}
        {@const long = markStep(perMetre, 30, unitOf("height").factor)}
        <g transform={`translate(${width - 14 - long * perMetre} ${height - 10})`}>
          <path
            d={`M0 -4V0H${long * perMetre}V-4`}
            fill="none"
            class="stroke-base-content"
            stroke-width="1.5"
          />
          <text
            x={(long * perMetre) / 2}
            y="-4"
            text-anchor="middle"
            class="fill-base-content text-[11px]"
            >{print("height", long).replace(/\.0+ /, " ")}</text
          >
        </g>
      {/if}
    {/if}
  </svg>
</div>
