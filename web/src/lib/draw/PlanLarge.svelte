<script lang="ts">
  // The plan as large as the elevation: the rose of the fall round the stem, the bearing by its
  // arrow, what lines end at by hand.
  import type { Assessment, Rose } from "../api/client";
  import { core } from "../core/core.svelte";
  import { preferences } from "../preferences.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import RoseMark from "./RoseMark.svelte";
  import Ground from "./Ground.svelte";
  import { placed } from "./labels";
  import { path, wind } from "./view";
  import { sized } from "./sized";

  let { session, assessment }: { session: Session; assessment: Assessment } = $props();

  let width = $state(0);
  let height = $state(0);
  let rose = $state.raw<Rose | null>(null);
  let asked = $state(false);

  let pick = $derived(session.pick);
  let felled = $derived(pick?.way === "felled");
  let fell = $derived(session.detail?.fell);
  // The document, not the figures: they follow.
  let bearing = $derived(pick?.fall_towards_deg ?? session.figures?.fall_towards_deg ?? 0);
  let shape = $derived(assessment.trees[session.treeIndex]?.shape);
  let foot = $derived(shape?.foot ?? { x: 0, y: 0, z: 0 });

  // Room for the tip wherever it falls, and for what stands near by.
  let box = $derived.by(() => {
    const tip = Math.max(8, (fell?.farthest_m ?? session.figures?.length_m ?? 8) * 1.2);
    const near = [
      ...session.job.site.anchors.map((a) => a.at),
      ...assessment.trees.map((t) => t.shape.foot),
    ]
      .map((p) => ({ x: p.x - foot.x, y: p.y - foot.y }))
      .filter((p) => Math.hypot(p.x, p.y) < 70);
    return {
      left: Math.min(-tip, ...near.map((p) => p.x - 3)),
      right: Math.max(tip, ...near.map((p) => p.x + 3)),
      low: Math.min(-tip, ...near.map((p) => p.y - 3)),
      high: Math.max(tip, ...near.map((p) => p.y + 3)),
    };
  });
  const head = 64;
  let tall = $derived(Math.max(60, height - 60 - head));
  let scale = $derived(
    Math.max(1, Math.min(width / (box.right - box.left), tall / (box.high - box.low))),
  );
  let middle = $derived({
    x: width / 2 - ((box.left + box.right) / 2) * scale,
    y: head + tall / 2 + ((box.low + box.high) / 2) * scale,
  });
  let put = $derived((p: { x: number; y: number }) => ({
    x: middle.x + (p.x - foot.x) * scale,
    y: middle.y - (p.y - foot.y) * scale,
  }));
  // What lines end at is named first, then what stands round.
  let names = $derived([
    ...session.job.site.anchors.map((a) => ({
      id: `anchor ${a.id}`,
      x: put(a.at).x,
      y: put(a.at).y + 20,
      text: a.name,
      size: 12,
    })),
    ...session.job.site.targets.flatMap((t) => {
      const spot = t.box
        ? { x: (t.box.min.x + t.box.max.x) / 2, y: (t.box.min.y + t.box.max.y) / 2 }
        : t.outline?.[0];
      return spot
        ? [{ id: `target ${t.id}`, x: put(spot).x, y: put(spot).y + 4, text: t.name, size: 12 }]
        : [];
    }),
  ]);
  let places = $derived(placed(names, { left: 4, right: width - 4, top: 2, bottom: height - 60 }));
  const out = (deg: number, far: number) => ({
    x: middle.x + Math.sin((deg * Math.PI) / 180) * far,
    y: middle.y - Math.cos((deg * Math.PI) / 180) * far,
  });
  let ring = $derived((fell?.farthest_m ?? 8) * scale);

  // Asked when the job has come to rest.
  $effect(() => {
    const job = session.job;
    const id = pick?.id;
    const units = preferences.units;
    if (!felled || !id) {
      rose = null;
      return;
    }
    asked = true;
    let left = false;
    const wait = setTimeout(() => {
      void core
        .rose(job, units, id)
        .then((reply) => {
          if (!left && reply.data) rose = reply.data;
        })
        .catch(() => undefined)
        .finally(() => {
          if (!left) asked = false;
        });
    }, 250);
    return () => {
      left = true;
      clearTimeout(wait);
    };
  });

  type Bearing = Rose["bearings"][number];
  const isOpen = (b: Bearing) => b.verdict === "within" || b.verdict === "close";
  const words: Record<Bearing["kind"], string> = {
    open: "open",
    close: "close",
    sector: "no-go sector",
    strikes: "strikes",
    hangs: "hangs up",
    room: "no drop zone",
    pull: "beyond the pull",
    hinge: "beyond the hinge",
    gear: "beyond gear or stem",
    unknown: "not known",
    cannot: "cannot be",
  };
  let ticks = $derived(
    (rose?.bearings ?? []).map((b) => {
      const inner = out(b.deg, ring + 4);
      // Of an open one the length says how little of the pull and of the hinge it takes.
      const used = Math.max(
        b.pull_kn && b.gives_kn ? b.pull_kn / b.gives_kn : 0,
        (b.side_use_pct ?? 0) / 100,
      );
      const long = isOpen(b) ? 10 + 16 * Math.max(0, 1 - used) : 0;
      return { ...b, inner, outer: out(b.deg, ring + 4 + long), mark: out(b.deg, ring + 10) };
    }),
  );
  let kinds = $derived(
    Object.entries(words).filter(([kind]) => rose?.bearings.some((b) => b.kind === kind)),
  );
  let here = $derived(rose?.bearings[Math.round(bearing / 5) % 72]);

  function turnTo(deg: number) {
    const next = (Math.round(deg) + 360) % 360;
    const id = pick?.id;
    session.drag((job) => {
      const one = job.picks.find((p) => p.id === id);
      if (one) one.fall_towards_deg = next;
    });
  }

  /** Takes a bearing, with what brings it there where that is not the lines as they are set. */
  function takeBearing(b: Rose["bearings"][number]) {
    const id = pick?.id;
    session.hold();
    session.drag((job) => {
      const one = job.picks.find((p) => p.id === id);
      if (!one) return;
      one.fall_towards_deg = b.deg;
      if (b.as_set || !isOpen(b)) return;
      one.fell ??= {};
      one.fell.lines = structuredClone(b.lines ?? []);
      if (!b.lines?.length) one.fell.wedged = true;
    });
    session.release();
  }
  let svg = $state<SVGSVGElement | null>(null);
  let turning = false;
  function pointed(event: PointerEvent) {
    const box = svg?.getBoundingClientRect();
    const x = event.clientX - (box?.left ?? 0) - middle.x;
    const y = event.clientY - (box?.top ?? 0) - middle.y;
    return { x, y, deg: (Math.atan2(x, -y) * 180) / Math.PI };
  }
  function grab(event: PointerEvent) {
    if (event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    session.hold();
    turning = true;
    turnTo(pointed(event).deg);
  }
  function nudge(event: KeyboardEvent) {
    const step = event.shiftKey ? 1 : 5;
    const by = { ArrowRight: step, ArrowUp: step, ArrowLeft: -step, ArrowDown: -step }[event.key];
    if (by === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    turnTo(bearing + by);
  }
  function letGo() {
    turning = false;
    session.release();
  }

  // What lines end at, moved by hand.
  let moving = "";
  function place(id: string, x: number, y: number) {
    session.drag((job) => {
      const one = job.site.anchors.find((a) => a.id === id);
      if (one) one.at = { x: Math.round(x * 10) / 10, y: Math.round(y * 10) / 10 };
    });
  }
  function grabAnchor(event: PointerEvent, id: string) {
    if (event.button !== 0) return;
    (event.currentTarget as Element).setPointerCapture(event.pointerId);
    session.hold();
    moving = id;
  }
  function pullAnchor(event: PointerEvent) {
    if (!moving) return;
    const { x, y } = pointed(event);
    place(moving, foot.x + x / scale, foot.y - y / scale);
  }
  function dropAnchor() {
    moving = "";
    session.release();
  }
  function nudgeAnchor(event: KeyboardEvent, id: string) {
    const step = event.shiftKey ? 0.1 : 0.5;
    const way = {
      ArrowRight: [step, 0],
      ArrowLeft: [-step, 0],
      ArrowUp: [0, step],
      ArrowDown: [0, -step],
    }[event.key];
    const one = session.job.site.anchors.find((a) => a.id === id);
    if (!way || !one) return;
    event.preventDefault();
    event.stopPropagation();
    place(id, one.at.x + (way[0] ?? 0), one.at.y + (way[1] ?? 0));
  }
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
    aria-label="The plan, to scale, north up"
    data-testid="plan-large"
  >
    {#if width > 80 && height > 120}
      <Ground {session} {assessment} {put} {scale} far={Math.hypot(width, height)} {middle} />
      {#if felled}
        <circle
          cx={middle.x}
          cy={middle.y}
          r={ring}
          class="fill-none stroke-base-content/50"
          stroke-width="1"
        />
        <g data-testid="rose">
          {#each ticks as b (b.deg)}
            {#if isOpen(b)}
              <path
                d={path([b.inner, b.outer], false)}
                class="stroke-success"
                stroke-width={b.verdict === "within" ? 4 : 2}
              />
            {:else}
              <g transform={`translate(${b.mark.x} ${b.mark.y})`}><RoseMark kind={b.kind} /></g>
            {/if}
            <circle
              cx={b.mark.x}
              cy={b.mark.y}
              r={Math.max(6, ring * 0.042)}
              fill="transparent"
              class="cursor-pointer"
              role="presentation"
              onclick={() => takeBearing(b)}
              ><title>{b.deg}°: {words[b.kind]}, {b.reason}</title></circle
            >
          {/each}
        </g>
        {@const tip = out(bearing, ring - 4)}
        {@const base = out(bearing, Math.max(14, ring * 0.12))}
        <g
          role="slider"
          tabindex="0"
          aria-label="Bearing of the fall"
          aria-valuemin={0}
          aria-valuemax={359}
          aria-valuenow={Math.round(bearing)}
          aria-valuetext={`${Math.round(bearing)}°, ${wind(bearing)}`}
          class="group cursor-grab touch-none outline-none"
          data-testid="bearing"
          onpointerdown={grab}
          onpointermove={(e) => turning && turnTo(pointed(e).deg)}
          onpointerup={letGo}
          onpointercancel={letGo}
          onkeydown={nudge}
          onkeyup={() => session.release()}
          onblur={() => session.release()}
        >
          <path d={path([base, tip], false)} class="stroke-primary" stroke-width="4" />
          <g transform={`translate(${tip.x} ${tip.y}) rotate(${bearing})`}>
            <circle r="22" fill="transparent" cy="8" />
            <path
              d="M-9 14L0 -4L9 14Z"
              class="fill-primary stroke-base-content stroke-0 group-focus-visible:stroke-[3px]"
            />
          </g>
        </g>
        {@const label = out(bearing, ring * 0.62)}
        <text
          x={label.x + 10}
          y={label.y - 8}
          class="pointer-events-none fill-primary halo text-[15px] font-bold"
          >{Math.round(bearing)}° {wind(bearing)}</text
        >
      {/if}
      {#each session.job.site.anchors as anchor (anchor.id)}
        {@const p = put(anchor.at)}
        <g
          role="slider"
          tabindex="0"
          aria-label={`Place of ${anchor.name}`}
          aria-valuenow={Math.round(Math.hypot(anchor.at.x - foot.x, anchor.at.y - foot.y) * 10) /
            10}
          aria-valuetext={`${print("height", Math.hypot(anchor.at.x - foot.x, anchor.at.y - foot.y))} out`}
          class="group cursor-move touch-none outline-none"
          onpointerdown={(e) => grabAnchor(e, anchor.id)}
          onpointermove={pullAnchor}
          onpointerup={dropAnchor}
          onpointercancel={dropAnchor}
          onkeydown={(e) => nudgeAnchor(e, anchor.id)}
          onkeyup={() => session.release()}
          onblur={() => session.release()}
        >
          <circle cx={p.x} cy={p.y} r="22" fill="transparent" />
          <path
            d={`M${p.x - 7} ${p.y + 6}L${p.x} ${p.y - 7}L${p.x + 7} ${p.y + 6}Z`}
            class="fill-base-content stroke-primary stroke-0 group-focus-visible:stroke-[3px]"
          />
        </g>
      {/each}
      {#each names as one (one.id)}
        {@const at = places.get(one.id)}
        {#if at}
          <text
            x={at.x}
            y={at.y}
            text-anchor="middle"
            class="pointer-events-none fill-base-content halo font-semibold">{one.text}</text
          >
        {/if}
      {/each}
      <text x={middle.x} y="14" text-anchor="middle" class="fill-base-content text-[14px] font-bold"
        >N</text
      >
    {/if}
  </svg>
  <div class="absolute right-2 bottom-1 left-2 text-sm leading-snug">
    {#if felled}
      <p class="font-semibold halo-text" data-testid="rose-said" role="status">
        {#if here && !asked}{Math.round(bearing)}°: {words[here.kind]}{here.reason
            ? `, ${here.reason}`
            : ""}.
        {/if}
        {rose?.said ?? "Asking round the stem."}
      </p>
      <p class="flex flex-wrap gap-x-3 text-xs faint">
        {#each kinds as [kind, word] (kind)}
          <span class="flex items-center gap-1">
            <svg width="12" height="12" viewBox="-6 -6 12 12" aria-hidden="true">
              <RoseMark kind={kind as Bearing["kind"]} />
            </svg>
            {word}
          </span>
        {/each}
      </p>
    {/if}
  </div>
</div>
