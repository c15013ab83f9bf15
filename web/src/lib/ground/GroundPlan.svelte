<script lang="ts">
  // The site from above: where every piece lies, how full the drop zones are, the ways over it,
  // whose ends are dragged.
  import type { Assessment, GroundFigures } from "../api/client";
  import Ground from "../draw/Ground.svelte";
  import { placed } from "../draw/labels";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import { sized } from "../draw/sized";

  interface Props {
    session: Session;
    assessment: Assessment;
    lies: GroundFigures;
    /** Id of the piece in hand. */
    chosen: string;
    onchoose: (id: string) => void;
  }
  let { session, assessment, lies, chosen, onchoose }: Props = $props();

  let width = $state(0);
  let height = $state(0);
  let foot = $derived(assessment.trees[0]?.shape.foot ?? { x: 0, y: 0, z: 0 });
  let moves = $derived(session.job.ground?.moves ?? []);
  let site = $derived(session.job.site);
  let box = $derived.by(() => {
    const near = [
      { x: 0, y: 0 },
      ...site.zones.flatMap((z) => z.outline),
      ...moves.flatMap((m) => [m.from, m.to]),
      ...lies.pieces.flatMap((p) => (p.at ? [p.at] : [])),
      ...assessment.trees.map((t) => t.shape.foot),
    ].filter((p) => Math.hypot(p.x - foot.x, p.y - foot.y) < 90);
    return {
      left: Math.min(...near.map((p) => p.x)) - 2.5,
      right: Math.max(...near.map((p) => p.x)) + 2.5,
      low: Math.min(...near.map((p) => p.y)) - 2.5,
      high: Math.max(...near.map((p) => p.y)) + 2.5,
    };
  });
  // While an end is dragged the drawing stands still.
  let still = $state.raw<typeof box | null>(null);
  let shown = $derived(still ?? box);
  let scale = $derived(
    Math.max(1, Math.min(width / (shown.right - shown.left), height / (shown.high - shown.low))),
  );
  let put = $derived((p: { x: number; y: number }) => ({
    x: width / 2 + (p.x - (shown.left + shown.right) / 2) * scale,
    y: height / 2 - (p.y - (shown.low + shown.high) / 2) * scale,
  }));
  // Pieces that lie at one place are told one beside the other.
  let marks = $derived.by(() => {
    const seen: Record<string, number> = {};
    return lies.pieces.flatMap((piece) => {
      if (!piece.at) return [];
      const at = put(piece.at);
      const key = `${Math.round(at.x / 24)}/${Math.round(at.y / 24)}`;
      const n = (seen[key] = (seen[key] ?? 0) + 1) - 1;
      const ring = Math.floor((n + 5) / 6);
      const turn = (n * Math.PI) / 3;
      return [
        { piece, x: at.x + 24 * ring * Math.sin(turn), y: at.y - 24 * ring * Math.cos(turn) },
      ];
    });
  });

  // Names of ways, zones and targets, the figures of the work first.
  let names = $derived([
    ...moves.map((move) => {
      const [a, b] = [put(move.from), put(move.to)];
      const figures = lies.moves.find((m) => m.id === move.id);
      return {
        id: `way ${move.id}`,
        x: (a.x + b.x) / 2,
        // Beside a short way its name would cover its ends.
        y: Math.hypot(a.x - b.x, a.y - b.y) < 140 ? Math.min(a.y, b.y) - 14 : (a.y + b.y) / 2 - 8,
        size: 13,
        text: `${move.name}${figures?.logs ? ` · ${print("force", figures.pull_kn)}` : ""}`,
        class: "fill-base-content halo text-[13px] font-bold",
      };
    }),
    ...site.zones.map((zone) => {
      const filled = lies.zones.find((z) => z.name === zone.name);
      const top = zone.outline.reduce((a, b) => (b.y > a.y ? b : a));
      const middle = zone.outline.reduce((sum, c) => sum + c.x / zone.outline.length, 0);
      const at = put({ x: middle, y: top.y });
      const covered = filled
        ? ` · ${Math.round((100 * (filled.after.at(-1)?.covers_m2 ?? 0)) / filled.area_m2)} % covered`
        : "";
      return {
        id: `zone ${zone.id}`,
        x: at.x,
        y: at.y + 15,
        size: 12,
        text: zone.name + covered,
        class: `halo font-bold ${filled?.full ? "fill-error" : "fill-base-content"}`,
      };
    }),
    ...site.targets.flatMap((target) => {
      const spot = target.box
        ? {
            x: (target.box.min.x + target.box.max.x) / 2,
            y: (target.box.min.y + target.box.max.y) / 2,
          }
        : target.outline?.[0];
      if (!spot) return [];
      const at = put(spot);
      return [
        {
          id: `target ${target.id}`,
          x: at.x,
          y: at.y + 4,
          size: 12,
          text: target.name,
          class: "fill-base-content halo",
        },
      ];
    }),
  ]);
  let places = $derived(placed(names, { left: 4, right: width - 4, top: 2, bottom: height - 4 }));

  let svg = $state<SVGSVGElement | null>(null);
  let held = $state("");
  function place(id: string, end: "from" | "to", x: number, y: number) {
    session.drag((job) => {
      const one = job.ground?.moves?.find((m) => m.id === id);
      if (one) one[end] = { x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10 };
    });
  }
  function grab(event: PointerEvent, id: string, end: string) {
    if (event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    session.hold();
    still = box;
    held = `${id}/${end}`;
  }
  function pull(event: PointerEvent, id: string, end: "from" | "to") {
    if (held !== `${id}/${end}`) return;
    const at = svg?.getBoundingClientRect();
    place(
      id,
      end,
      (shown.left + shown.right) / 2 + (event.clientX - (at?.left ?? 0) - width / 2) / scale,
      (shown.low + shown.high) / 2 - (event.clientY - (at?.top ?? 0) - height / 2) / scale,
    );
  }
  function letGo() {
    held = "";
    still = null;
    session.release();
  }
  function nudge(event: KeyboardEvent, id: string, end: "from" | "to") {
    const step = event.shiftKey ? 0.1 : 0.5;
    const way = {
      ArrowRight: [step, 0],
      ArrowLeft: [-step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    }[event.key];
    const one = moves.find((m) => m.id === id);
    if (!way || !one) return;
    event.preventDefault();
    event.stopPropagation();
    place(id, end, one[end].x + (way[0] ?? 0), one[end].y + (way[1] ?? 0));
  }
  const ends = ["from", "to"] as const;
</script>

<div
  class="relative h-full min-h-0 w-full overflow-hidden"
  {@attach sized((w, h) => {
    width = w;
    height = h;
  })}
>
  <svg
    bind:this={svg}
    {width}
    {height}
    class="absolute inset-0 block text-[12px] select-none"
    role="group"
    aria-label="The ground from above, to scale, north up"
    data-testid="ground-plan"
  >
    {#if width > 80 && height > 80}
      <Ground
        {session}
        {assessment}
        {put}
        {scale}
        far={Math.hypot(width, height)}
        middle={put(foot)}
      />
      {#each names as one (one.id)}
        {@const at = places.get(one.id)}
        {#if at}
          <text x={at.x} y={at.y} text-anchor="middle" class={one.class}>{one.text}</text>
        {/if}
      {/each}
      {#each moves as move (move.id)}
        {@const a = put(move.from)}
        {@const b = put(move.to)}
        {@const figures = lies.moves.find((m) => m.id === move.id)}
        <path
          d={`M${a.x} ${a.y}L${b.x} ${b.y}`}
          class={figures?.verdict === "over" ? "stroke-error" : "stroke-primary"}
          stroke-width="3"
          stroke-dasharray="9 5"
        />
        {#each ends as end (end)}
          {@const p = end === "from" ? a : b}
          <g
            role="slider"
            tabindex="0"
            aria-label={`${end === "from" ? "Beginning" : "End"} of ${move.name}`}
            aria-valuenow={Math.round(10 * Math.hypot(move[end].x - foot.x, move[end].y - foot.y)) /
              10}
            aria-valuetext={`${print("height", move[end].x)} east, ${print("height", move[end].y)} north`}
            class="group cursor-move touch-none outline-none"
            onpointerdown={(e) => grab(e, move.id, end)}
            onpointermove={(e) => pull(e, move.id, end)}
            onpointerup={letGo}
            onpointercancel={letGo}
            onkeydown={(e) => nudge(e, move.id, end)}
            onkeyup={() => session.release()}
            onblur={() => session.release()}
          >
            <circle cx={p.x} cy={p.y} r="22" fill="transparent" />
            {#if end === "from"}
              <circle
                cx={p.x}
                cy={p.y}
                r="6"
                class="fill-primary stroke-base-content stroke-0 group-focus-visible:stroke-[3px]"
              />
            {:else}
              <g
                transform={`translate(${p.x} ${p.y}) rotate(${(Math.atan2(b.x - a.x, a.y - b.y) * 180) / Math.PI})`}
              >
                <path
                  d="M-9 9L0 -9L9 9Z"
                  class="fill-primary stroke-base-content stroke-0 group-focus-visible:stroke-[3px]"
                />
              </g>
            {/if}
          </g>
        {/each}
      {/each}
      {#each marks as mark (mark.piece.id)}
        <g
          role="presentation"
          class="cursor-pointer"
          onclick={() => onchoose(mark.piece.id)}
          opacity={mark.piece.done ? 0.55 : 1}
        >
          <title>{mark.piece.number} {mark.piece.title}: {mark.piece.said}</title>
          <circle
            cx={mark.x}
            cy={mark.y}
            r="11"
            class={[
              "stroke-base-content",
              mark.piece.id === chosen ? "fill-primary" : "fill-base-100",
            ]}
            stroke-width="1.5"
          />
          <text
            x={mark.x}
            y={mark.y + 4}
            text-anchor="middle"
            class={[
              "font-bold",
              mark.piece.id === chosen ? "fill-primary-content" : "fill-base-content",
            ]}>{mark.piece.number}</text
          >
        </g>
      {/each}
      <text
        x={width - 16}
        y="18"
        text-anchor="middle"
        class="fill-base-content text-[14px] font-bold">N</text
      >
      <path
        d={`M${width - 16} 22v14M${width - 20} 27l4 -5l4 5`}
        class="fill-none stroke-base-content"
      />
    {/if}
  </svg>
</div>
