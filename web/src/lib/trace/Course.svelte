<script lang="ts">
  // What both lines carry, from the cut over the catch and down by the program of the hands.
  import { scaleLinear } from "d3-scale";
  import type { Trace } from "../api/client";
  import { path } from "../draw/view";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import Axes from "./Axes.svelte";
  import Reel from "./Reel.svelte";
  import { sized } from "../draw/sized";

  let { session, trace }: { session: Session; trace: Trace } = $props();

  let width = $state(0);
  const height = 104;
  const pad = { left: 34, right: 92, top: 8, bottom: 16 };

  let course = $derived(trace.course ?? []);
  let end = $derived(course.at(-1)?.at_s ?? 1);
  let most = $derived(Math.max(0.1, ...course.map((f) => Math.max(f.butt_kn, f.tip_kn))) * 1.1);
  let x = $derived(scaleLinear([0, end], [pad.left, Math.max(pad.left + 10, width - pad.right)]));
  let y = $derived(scaleLinear([0, most], [height - pad.bottom, pad.top]));
  let now = $derived(course.find((f) => f.at_s >= session.at) ?? course.at(-1));
  let steps = $derived(session.detail?.ends?.steps ?? []);
  let phase = $derived(
    !now || now.step < 0 ? "off its cut" : (steps[now.step] ?? "both: let out alike"),
  );
  const curve = (of: "butt_kn" | "tip_kn") =>
    path(
      course.map((f) => ({ x: x(f.at_s), y: y(f[of]) })),
      false,
    );
</script>

<div class="flex items-center gap-2 px-2 pt-1 text-sm">
  <Reel {session} {end} phase="" speed={end > 20 ? 3 : 1} />
  <span class="min-w-0 grow truncate font-semibold" data-testid="phase">{phase}</span>
</div>
<div class="w-full" {@attach sized((w) => (width = w))}>
  <svg
    {width}
    {height}
    class="block text-[11px] select-none"
    role="img"
    aria-label="Tension of both lines, from the cut to the ground"
  >
    {#if width > 100}
      <Axes {x} {y} {width} {height} {pad} forces={4} />
      <path d={curve("butt_kn")} class="fill-none stroke-info" stroke-width="2" />
      <path
        d={curve("tip_kn")}
        class="fill-none stroke-base-content"
        stroke-width="2"
        stroke-dasharray="7 3"
      />
      {#if now}
        <path
          d={`M${x(session.at)} ${pad.top}V${height - pad.bottom}`}
          class="stroke-primary"
          stroke-width="1.6"
        />
        <text x={width - pad.right + 4} y={height - pad.bottom - 14} class="fill-info font-bold"
          >butt {print("force", now.butt_kn)}</text
        >
        <text x={width - pad.right + 4} y={height - pad.bottom} class="fill-base-content font-bold"
          >tip {print("force", now.tip_kn)}</text
        >
      {/if}
    {/if}
  </svg>
</div>
