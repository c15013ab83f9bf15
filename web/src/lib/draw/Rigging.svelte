<script lang="ts">
  import type { Detail } from "../api/client";
  import { figure, print } from "../reference.svelte";
  import { across, path, put, type Place, type View } from "./view";

  interface Props {
    detail: Detail;
    view: View;
    width: number;
    /** Where the stem stands on the drawing at a height. */
    stemAt: (z: number) => number;
    /** The plumb mark of the balance was pressed. */
    onplumb: () => void;
  }

  let { detail, view, width, stemAt, onplumb }: Props = $props();

  let at = $derived((place: Place) => put(view, place));
  let piece = $derived(detail.piece);
  let way = $derived(detail.way.map((p) => at(p)));

  // Lines straight up and down the stem are drawn beside it, so that they can be seen.
  const aside = 9;
  let line = $derived(
    detail.line.map((point) => {
      const p = at(point.at);
      const onAxis = Math.abs(p.x - stemAt(point.at.z)) < aside;
      return { ...point, x: onAxis && point.name !== "tie" ? p.x + aside : p.x, y: p.y };
    }),
  );
  let legs = $derived(
    line.slice(0, -1).map((from, i) => {
      const to = line[i + 1] as (typeof line)[number];
      return { from, to, mx: (from.x + to.x) / 2, my: (from.y + to.y) / 2 };
    }),
  );

  // Where it hangs at its lowest: as long as it is, beside the stem when it is under it.
  let ghost = $derived.by(() => {
    const hang = detail.hang;
    if (!hang || !piece) return null;
    const x = view.axis + across(view, hang) * view.perMetre + 14;
    const low = view.ground - hang.low_m * view.perMetre;
    const tie = view.ground - hang.tie_m * view.perMetre;
    const wide = Math.max(5, piece.diameter_at_cut_m * view.perMetre * 0.8);
    return { x, low, tie, high: low - piece.length_m * view.perMetre, wide };
  });

  // Where it has swung or been carried to: hanging at the far end of its way.
  let away = $derived.by(() => {
    const end = way.at(-1);
    if (!end || !piece) return null;
    const turned = piece.cog_m > detail.settings.tie_m;
    const below = turned ? piece.length_m - detail.settings.tie_m : detail.settings.tie_m;
    const wide = Math.max(5, piece.diameter_at_cut_m * view.perMetre * 0.8);
    return {
      x: end.x,
      low: end.y + below * view.perMetre,
      long: piece.length_m * view.perMetre,
      wide,
    };
  });
</script>

<!-- Looked at, not touched. -->
<g class="pointer-events-none">
  {#if way.length > 1}
    <path
      d={path(way, false)}
      fill="none"
      class="stroke-primary"
      stroke-width="1.4"
      stroke-dasharray="2 5"
      stroke-linecap="round"
    />
  {/if}
  {#if away}
    <rect
      x={away.x - away.wide / 2}
      y={away.low - away.long}
      width={away.wide}
      height={away.long}
      rx="3"
      class="fill-none stroke-primary"
      stroke-width="1"
      stroke-dasharray="2 4"
      opacity="0.8"
    />
  {/if}
  {#if ghost && detail.hang}
    <rect
      x={ghost.x - ghost.wide / 2}
      y={ghost.high}
      width={ghost.wide}
      height={ghost.low - ghost.high}
      rx="3"
      class="fill-primary/5 stroke-primary"
      stroke-width="1"
      stroke-dasharray="5 4"
    />
    <path
      d={`M${ghost.x} ${ghost.low}V${view.ground}`}
      class="stroke-base-content"
      stroke-width="0.8"
      stroke-dasharray="2 3"
    />
    {#if view.ground - ghost.low > 16}
      <text
        x={ghost.x + 6}
        y={(ghost.low + view.ground) / 2 + 4}
        class="fill-base-content halo text-[12px] font-semibold"
      >
        {print("height", detail.hang.low_m)}
      </text>
    {/if}
  {/if}
  {#if detail.tag}
    {@const tied = at(detail.tag.at)}
    {@const cut = at(detail.tag.cut)}
    {@const tip = at(detail.tag.tip)}
    {@const hand = at(detail.tag.towards)}
    <g data-testid="tag-line">
      <path
        d={path([cut, tip], false)}
        class="stroke-primary"
        stroke-width={Math.max(4, (piece?.diameter_at_cut_m ?? 0.1) * view.perMetre * 0.7)}
        opacity="0.25"
      />
      <path
        d={path([tied, hand], false)}
        class="fill-none stroke-info"
        stroke-width="1.6"
        stroke-dasharray="1 5"
        stroke-linecap="round"
      />
      <circle cx={tied.x} cy={tied.y} r="3.5" class="fill-info" />
      <text
        x={Math.max(4, Math.min(width - 60, tied.x + (hand.x - tied.x) * 0.35 + 6))}
        y={tied.y + (hand.y - tied.y) * 0.35 - 4}
        class="fill-info halo text-[12px] font-bold">tag {figure("force", detail.tag.pull_kn)}</text
      >
    </g>
  {/if}
  {#if detail.stop}
    {@const met = at(detail.stop)}
    <path
      d={`M${met.x - 8} ${met.y - 8}L${met.x + 8} ${met.y + 8}M${met.x + 8} ${met.y - 8}L${met.x - 8} ${met.y + 8}`}
      class="stroke-error"
      stroke-width="3"
      data-testid="stop-mark"
    />
  {/if}
  {#each detail.landing?.discs ?? [] as disc, i (i)}
    <ellipse
      cx={view.axis + across(view, disc) * view.perMetre}
      cy={view.ground + 4}
      rx={disc.r * view.perMetre}
      ry="5"
      class={detail.landing?.verdict === "over" ? "fill-error/40" : "fill-primary/30"}
    />
  {/each}

  {#each legs as leg, i (i)}
    <path
      d={i === 0 && leg.from.name === "tie"
        ? `M${leg.from.x} ${leg.from.y}Q${leg.mx + 14} ${leg.my + 8} ${leg.to.x} ${leg.to.y}`
        : `M${leg.from.x} ${leg.from.y}L${leg.to.x} ${leg.to.y}`}
      fill="none"
      class="stroke-info"
      stroke-width="2"
      stroke-linecap="round"
    />
  {/each}
  {#each legs as leg, i (i)}
    <!-- Tension on the leg, where there is room for it -->
    {#if Math.hypot(leg.to.x - leg.from.x, leg.to.y - leg.from.y) > 26}
      <text
        x={Math.min(width - 40, leg.mx + 8)}
        y={leg.my + 4}
        class="fill-info halo text-[12px] font-bold">{figure("force", leg.from.peak_kn)}</text
      >
    {/if}
  {/each}
  {#each line as point, i (i)}
    {#if point.name === "tie"}
      <circle cx={point.x} cy={point.y} r="4" class="fill-info" />
    {:else if i === line.length - 1}
      <rect
        x={point.x - 5}
        y={point.y - 8}
        width="10"
        height="16"
        rx="2"
        class="fill-base-100 stroke-base-content"
        stroke-width="2"
      />
      <path
        d={`M${point.x - 5} ${point.y - 3}h10m-10 4h10`}
        class="stroke-info"
        stroke-width="1.6"
      />
    {:else}
      <circle
        cx={point.x}
        cy={point.y}
        r="6"
        class="fill-base-100 stroke-base-content"
        stroke-width="2.2"
      />
      <circle cx={point.x} cy={point.y} r="1.8" class="fill-base-content" />
    {/if}
  {/each}
  {#if detail.balance}
    {@const hangs = at(detail.balance.at)}
    {@const within = Math.max(4, detail.balance.within_m * view.perMetre)}
    <g
      data-testid="plumb"
      class="group pointer-events-auto cursor-pointer stroke-base-content outline-none"
      role="button"
      tabindex="0"
      aria-label="How its balance is worked out"
      onclick={onplumb}
      onkeydown={(e) => {
        if (e.key !== "Enter" && e.key !== " ") return;
        e.preventDefault();
        e.stopPropagation();
        onplumb();
      }}
    >
      <rect
        x={hangs.x - Math.max(34, within)}
        y={view.ground - 2}
        width={2 * Math.max(34, within)}
        height="34"
        class="fill-transparent stroke-transparent group-focus-visible:stroke-base-content"
      />
      <path d={`M${hangs.x} ${hangs.y}V${view.ground}`} stroke-width="1" stroke-dasharray="1 4" />
      <path
        d={`M${hangs.x - within} ${view.ground}h${2 * within}m0 -4v8m${-2 * within} -8v8M${hangs.x} ${view.ground - 8}l4 8l-4 6l-4 -6Z`}
        class="fill-base-content"
        stroke-width="1.4"
      />
    </g>
  {/if}
  {#if piece}
    {@const balance = at(piece.cog)}
    <g transform={`translate(${balance.x} ${balance.y})`}>
      <circle r="6.5" class="fill-base-100 stroke-primary" stroke-width="1.6" />
      <path d="M0 -6.5A6.5 6.5 0 0 1 6.5 0H0ZM0 6.5A6.5 6.5 0 0 1 -6.5 0H0Z" class="fill-primary" />
    </g>
  {/if}
</g>
