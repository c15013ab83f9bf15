<script lang="ts">
  // The thing itself, to scale, drawn from the figures of the sum.
  import { print } from "../reference.svelte";
  import { outline, path, type Point } from "../draw/view";
  import { numberAt } from "./instruments";

  interface Props {
    kind: string;
    request: Record<string, unknown>;
    answer: Record<string, unknown> | null;
  }

  let { kind, request, answer }: Props = $props();

  const wide = 560;
  const tall = 250;
  const ask = (p: string, otherwise = 0) => numberAt(request, p) ?? otherwise;
  const got = (p: string, otherwise = 0) => numberAt(answer, p) ?? otherwise;
  const rows = (value: unknown) =>
    Array.isArray(value) ? (value as Record<string, number>[]) : [];

  interface Marks {
    lines: { d: string; class: string; width?: number; dash?: string }[];
    dots: { x: number; y: number; r: number; class: string }[];
    words: { x: number; y: number; text: string; anchor?: "start" | "middle" | "end" }[];
  }

  /** Lays places of metres out in the picture, to scale. */
  function frame(points: Point[]) {
    const xs = points.map((p) => p.x);
    const ys = points.map((p) => p.y);
    const [left, right] = [Math.min(...xs), Math.max(...xs)];
    const [low, high] = [Math.min(...ys), Math.max(...ys)];
    const scale = Math.min(
      (wide - 120) / Math.max(0.1, right - left),
      (tall - 60) / Math.max(0.1, high - low),
    );
    return {
      scale,
      put: (x: number, y: number): Point => ({
        x: wide / 2 + (x - (left + right) / 2) * scale,
        y: tall / 2 - (y - (low + high) / 2) * scale,
      }),
    };
  }
  const ink = "stroke-base-content fill-none";
  const wood = "fill-[var(--wood)] stroke-base-content";
  const ropes = "stroke-info fill-none";

  function log(stations: Record<string, number>[]): Marks {
    const long = stations.at(-1)?.at_m ?? 1;
    const most = Math.max(...stations.map((s) => s.diameter_m ?? 0.1));
    const f = frame([
      { x: 0, y: -most / 2 },
      { x: long, y: most / 2 },
    ]);
    const middle = stations.map((s) => f.put(s.at_m ?? 0, 0));
    const marks: Marks = {
      lines: [
        {
          d: outline(
            middle,
            stations.map((s) => (s.diameter_m ?? 0) * f.scale),
          ),
          class: wood,
        },
      ],
      dots: [],
      words: stations.map((s, i) => ({
        x: middle[i]?.x ?? 0,
        y: (middle[i]?.y ?? 0) + ((s.diameter_m ?? 0) / 2) * f.scale + 18,
        text: print("diameter", s.diameter_m ?? 0),
        anchor: "middle",
      })),
    };
    if (stations.some((s) => s.cavity_m)) {
      marks.lines.push({
        d: outline(
          middle,
          stations.map((s) => (s.cavity_m ?? 0) * f.scale),
        ),
        class: "fill-base-300 stroke-base-content",
        dash: "3 3",
      });
    }
    const cog = numberAt(answer, "cog_m");
    if (cog !== undefined) {
      const p = f.put(cog, 0);
      marks.dots.push({ ...p, r: 6, class: "fill-base-100 stroke-primary" });
      marks.words.push({
        x: p.x,
        y: p.y - 12,
        text: `balance ${print("height", cog)}`,
        anchor: "middle",
      });
    }
    return marks;
  }

  let marks = $derived.by<Marks>(() => {
    const none: Marks = { lines: [], dots: [], words: [] };
    switch (kind) {
      case "piece":
      case "cut-length":
        return log(rows(request.stations));
      case "bind": {
        const stations = rows(request.stations);
        const m = log(stations);
        const long = stations.at(-1)?.at_m ?? 1;
        const most = Math.max(...stations.map((s) => s.diameter_m ?? 0.1));
        const f = frame([
          { x: 0, y: -most / 2 },
          { x: long, y: most / 2 },
        ]);
        const supports = Array.isArray(request.supports_m) ? (request.supports_m as number[]) : [];
        supports.forEach((s, i) => {
          const p = f.put(s, -most / 2);
          m.lines.push({
            d: `M${p.x} ${p.y + 2}l10 22h-20Z`,
            class: "fill-base-300 stroke-base-content",
          });
          m.words.push({
            x: p.x,
            y: p.y + 40,
            text: print("force", got(`reactions_kn[${i}]`)),
            anchor: "middle",
          });
        });
        const saw = f.put(ask("cut_at_m"), 0);
        const bottom = answer?.tension === "bottom";
        m.words = m.words.slice(stations.length);
        m.lines.push({
          d: `M${saw.x} ${saw.y - 60}V${saw.y + 60}`,
          class: "stroke-primary",
          width: 3,
        });
        m.words.push({
          x: saw.x,
          y: bottom ? saw.y - 66 : saw.y + 76,
          text: "begin here, shallow",
          anchor: "middle",
        });
        return m;
      }
      case "wraps": {
        const turns = Math.max(0, Math.min(9, got("wraps", ask("wraps", 3))));
        const m: Marks = { lines: [], dots: [], words: [] };
        m.lines.push({ d: "M230 20h100v200h-100Z", class: "fill-base-200 stroke-base-content" });
        const whole = Math.ceil(turns);
        for (let i = 0; i < whole; i++) {
          const y = 60 + i * 16;
          const share = Math.min(1, turns - i);
          m.lines.push({
            d: `M230 ${y}L${230 + 100 * share} ${y + 9 * share}`,
            class: ropes,
            width: 6,
          });
        }
        m.lines.push({ d: "M30 60H230", class: ropes, width: 5 });
        m.lines.push({
          d: `M330 ${60 + Math.max(0, whole - 1) * 16 + 9}L520 210`,
          class: ropes,
          width: 3,
        });
        m.words.push({
          x: 40,
          y: 50,
          text: `line ${print("force", ask("line_kn", got("line_kn")))}`,
        });
        m.words.push({
          x: 440,
          y: 200,
          text: `hand ${print("force", ask("hand_kn", got("hand_kn")))}`,
        });
        return m;
      }
      case "vector": {
        const half = ask("span_m", 10) / 2;
        const sag = got("deflection_m");
        const f = frame([
          { x: -half, y: 0 },
          { x: half, y: 0 },
          { x: 0, y: -Math.max(sag, half * 0.1) },
        ]);
        const [a, b, c] = [f.put(-half, 0), f.put(half, 0), f.put(0, -sag)];
        return {
          lines: [
            { d: path([a, c, b], false), class: ropes, width: 3 },
            { d: `M${c.x} ${c.y}v40m-6 -9l6 9l6 -9`, class: "stroke-primary fill-none", width: 3 },
          ],
          dots: [a, b].map((p) => ({ ...p, r: 6, class: "fill-base-content" })),
          words: [
            {
              x: (a.x + c.x) / 2,
              y: (a.y + c.y) / 2 - 10,
              text: print("force", got("tension_kn")),
              anchor: "middle",
            },
            { x: c.x + 12, y: c.y + 36, text: print("force", ask("side_force_kn")) },
          ],
        };
      }
      case "line":
      case "heat": {
        const points = rows(request.points);
        if (points.length < 2) return none;
        const f = frame(points.map((p) => ({ x: p.x ?? 0, y: p.z ?? 0 })));
        const placed = points.map((p) => f.put(p.x ?? 0, p.z ?? 0));
        const legs = rows(answer?.legs);
        return {
          lines: [{ d: path(placed, false), class: ropes, width: 3 }],
          dots: placed.map((p, i) => ({
            ...p,
            r: i ? 7 : 10,
            class: i ? "fill-base-100 stroke-base-content" : "fill-primary",
          })),
          words: [
            ...placed.map((p, i) => ({
              x: p.x + 12,
              y: p.y - 8,
              text: String(points[i]?.name ?? ""),
            })),
            ...legs.map((leg, i) => ({
              x: ((placed[i]?.x ?? 0) + (placed[i + 1]?.x ?? 0)) / 2 + 6,
              y: ((placed[i]?.y ?? 0) + (placed[i + 1]?.y ?? 0)) / 2,
              text: print("force", leg.tension_kn ?? 0),
            })),
          ],
        };
      }
      case "fell":
      case "fell-sim":
      case "push":
      case "midline-weight": {
        const high = ask("tree.top_height_m", ask("tree.cog_height_m", 8) * 2);
        const tie =
          kind === "push"
            ? ask("height_m", 4)
            : ask(
                "pull.attach_height_m",
                ask("lines[0].attach_height_m", ask("attach_height_m", high * 0.7)),
              );
        const out = ask(
          "pull.anchor_distance_m",
          ask("lines[0].anchor_distance_m", ask("anchor_distance_m", 20)),
        );
        const top = Math.max(high, tie * 1.2);
        const f = frame([
          { x: -4, y: 0 },
          { x: kind === "push" ? top : out, y: 0 },
          { x: 0, y: top },
        ]);
        const [foot, tip, tied, anchor] = [
          f.put(0, 0),
          f.put(0, top),
          f.put(0, tie),
          f.put(out, 0),
        ];
        const cog = f.put(ask("tree.cog_forward_m"), ask("tree.cog_height_m", top / 2));
        const m: Marks = {
          lines: [
            { d: `M20 ${foot.y}H${wide - 20}`, class: "stroke-base-content", width: 1.5 },
            { d: path([foot, tip], false), class: "stroke-[var(--wood)]", width: 12 },
            { d: path([foot, tip], false), class: ink, width: 2 },
          ],
          dots: [],
          words: [],
        };
        if (kind !== "midline-weight")
          m.dots.push({ ...cog, r: 7, class: "fill-base-100 stroke-primary" });
        if (kind === "push") {
          m.lines.push({
            d: `M${tied.x - 80} ${tied.y}H${tied.x - 8}m-10 -7l10 7l-10 7`,
            class: "stroke-primary fill-none",
            width: 4,
          });
          m.words.push({ x: tied.x - 84, y: tied.y - 10, text: print("force", got("push_kn")) });
        } else if (kind === "midline-weight") {
          const weight = f.put(out / 2, got("curve[0].weight_at_m"));
          m.lines.push({ d: path([tied, weight, anchor], false), class: ropes, width: 3 });
          m.dots.push({ ...weight, r: 11, class: "fill-base-content" });
          m.words.push({
            x: weight.x,
            y: weight.y + 28,
            text: print("mass", ask("weight_kg")),
            anchor: "middle",
          });
        } else {
          m.lines.push({ d: path([tied, anchor], false), class: ropes, width: 3 });
          m.words.push({
            x: (tied.x + anchor.x) / 2 + 6,
            y: (tied.y + anchor.y) / 2 - 8,
            text: print("force", kind === "fell" ? got("pull_kn") : got("lines[0].peak_kn")),
          });
        }
        return m;
      }
      case "reach": {
        const high = ask("top_height_m", 10);
        const hinge = ask("hinge_height_m", 0.3);
        const slope = Math.tan((ask("slope_deg") * Math.PI) / 180);
        const tip = got("tip_m", high);
        const far = got("farthest_m", high);
        const f = frame([
          { x: 0, y: high },
          { x: far, y: -slope * far },
          { x: 0, y: 0 },
        ]);
        const [foot, top, cut, down, farthest] = [
          f.put(0, 0),
          f.put(0, high),
          f.put(0, hinge),
          f.put(tip, -slope * tip),
          f.put(far, -slope * far),
        ];
        return {
          lines: [
            { d: path([foot, farthest], false), class: "stroke-base-content", width: 2 },
            { d: path([foot, top], false), class: ink, width: 5 },
            { d: path([cut, down], false), class: "stroke-primary", width: 5 },
          ],
          dots: [{ ...farthest, r: 6, class: "fill-primary" }],
          words: [
            { x: down.x - 8, y: down.y - 14, text: print("height", tip), anchor: "end" },
            {
              x: farthest.x,
              y: farthest.y + 20,
              text: `farthest ${print("height", far)}`,
              anchor: "end",
            },
          ],
        };
      }
      case "two-tie": {
        const ties = rows(request.ties) as unknown as { point: { x: number; z: number } }[];
        const held = rows(answer?.ties) as unknown as {
          at: { x: number; z: number };
          tension_kn: number;
        }[];
        const butt = { x: got("butt.x"), y: got("butt.z") };
        const tip = { x: got("tip.x"), y: got("tip.z") };
        if (!answer || ties.length < 2 || held.length < 2) return none;
        const f = frame([butt, tip, ...ties.map((t) => ({ x: t.point.x, y: t.point.z }))]);
        const m: Marks = {
          lines: [
            {
              d: path([f.put(butt.x, butt.y), f.put(tip.x, tip.y)], false),
              class: "stroke-primary",
              width: 9,
            },
          ],
          dots: [],
          words: [],
        };
        ties.forEach((t, i) => {
          const p = f.put(t.point.x, t.point.z);
          const q = f.put(held[i]?.at.x ?? 0, held[i]?.at.z ?? 0);
          m.lines.push({ d: path([p, q], false), class: ropes, width: 3 });
          m.dots.push({ ...p, r: 7, class: "fill-base-100 stroke-base-content" });
          m.words.push({
            x: p.x + 10,
            y: p.y + 22,
            text: print("force", held[i]?.tension_kn ?? 0),
          });
        });
        return m;
      }
      case "drag":
      case "grip": {
        const slope = (ask("slope_deg") * Math.PI) / 180;
        const f = frame([
          { x: -4, y: -4 * Math.tan(slope) },
          { x: 6, y: 6 * Math.tan(slope) },
          { x: 0, y: 2 },
        ]);
        const on = (x: number, up: number): Point =>
          f.put(x - up * Math.sin(slope), x * Math.tan(slope) + up * Math.cos(slope));
        const lead = slope + (ask("line_angle_deg", ask("line_up_deg")) * Math.PI) / 180;
        const start = on(2, 0.4);
        const end = { x: start.x + 130 * Math.cos(lead), y: start.y - 130 * Math.sin(lead) };
        return {
          lines: [
            { d: path([on(-4, 0), on(6, 0)], false), class: "stroke-base-content", width: 2 },
            {
              d: path([on(-1.5, 0), on(2, 0), on(2, 0.8), on(-1.5, 0.8)], true),
              class: kind === "drag" ? wood : "fill-base-300 stroke-base-content",
            },
            { d: path([start, end], false), class: ropes, width: 4 },
          ],
          dots: [],
          words: [{ x: end.x - 30, y: end.y - 12, text: print("force", got("pull_kn")) }],
        };
      }
      case "pick": {
        const long = ask("piece.length_m", 5);
        const tilt = (got("tilt_deg") * Math.PI) / 180;
        const hook = got("hook_over_m", long / 2);
        const high = got("hook_height_m", 3);
        const at = (s: number): Point => ({
          x: (s - hook) * Math.cos(tilt),
          y: -(s - hook) * Math.sin(tilt) - high,
        });
        const slings = rows(request.slings);
        const f = frame([{ x: 0, y: 0 }, at(0), at(long)]);
        const top = f.put(0, 0);
        const m: Marks = {
          lines: [
            {
              d: path([f.put(at(0).x, at(0).y), f.put(at(long).x, at(long).y)], false),
              class: "stroke-primary",
              width: 10,
            },
          ],
          dots: [{ ...top, r: 8, class: "fill-base-100 stroke-base-content" }],
          words: [],
        };
        slings.forEach((s, i) => {
          const on = at(s.at_m ?? 0);
          const p = f.put(on.x, on.y);
          m.lines.push({ d: path([top, p], false), class: ropes, width: 3 });
          m.words.push({
            x: p.x,
            y: p.y + 24,
            text: print("force", got(`slings[${i}].tension_kn`)),
            anchor: "middle",
          });
        });
        return m;
      }
      case "spar": {
        const stations = rows(request.stations);
        const high = stations.at(-1)?.at_m ?? 10;
        const f = frame([
          { x: -high / 3, y: 0 },
          { x: high / 3, y: high },
        ]);
        const middle = stations.map((s) => f.put(0, s.at_m ?? 0));
        const m: Marks = {
          lines: [
            {
              d: outline(
                middle,
                stations.map((s) => Math.max(4, (s.diameter_m ?? 0.3) * f.scale)),
              ),
              class: wood,
            },
          ],
          dots: [],
          words: [],
        };
        for (const load of rows(request.loads)) {
          const p = f.put(0, load.at_m ?? 0);
          m.lines.push({
            d: `M${p.x} ${p.y}h60m-9 -6l9 6l-9 6`,
            class: "stroke-info fill-none",
            width: 3,
          });
          m.words.push({ x: p.x + 66, y: p.y + 5, text: print("force", load.horizontal_kn ?? 0) });
        }
        const worst = f.put(0, got("worst.at_m"));
        m.lines.push({ d: `M${worst.x - 30} ${worst.y}h60`, class: "stroke-error", width: 3 });
        return m;
      }
      default:
        return none;
    }
  });
</script>

{#if marks.lines.length}
  <svg
    viewBox={`0 0 ${wide} ${tall}`}
    class="block max-h-72 w-full text-[15px]"
    role="img"
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
      <text x={one.x} y={one.y} text-anchor={one.anchor} class="fill-base-content halo font-bold"
        >{one.text}</text
      >
    {/each}
  </svg>
{/if}
