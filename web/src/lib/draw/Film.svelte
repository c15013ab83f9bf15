<script lang="ts">
  import type { Detail, Trace } from "../api/client";
  import { put, type View } from "./view";

  interface Props {
    detail: Detail;
    trace: Trace;
    at: number;
    view: View;
  }

  let { detail, trace, at, view }: Props = $props();

  // The piece at one moment: it moves in an upright plane through the block.
  let now = $derived.by(() => {
    const series = trace.run?.series;
    const piece = detail.piece;
    if (!series || !piece || at <= 0) return null;
    const last = series.t_s.length - 1;
    const after = series.t_s.findIndex((t) => t >= at);
    const sample = series.piece[after < 0 ? last : after];
    if (!sample) return null;
    const [x = 0, z = 0, tilt = 0] = sample;
    const azimuth = (trace.azimuth_deg * Math.PI) / 180;
    const place = (along: number) => {
      const turn = (tilt * Math.PI) / 180;
      const out = x + along * Math.sin(turn);
      return put(view, {
        x: trace.origin.x + out * Math.sin(azimuth),
        y: trace.origin.y + out * Math.cos(azimuth),
        z: trace.origin.z + z + along * Math.cos(turn),
      });
    };
    const butt = place(-piece.cog_m);
    const tip = place(piece.length_m - piece.cog_m);
    const tie = place(detail.settings.tie_m - piece.cog_m);
    const block = put(view, trace.origin);
    const wide = Math.max(5, piece.diameter_at_cut_m * view.perMetre);
    return { butt, tip, tie, block, wide };
  });
</script>

<!-- Looked at, not touched. -->
<g class="pointer-events-none">
  {#if now}
    <g data-testid="film">
      <path
        d={`M${now.block.x} ${now.block.y}L${now.tie.x} ${now.tie.y}`}
        class="stroke-info"
        stroke-width="2.2"
      />
      <path
        d={`M${now.butt.x} ${now.butt.y}L${now.tip.x} ${now.tip.y}`}
        class="stroke-primary"
        stroke-width={now.wide}
        stroke-linecap="butt"
        opacity="0.75"
      />
      <circle cx={now.butt.x} cy={now.butt.y} r={now.wide / 2} class="fill-primary" />
    </g>
  {/if}
</g>
