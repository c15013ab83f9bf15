<script lang="ts">
  // The thing itself, to scale, drawn from the figures of the sum; its parts are dragged, or moved
  // by the arrow keys.
  import type { Point } from "../draw/view";
  import { numberAt, said, type Field } from "./instruments";
  import { draw } from "./pictures";
  import { Scene, wide, type Frame, type Grip } from "./pictures/canvas";

  interface Props {
    kind: string;
    request: Record<string, unknown>;
    answer: Record<string, unknown> | null;
    fields: Field[];
    onset: (values: [string, number][]) => void;
  }

  let { kind, request, answer, fields, onset }: Props = $props();

  // While a part is in hand the picture keeps its scale, and the hand its sum.
  let held = $state.raw<{ index: number; frame: Frame | null; grip: Grip; start: Point } | null>(
    null,
  );
  let scene = $derived(new Scene(kind, request, answer, held?.frame ?? null));
  let marks = $derived(draw(scene));
  let canvas: SVGSVGElement | undefined = $state();

  const place = (e: PointerEvent): Point => {
    const area = canvas?.getBoundingClientRect();
    if (!area) return { x: 0, y: 0 };
    const scale = Math.min(area.width / wide, area.height / scene.tall);
    return {
      x: (e.clientX - area.left - (area.width - wide * scale) / 2) / scale,
      y: (e.clientY - area.top - (area.height - scene.tall * scale) / 2) / scale,
    };
  };

  /** What a part writes, within what its fields take. */
  function write(grip: Grip, to: Point) {
    const values = grip.moved(to).map(([path, value]): [string, number] => {
      const field = fields.find((f) => f.path === path);
      const low = field?.min === undefined ? -Infinity : field.min + (field.above ? 1e-3 : 0);
      return [path, Math.max(low, Math.min(field?.max ?? Infinity, value))];
    });
    onset(values.filter(([path, value]) => numberAt(request, path) !== value));
  }

  function down(e: PointerEvent, index: number, grip: Grip) {
    (e.currentTarget as Element).setPointerCapture(e.pointerId);
    held = { index, frame: scene.used, grip, start: place(e) };
  }
  function move(e: PointerEvent) {
    if (!held) return;
    const at = place(e);
    write(held.grip, {
      x: held.grip.x + at.x - held.start.x,
      y: held.grip.y + at.y - held.start.y,
    });
  }
  const up = () => (held = null);

  const arrows: Record<string, Point> = {
    ArrowLeft: { x: -1, y: 0 },
    ArrowRight: { x: 1, y: 0 },
    ArrowUp: { x: 0, y: -1 },
    ArrowDown: { x: 0, y: 1 },
  };
  /** The least way along an arrow that changes a figure. */
  function key(e: KeyboardEvent, grip: Grip) {
    const way = arrows[e.key];
    if (!way) return;
    e.preventDefault();
    for (let far = e.shiftKey ? 20 : 1; far < 200; far *= 1.4) {
      const to = { x: grip.x + way.x * far, y: grip.y + way.y * far };
      if (grip.moved(to).some(([path, value]) => numberAt(request, path) !== value)) {
        write(grip, to);
        return;
      }
    }
  }

  function text(grip: Grip): string {
    const value = numberAt(request, grip.path);
    const field = fields.find((f) => f.path === grip.path);
    return value === undefined ? "as usual" : said(grip.path, field?.unit ?? "", value);
  }
</script>

{#if marks.lines.length}
  <svg
    bind:this={canvas}
    viewBox={`0 0 ${wide} ${scene.tall}`}
    class={[
      "block w-full text-[15px] max-sm:text-[21px]",
      scene.tall > 300 ? "max-h-96" : "max-h-72",
    ]}
    role="group"
    aria-label="The thing itself, to scale"
    data-testid="picture"
  >
    {#each marks.lines as one, i (i)}
      <path
        d={one.d}
        class={one.class}
        stroke-width={one.width ?? 1.5}
        stroke-dasharray={one.dash}
      />
    {/each}
    {#each marks.dots as dot, i (i)}
      <circle cx={dot.x} cy={dot.y} r={dot.r} class={dot.class} stroke-width="2" />
    {/each}
    {#each marks.words as one, i (i)}
      <text
        x={one.x}
        y={one.y}
        text-anchor={one.anchor}
        class="pointer-events-none fill-base-content halo font-bold">{one.text}</text
      >
    {/each}
    {#each marks.grips as grip, i (i)}
      <g
        role="slider"
        tabindex="0"
        aria-label={grip.label}
        aria-valuenow={numberAt(request, grip.path) ?? 0}
        aria-valuetext={text(grip)}
        class="grip cursor-grab touch-none focus:outline-none"
        onpointerdown={(e) => down(e, i, grip)}
        onpointermove={move}
        onpointerup={up}
        onpointercancel={up}
        onkeydown={(e) => key(e, grip)}
      >
        <circle cx={grip.x} cy={grip.y} r="22" class="fill-transparent max-sm:[r:36px]" />
        <circle
          cx={grip.x}
          cy={grip.y}
          r="8"
          class={[
            "stroke-primary max-sm:[r:12px]",
            held?.index === i ? "fill-primary" : "fill-base-100",
          ]}
          stroke-width="2.5"
        />
      </g>
    {/each}
  </svg>
{/if}

<style>
  .grip:focus-visible circle:last-child {
    stroke-width: 5;
  }
</style>
