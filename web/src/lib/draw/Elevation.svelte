<script lang="ts">
  import type { Assessment } from "../api/client";
  import { join, moveBefore, pickAt, split } from "../order/edits";
  import { print, unitOf } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Backdrop from "./Backdrop.svelte";
  import Badges from "./Badges.svelte";
  import Falling from "./Falling.svelte";
  import Film from "./Film.svelte";
  import Pulls from "./Pulls.svelte";
  import Rigging from "./Rigging.svelte";
  import { frameOf, tagBeside } from "./frame";
  import { alongLimb, onStem, put, widthAt, wind, type View } from "./view";
  import TwoLines from "./TwoLines.svelte";
  import Wood from "./Wood.svelte";
  import { sized } from "./sized";

  interface Props {
    session: Session;
    assessment: Assessment;
    /** Azimuth to the right of the drawing, degrees. */
    right: number;
    /** Close up on the piece in place of the whole tree. */
    close: boolean;
    /** Without its picks it is the tree as it stands, to be looked at only. */
    picks?: boolean;
    /** The plumb mark of the balance was pressed. */
    onplumb?: () => void;
  }

  let {
    session,
    assessment,
    right,
    close,
    picks = true,
    onplumb = () => undefined,
  }: Props = $props();

  let width = $state(0);
  let height = $state(0);
  let svg = $state<SVGSVGElement>();

  // The tree in hand: what is pressed and cut is its wood.
  let own = $derived(assessment.trees[session.treeIndex]);
  let shape = $derived(own?.shape ?? { foot: { x: 0, y: 0, z: 0 }, stem: [], limbs: [] });
  let stem = $derived(own?.stem ?? []);
  let limbs = $derived(session.tree?.limbs ?? []);
  let pick = $derived(session.pick);
  let detail = $derived(session.detail);
  let figures = $derived(session.figures);
  let cut = $derived(pick?.cut_m ?? figures?.from_m ?? 0);
  let limbAt = $derived(
    pick?.what === "limb" ? shape.limbs.findIndex((l) => l.id === pick.limb) : -1,
  );

  // A fall is drawn when it is seen square to it.
  let square = $derived(
    detail?.fell !== undefined &&
      Math.abs((((figures?.fall_towards_deg ?? 0) - right + 540) % 360) - 180) < 3,
  );
  let goes = $derived.by(() => {
    const tips = detail?.stands[session.treeIndex]?.tips_m ?? [];
    return limbs.flatMap((limb, index) => {
      const tip = tips[index] ?? limb.length_m;
      const root = limb.parent ? limbs.find((l) => l.id === limb.parent) : limb;
      return tip > 0 && root && root.at_m >= cut
        ? [{ index, share: Math.min(1, tip / limb.length_m) }]
        : [];
    });
  });

  // The frame holds still while something is in hand.
  let held = $state<View | null>(null);
  let view = $derived<View>(
    held ??
      frameOf({
        assessment,
        targets: session.job.site.targets,
        detail,
        shape,
        right,
        close,
        square,
        width,
        height,
      }),
  );

  // Where the cut is drawn, and which way it is dragged.
  let grip = $derived.by(() => {
    if (!pick || !figures) return null;
    const limb = shape.limbs[limbAt];
    const whole = limbs[limbAt]?.length_m ?? 1;
    const here = limb ? alongLimb(limb, cut / whole) : null;
    const place = here ? here.at : onStem(shape, cut);
    const p = put(view, place);
    const ahead = limb ? put(view, alongLimb(limb, cut / whole + 0.02).at) : { x: p.x, y: p.y - 1 };
    const long = Math.hypot(ahead.x - p.x, ahead.y - p.y) || 1;
    const wide = (here ? here.wide : widthAt(stem, cut).outside) * view.perMetre;
    return { ...p, dx: (ahead.x - p.x) / long, dy: (ahead.y - p.y) / long, wide, limb, whole };
  });

  function bounds(): { least: number; most: number } {
    if (pick?.what === "limb") {
      return { least: 0, most: Math.max(0, (figures?.to_m ?? 1) - 0.05) };
    }
    return { least: (stem[0]?.at_m ?? 0) + 0.01, most: (figures?.to_m ?? 1) - 0.01 };
  }

  function moveCut(to: number) {
    if (!pick || !figures || figures.to_m <= 0) return;
    const { least, most } = bounds();
    const next = Math.round(Math.max(least, Math.min(most, to)) * 100) / 100;
    const id = pick.id;
    session.drag((job) => {
      const one = job.picks.find((p) => p.id === id);
      if (one) one.cut_m = next;
    });
  }

  let from = { x: 0, y: 0, cut: 0, dx: 0, dy: 0 };
  function grab(event: PointerEvent) {
    if (event.button !== 0 || !grip) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    held = { ...view };
    session.hold();
    from = { x: event.clientX, y: event.clientY, cut, dx: grip.dx, dy: grip.dy };
  }
  function pull(event: PointerEvent) {
    if (!held) return;
    const along = (event.clientX - from.x) * from.dx + (event.clientY - from.y) * from.dy;
    moveCut(from.cut + along / held.perMetre);
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
    if (step === undefined || event.altKey || event.ctrlKey || event.metaKey) return;
    event.preventDefault();
    event.stopPropagation();
    moveCut(cut + step);
  }

  /** Where on the wood a pointer is: height on the stem, or distance along a limb. */
  function placeOf(event: MouseEvent, limb: string | undefined): number {
    const box = svg?.getBoundingClientRect();
    const x = event.clientX - (box?.left ?? 0);
    const y = event.clientY - (box?.top ?? 0);
    if (!limb) return (view.ground - y) / view.perMetre;
    const i = shape.limbs.findIndex((l) => l.id === limb);
    const one = shape.limbs[i];
    if (!one) return 0;
    let best = 0;
    let nearest = Infinity;
    for (let k = 0; k <= 100; k++) {
      const p = put(view, alongLimb(one, k / 100).at);
      const apart = Math.hypot(p.x - x, p.y - y);
      if (apart < nearest) [best, nearest] = [k / 100, apart];
    }
    return best * (limbs[i]?.length_m ?? 1);
  }

  /** The pick that takes a place of the wood. */
  function takerOf(limb: string | undefined, place: number) {
    return assessment.picks.find((p) => {
      const one = session.job.picks.find((d) => d.id === p.id);
      if (!one || session.treeOf(one) !== session.treeIndex) return false;
      const same = limb ? one.what === "limb" && one.limb === limb : one.what !== "limb";
      return same && place >= p.from_m && place <= p.to_m && p.mass_kg;
    });
  }

  /** Twice on a cut takes it away: its pick comes off with the one before it. */
  function joinHere() {
    const id = pick?.id;
    if (id) void session.change((job) => void join(job, id));
  }

  /**
   * A press chooses the pick that takes this wood; with Alt it puts the chosen ones before
   * it; twice cuts it there.
   */
  function onpress(event: PointerEvent | MouseEvent, limb: string | undefined, twice: boolean) {
    if (!picks) return;
    const place = Math.round(placeOf(event, limb) * 10) / 10;
    const taker = takerOf(limb, place);
    if (!twice && event.altKey) {
      const ids = session.chosen;
      if (taker && ids.length) void session.change((job) => moveBefore(job, ids, taker.id));
      return;
    }
    if (!twice) {
      if (taker && taker.id !== pick?.id) {
        const more = event.ctrlKey || event.metaKey || event.shiftKey;
        session.choose(
          more ? [...session.chosen.filter((id) => id !== taker.id), taker.id] : [taker.id],
        );
      }
      return;
    }
    if (taker) {
      let made = "";
      void session
        .change((job) => {
          made = split(job, taker.id, place);
        })
        .then((faults) => faults.length === 0 && session.choose([made]));
      return;
    }
    const fresh = pickAt(session.job, session.tree, limb, limb && place < 0.5 ? 0 : place);
    void session.change((job) => job.picks.push(fresh), [fresh.id]);
  }
  let cutAt = $derived(limbAt >= 0 && cut === 0 ? "at the union" : print("height", cut));
  let union = $derived(limbAt >= 0 && cut === 0);
  let room = $derived(union ? 48 : 32);
  let tag = $derived(
    grip
      ? tagBeside({ ...grip, onLimb: grip.limb !== undefined }, room, union, { width, height })
      : { x: -1000, y: -1000 },
  );
  // Names stand clear of it.
  let tagRoom = $derived({
    left: tag.x - room,
    right: tag.x + room,
    top: tag.y - 13,
    bottom: tag.y + 13,
  });

  // What the cut makes of the piece, as its slider is read out.
  let cutWords = $derived(
    [
      cutAt,
      figures?.mass_kg && print("mass", figures.mass_kg.likely),
      figures?.verdict,
      figures?.worst,
    ]
      .filter(Boolean)
      .join(", "),
  );
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
    class="absolute inset-0 block touch-pan-y select-none"
    role="group"
    aria-label={`The tree in elevation, to scale, ${wind(right)} to the right`}
  >
    {#if width > 80 && height > 120}
      <Backdrop
        job={session.job}
        {assessment}
        taken={picks ? [tagRoom] : []}
        {view}
        {width}
        {height}
      />
      {#each assessment.trees as tree, i (tree.id)}
        {#if tree.shape.stem.length > 1}
          {@const other = i !== session.treeIndex}
          {@const higher = tree.shape.foot.z - shape.foot.z}
          <g opacity={other ? 0.55 : 1}>
            <Wood
              {session}
              index={i}
              figures={tree}
              view={{ ...view, ground: view.ground - higher * view.perMetre }}
              whole={!picks}
              onpress={other ? () => session.chooseTree(tree.id) : onpress}
            />
          </g>
        {/if}
      {/each}
      {#if picks && detail && figures && square}
        <Falling
          {detail}
          trace={session.trace}
          at={session.at}
          {view}
          {shape}
          {stem}
          from={cut}
          to={figures.to_m}
          limbs={goes}
        />
      {/if}
      {#if picks && detail}
        <Pulls {session} {detail} view={held ?? view} {width} />
        <Rigging {detail} {view} {width} {onplumb} stemAt={(z) => put(view, onStem(shape, z)).x} />
      {/if}
      {#if picks && detail?.ends}
        <TwoLines {session} {detail} trace={session.trace} at={session.at} {view} />
      {/if}
      {#if picks && detail && session.trace}
        <Film {detail} trace={session.trace} at={session.at} {view} />
      {/if}

      {#if picks}<Badges {session} {assessment} {view} />{/if}

      {#if picks && grip && figures && figures.to_m > 0}
        {@const { least, most } = bounds()}
        {@const nx = -grip.dy}
        {@const ny = grip.dx}
        {@const half = grip.wide / 2 + 10}
        <g
          role="slider"
          tabindex="0"
          aria-label="Place of the cut"
          aria-orientation="vertical"
          aria-valuemin={least}
          aria-valuemax={most}
          aria-valuenow={cut}
          aria-valuetext={cutWords}
          class="group cursor-grab touch-none outline-none"
          data-testid="cut"
          onpointerdown={grab}
          onpointermove={pull}
          onpointerup={letGo}
          onpointercancel={letGo}
          ondblclick={joinHere}
          onkeydown={nudge}
          onkeyup={() => session.release()}
          onblur={() => session.release()}
        >
          <circle cx={grip.x} cy={grip.y} r="22" fill="transparent" />
          <rect
            x={tag.x - room - 4}
            y={tag.y - 22}
            width={2 * room + 8}
            height="44"
            fill="transparent"
          />
          <path
            d={`M${grip.x - nx * half} ${grip.y - ny * half}L${grip.x + nx * half} ${grip.y + ny * half}`}
            class="stroke-primary"
            stroke-width="3.5"
          />
          <path
            d={`M${grip.x} ${grip.y}L${tag.x} ${tag.y}`}
            class="stroke-primary"
            stroke-width="1"
          />
          <rect
            x={tag.x - room}
            y={tag.y - 13}
            width={2 * room}
            height="26"
            rx="4"
            class="fill-primary stroke-base-content stroke-0 group-focus-visible:stroke-[3px]"
          />
          <text
            x={tag.x}
            y={tag.y + 5}
            text-anchor="middle"
            class="fill-primary-content text-[14px] font-bold">{cutAt}</text
          >
        </g>
      {/if}
      <text x="4" y={height - 6} class="fill-[var(--faint)] text-[11px] font-semibold">
        {unitOf("height").label} above ground
      </text>
    {/if}
  </svg>
</div>
