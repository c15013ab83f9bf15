<script lang="ts">
  // The sawyer's drawing: the stump from above, the fall upwards, and from its left side, both to
  // one scale, with the measures where a tape is held.
  import type { Detail } from "../api/client";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";

  interface Props {
    fell: NonNullable<Detail["fell"]>;
    /** With it, face and hinge are dragged. */
    session?: Session;
    pick?: string;
    /** From above alone: nothing is known of its face's opening and its back cut's height. */
    above?: boolean;
  }

  let { fell, session, pick, above = false }: Props = $props();

  const id = $props.id();
  const size = 150;
  const left = 66;
  const top = 30;
  let scale = $derived(size / fell.diameter_m);
  let r = size / 2;
  let middle = { x: left + r, y: top + r };
  const tape = (m: number) => print("diameter", m);

  // From above, the fall upwards: how far up the drawing a place ahead of the far bark lies.
  let front = $derived(top + fell.face_depth_m * scale);
  let half = $derived(fell.hinge.chord_m / 2 + fell.nicks_m);
  let backLeft = $derived(front + fell.left_m * scale);
  let backRight = $derived(front + fell.right_m * scale);
  let hinge = $derived(
    `M${middle.x - half * scale} ${front}H${middle.x + half * scale}V${backRight}L${middle.x - half * scale} ${backLeft}Z`,
  );
  let hole = $derived(fell.hinge.hole_m * scale);

  // From its left side, the fall to the right.
  const at = 310;
  const level = top + 96;
  let apex = $derived(at + size - fell.face_depth_m * scale);
  let mouth = $derived(Math.min(90, fell.mouth_m * scale));
  let back = $derived(apex - ((fell.left_m + fell.right_m) / 2) * scale);
  let up = $derived(fell.back_up_m * scale);
  let slope = $derived(fell.upside_down ? mouth : -mouth);

  type Part = "face_depth_m" | "left_m" | "right_m";
  const names: Record<Part, string> = {
    face_depth_m: "Depth of the face",
    left_m: "Hinge at its left",
    right_m: "Hinge at its right",
  };
  let grips = $derived<{ part: Part; x: number; y: number }[]>([
    { part: "face_depth_m", x: middle.x, y: front },
    { part: "left_m", x: middle.x - half * scale * 0.8, y: backLeft },
    { part: "right_m", x: middle.x + half * scale * 0.8, y: backRight },
  ]);

  let held: { part: Part; y: number; was: number } | null = null;
  let drawing = $state<SVGSVGElement | null>(null);

  function set(part: Part, to: number) {
    if (!session) return;
    const most = part === "face_depth_m" ? fell.diameter_m * 0.8 : fell.diameter_m * 0.4;
    const next = Math.round(Math.max(0.005, Math.min(most, to)) * 200) / 200;
    session.drag((job) => {
      const one = job.picks.find((p) => p.id === pick);
      if (one) (one.fell ??= {})[part] = next;
    });
  }
  function grab(event: PointerEvent, part: Part) {
    if (event.button !== 0 || !session) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    session.hold();
    held = { part, y: event.clientY, was: fell[part] };
  }
  function pull(event: PointerEvent) {
    if (!held || !drawing) return;
    const seen = drawing.getBoundingClientRect().width / drawing.viewBox.baseVal.width;
    set(held.part, held.was + (event.clientY - held.y) / seen / scale);
  }
  function letGo() {
    if (!held) return;
    held = null;
    session?.release();
  }
  function nudge(event: KeyboardEvent, part: Part) {
    const by = { ArrowDown: 0.005, ArrowRight: 0.005, ArrowUp: -0.005, ArrowLeft: -0.005 }[
      event.key
    ];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    // The document, not the figures: they follow.
    const own = session?.job.picks.find((p) => p.id === pick)?.fell;
    set(part, (own?.[part] ?? fell[part]) + by);
  }
</script>

<svg
  bind:this={drawing}
  viewBox={`0 0 ${above ? 290 : 530} 224`}
  class="block w-full text-[13px] select-none"
  role="group"
  aria-label="The stump, from above and from its left side, to scale"
  data-testid="stump"
>
  <defs>
    <clipPath id={`${id}-wood`}><circle cx={middle.x} cy={middle.y} {r} /></clipPath>
    <pattern id={`${id}-cut`} width="6" height="6" patternUnits="userSpaceOnUse">
      <path d="M0 6L6 0" class="stroke-base-content/40" stroke-width="0.8" />
    </pattern>
  </defs>

  <!-- From above -->
  <circle cx={middle.x} cy={middle.y} {r} class="fill-[var(--wood)]" />
  <g clip-path={`url(#${id}-wood)`}>
    <rect x={left} y={top} width={size} height={front - top} class="fill-base-100" />
    <rect x={left} y={top} width={size} height={front - top} fill={`url(#${id}-cut)`} />
    <rect
      x={left}
      y={Math.min(backLeft, backRight)}
      width={size}
      height={size}
      class="fill-base-100/60"
    />
    {#if fell.strap_m}
      <rect
        x={left}
        y={top + size - fell.strap_m * scale}
        width={size}
        height={fell.strap_m * scale}
        class="fill-primary/50"
      />
    {/if}
    <path d={hinge} class="fill-primary/70 stroke-primary" stroke-width="1.5" />
    {#if fell.nicks_m > 0}
      {#each [-1, 1] as side (side)}
        <rect
          x={side < 0 ? middle.x - half * scale : middle.x + (half - fell.nicks_m) * scale}
          y={front - 2}
          width={fell.nicks_m * scale}
          height={Math.max(backLeft, backRight) - front + 4}
          class="fill-base-100"
        />
      {/each}
    {/if}
    {#if hole > 0}
      <rect
        x={middle.x - hole / 2}
        y={front - 1}
        width={hole}
        height={Math.max(backLeft, backRight) - front + 2}
        class="fill-base-100 stroke-base-content"
        stroke-width="0.8"
      />
    {/if}
  </g>
  {#if fell.cavity_m > 0}
    <circle
      cx={middle.x}
      cy={middle.y}
      r={(fell.cavity_m / 2) * scale}
      class="fill-base-300 stroke-base-content"
      stroke-width="1"
      stroke-dasharray="3 3"
    />
  {/if}
  <circle
    cx={middle.x}
    cy={middle.y}
    {r}
    class="fill-none stroke-base-content"
    stroke-width="1.5"
  />
  <path
    d={`M${middle.x} ${top - 4}V${top - 22}m-5 7l5 -7l5 7`}
    class="fill-none stroke-primary"
    stroke-width="2"
  />
  <g class="fill-base-content font-semibold">
    <text x={middle.x + 12} y={top - 10}>falls</text>
    <text x={left - 6} y={(top + front) / 2 + 4} text-anchor="end">{tape(fell.face_depth_m)}</text>
    <text x={left - 6} y={backLeft + 6} text-anchor="end">{tape(fell.left_m)}</text>
    <text x={left + size + 6} y={backRight + 6}>{tape(fell.right_m)}</text>
    <text x={left + size + 6} y={top + size - 22}>back cut</text>
    <text x={left + size + 6} y={top + size - 7}>{tape(fell.back_cut_m)}</text>
    <text x={middle.x} y={top + size + 22} text-anchor="middle"
      >hinge {tape(fell.hinge.chord_m)} wide of {tape(fell.diameter_m)}</text
    >
  </g>
  <path
    d={`M${left - 3} ${top}V${front}M${left - 3} ${front}V${backLeft}`}
    class="stroke-base-content"
    stroke-width="1"
    marker-end=""
  />
  {#if session}
    {#each grips as grip (grip.part)}
      <g
        role="slider"
        tabindex="0"
        aria-label={names[grip.part]}
        aria-valuemin={0}
        aria-valuemax={fell.diameter_m}
        aria-valuenow={fell[grip.part]}
        aria-valuetext={tape(fell[grip.part])}
        class="group cursor-ns-resize touch-none outline-none"
        onpointerdown={(e) => grab(e, grip.part)}
        onpointermove={pull}
        onpointerup={letGo}
        onpointercancel={letGo}
        onkeydown={(e) => nudge(e, grip.part)}
        onkeyup={() => session.release()}
        onblur={() => session.release()}
      >
        <circle cx={grip.x} cy={grip.y} r="20" fill="transparent" />
        <circle
          cx={grip.x}
          cy={grip.y}
          r="6"
          class="fill-base-100 stroke-primary stroke-2 group-focus-visible:stroke-[4px]"
        />
      </g>
    {/each}
  {/if}

  {#if !above}
    <!-- From its left side -->
    <path
      d={`M${at} ${top + size}V${top - 6}M${at + size} ${top + size}V${level + Math.max(0, slope)}M${at + size} ${level + Math.min(0, slope)}V${top - 6}`}
      class="stroke-base-content"
      stroke-width="1.5"
    />
    <path
      d={`M${at + size} ${level}H${apex}L${at + size} ${level + slope}`}
      class="fill-none stroke-base-content"
      stroke-width="1.5"
    />
    <path
      d={`M${at + size} ${level}H${apex}L${at + size} ${level + slope}Z`}
      fill={`url(#${id}-cut)`}
    />
    <path
      d={`M${at + (fell.strap_m ?? 0) * scale} ${level - up}H${back}`}
      class="stroke-base-content"
      stroke-width="2.5"
    />
    {#if fell.strap_m}
      <rect
        x={at}
        y={level - up - 8}
        width={fell.strap_m * scale}
        height="16"
        class="fill-primary/50"
      />
    {/if}
    <rect
      x={back}
      y={level - Math.max(up, 6) - 2}
      width={Math.max(2, apex - back)}
      height={Math.max(up, 6) + 4}
      class="fill-primary/70 stroke-primary"
    />
    <g class="fill-base-content font-semibold">
      <text x={at + size + 6} y={level + slope / 2 + 4}>{tape(fell.mouth_m)}</text>
      <text x={at + size + 6} y={level + slope / 2 + 19}>{Math.round(fell.opening_deg)}°</text>
      <text x={at - 4} y={level - up - 6} text-anchor="end">{tape(fell.back_up_m)} up</text>
      <text x={at + r} y={top + size + 22} text-anchor="middle">from its left</text>
    </g>
  {/if}
</svg>
