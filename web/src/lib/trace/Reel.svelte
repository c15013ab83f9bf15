<script lang="ts">
  // Runs the film of a trace, or holds it at a moment.
  import Icon from "../Icon.svelte";
  import Pause from "lucide-static/icons/pause.svg?raw";
  import Play from "lucide-static/icons/play.svg?raw";
  import type { Session } from "../session/session.svelte";

  interface Props {
    session: Session;
    /** How long it runs, s. */
    end: number;
    /** What goes on at this moment, in a word. */
    phase: string;
    /** How much quicker than it happens. */
    speed?: number;
  }

  let { session, end, phase, speed = 1 }: Props = $props();

  let playing = $state(false);

  // The film runs in its own time; who wants less motion moves the scrubber instead.
  $effect(() => {
    if (!playing) return;
    let frame = 0;
    let before = 0;
    const step = (time: number) => {
      if (before) session.at = Math.min(end, session.at + ((time - before) / 1000) * speed);
      before = time;
      if (session.at >= end) playing = false;
      else frame = requestAnimationFrame(step);
    };
    frame = requestAnimationFrame(step);
    return () => cancelAnimationFrame(frame);
  });

  function play() {
    if (session.at >= end) session.at = 0;
    playing = !playing;
  }
</script>

<button
  class="btn touch btn-ghost px-2"
  aria-label={playing ? "Hold the film" : "Run the film"}
  title="Run the film (space)"
  data-testid="play"
  onclick={play}
  >{#if playing}<Icon of={Pause} size={20} />{:else}<Icon of={Play} size={20} />{/if}</button
>
<input
  type="range"
  class="range min-w-20 grow range-primary range-xs"
  aria-label="Moment of the film"
  aria-valuetext={`${session.at.toFixed(2)} s, ${phase}`}
  min="0"
  max={end}
  step="0.01"
  value={session.at}
  oninput={(e) => (session.at = +e.currentTarget.value)}
/>
<span class="min-w-28 shrink-0 whitespace-nowrap"><b>{session.at.toFixed(2)} s</b> {phase}</span>
