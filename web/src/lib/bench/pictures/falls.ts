// What falls onto a line, and swings on it.
import { path } from "../../draw/view";
import { print } from "../../reference.svelte";
import {
  blank,
  box,
  grey,
  ink,
  post,
  rope,
  round,
  Scene,
  wide,
  wood,
  type Drawing,
  type Frame,
} from "./canvas";

/** A piece that stands on its cut, and hangs where its line stops it. */
function drop(s: Scene): Drawing {
  const [long, tie, block] = [
    s.ask("piece.length_m", 2),
    s.ask("tie_above_cut_m"),
    s.ask("block_below_cut_m"),
  ];
  // How low it comes is drawn where the sum tells it.
  const lowest = s.got("lowest_m");
  const stem = Math.max(block + 1, lowest * 1.05);
  const f = s.frame([
    { x: -stem / 2, y: long },
    { x: stem / 2, y: -stem },
  ]);
  const half = Math.max(0.12, long / 16);
  const m = blank();
  m.lines.push(
    { d: box(f, -half, 0, half, -stem), class: wood },
    { d: box(f, -half, 0, half, long), class: "fill-primary/40 stroke-primary" },
  );
  m.lines.push({
    d: path([f.put(half, -block), f.put(half, -stem)], false),
    class: rope,
    width: 2,
  });
  const [top, tied, turn, cog] = [
    f.put(0, long),
    f.put(-half, tie),
    f.put(0, -block),
    f.put(0, s.ask("piece.cog_above_cut_m")),
  ];
  m.dots.push(
    { ...turn, r: 8, class: post },
    { ...cog, r: 6, class: "fill-base-100 stroke-primary" },
  );
  m.words.push(
    { x: turn.x - 14, y: turn.y + 5, text: print("force", s.got("block_peak_kn")), anchor: "end" },
    { x: top.x + 16, y: top.y + 5, text: print("mass", s.ask("piece.mass_kg")) },
  );
  if (lowest > 0) {
    // Beside the stem, its tie up: its lower end as low as the sum says.
    const side = half * 5;
    const hangs = f.put(side, -lowest + (long - tie));
    m.lines.push(
      {
        d: box(f, side - half, -lowest, side + half, -lowest + long),
        class: "fill-primary/15 stroke-primary",
        dash: "4 4",
      },
      { d: path([turn, hangs], false), class: rope, width: 3 },
    );
    const low = f.put(side + half, -lowest);
    m.words.push(
      { x: low.x + 8, y: low.y + 4, text: `${print("height", lowest)} under the cut` },
      { x: hangs.x + 10, y: (turn.y + hangs.y) / 2, text: print("force", s.got("line_peak_kn")) },
    );
  }
  m.grips.push(
    {
      ...top,
      label: "Length of the piece",
      path: "piece.length_m",
      moved: (to) => [["piece.length_m", round(Math.max(0.2, f.back(to).y))]],
    },
    {
      ...tied,
      label: "The tie",
      path: "tie_above_cut_m",
      moved: (to) => [["tie_above_cut_m", round(Math.max(0, f.back(to).y))]],
    },
    {
      ...turn,
      label: "The block",
      path: "block_below_cut_m",
      moved: (to) => [["block_below_cut_m", round(Math.max(0, -f.back(to).y))]],
    },
    {
      ...cog,
      label: "Its balance",
      path: "piece.cog_above_cut_m",
      moved: (to) => [["piece.cog_above_cut_m", round(Math.max(0.05, f.back(to).y))]],
    },
  );
  return m;
}

/** A weight that sinks onto its line. */
function caught(s: Scene): Drawing {
  const [long, sink] = [s.ask("line_m", 5), s.ask("sink_m")];
  const end = long + s.got("stretch_m") + s.got("run_m");
  const f = s.frame([
    { x: -long / 2, y: 0 },
    { x: long / 2, y: -Math.max(end, long) - long * 0.1 },
  ]);
  const [point, was, is] = [f.put(0, 0), f.put(0, -(long - sink)), f.put(0, -end)];
  const m = blank();
  m.lines.push(
    { d: path([point, is], false), class: rope, width: 3 },
    {
      d: `M${was.x - 20} ${was.y - 14}h40v28h-40Z`,
      class: "fill-primary/15 stroke-primary",
      dash: "4 4",
    },
    { d: `M${is.x - 20} ${is.y - 14}h40v28h-40Z`, class: "fill-primary/60 stroke-primary" },
  );
  m.dots.push({ ...point, r: 8, class: post });
  m.words.push(
    { x: is.x + 30, y: is.y + 5, text: print("force", s.got("line_peak_kn")) },
    { x: was.x - 30, y: was.y + 5, text: `sinks ${print("height", sink)}`, anchor: "end" },
  );
  m.grips.push({
    ...was,
    label: "How far it sinks",
    path: "sink_m",
    moved: (to) => [["sink_m", round(Math.max(0, long + f.back(to).y), 0.05)]],
  });
  return m;
}

/** A piece that swings, seen square to its plane. */
function swing(s: Scene): Drawing {
  const [dx, dy] = [s.ask("tie.x") - s.ask("pivot.x"), s.ask("tie.y") - s.ask("pivot.y")];
  const out = Math.max(0.01, Math.hypot(dx, dy));
  const way = { x: dx / out, y: dy / out };
  const top = s.ask("pivot.z");
  const long = s.got("radius_m", Math.hypot(out, top - s.ask("tie.z")));
  const ground = s.ask("ground_z");
  const from = (s.got("start_deg") * Math.PI) / 180;
  const reach = s.ask("reach_m");
  const f = s.frame([
    { x: -out - reach, y: ground },
    { x: out + reach, y: top },
  ]);
  const m = blank();
  const g = f.put(0, ground);
  m.lines.push({ d: `M20 ${g.y}H${wide - 20}`, class: ink, width: 1.5 });
  for (const one of s.rows("obstacles") as unknown as {
    name: string;
    min: { x: number; y: number; z: number };
    max: { x: number; y: number; z: number };
  }[]) {
    // Its shadow on the plane.
    const ends = [one.min.x, one.max.x].flatMap((x) =>
      [one.min.y, one.max.y].map(
        (y) => (x - s.ask("pivot.x")) * way.x + (y - s.ask("pivot.y")) * way.y,
      ),
    );
    m.lines.push({
      d: box(f, Math.min(...ends), one.min.z, Math.max(...ends), one.max.z),
      class: grey,
    });
    const p = f.put(Math.min(...ends), one.max.z);
    m.words.push({ x: p.x, y: p.y - 6, text: one.name });
  }
  const arc = Array.from({ length: 41 }, (_, i) => {
    const at = from * (1 - i / 20);
    return f.put(long * Math.sin(at), top - long * Math.cos(at));
  });
  const [pivot, tie, low] = [f.put(0, top), f.put(out, s.ask("tie.z")), f.put(0, top - long)];
  m.lines.push(
    { d: path(arc, false), class: "stroke-primary fill-none", dash: "5 5", width: 2 },
    { d: path([pivot, tie], false), class: rope, width: 3 },
    { d: path([pivot, low], false), class: "stroke-info fill-none", dash: "3 4" },
  );
  m.dots.push(
    { ...pivot, r: 8, class: post },
    { ...low, r: Math.max(5, reach * f.scale), class: "fill-primary/20 stroke-primary" },
  );
  m.words.push({ x: low.x + 12, y: low.y - 8, text: print("force", s.got("line_kn")) });
  m.grips.push(
    {
      ...tie,
      label: "The tie",
      path: "tie.z",
      moved: (to) => {
        const p = f.back(to);
        const far = Math.max(0.05, p.x);
        return [
          ["tie.x", round(s.ask("pivot.x") + way.x * far)],
          ["tie.y", round(s.ask("pivot.y") + way.y * far)],
          ["tie.z", round(Math.min(top, p.y), 0.1)],
        ];
      },
    },
    {
      ...pivot,
      label: "The point it hangs from",
      path: "pivot.z",
      moved: (to) => [["pivot.z", round(f.back(to).y, 0.1)]],
    },
  );
  return m;
}

/** A plot of places that are read off, not to one scale. */
function plot(xs: number[], ys: number[], tall: number): Frame {
  const [right, high] = [Math.max(0.1, ...xs), Math.max(0.1, ...ys)];
  const [w, h] = [wide - 120, tall - 70];
  return {
    scale: w / right,
    put: (x, y) => ({ x: 60 + (x / right) * w, y: tall - 40 - (y / high) * h }),
    back: (p) => ({ x: ((p.x - 60) / w) * right, y: ((tall - 40 - p.y) / h) * high }),
  };
}

/** A load against time as it was recorded. */
function trace(s: Scene): Drawing {
  const times = (s.request.t_s as number[] | undefined) ?? [];
  const loads = (s.request.kn as number[] | undefined) ?? [];
  const m = blank();
  if (times.length < 2) return m;
  const f = (s.used ??= s.holds() ?? plot(times, loads, s.tall));
  const points = times.map((t, i) => f.put(t, loads[i] ?? 0));
  const [zero, end] = [f.put(0, 0), f.put(times.at(-1) ?? 1, 0)];
  m.lines.push(
    { d: path([zero, end], false), class: ink },
    { d: path(points, false), class: rope, width: 3 },
  );
  const rest = f.put(0, s.got("rest_kn"));
  m.lines.push({
    d: `M${zero.x} ${rest.y}H${end.x}`,
    class: "stroke-primary",
    dash: "5 5",
    width: 2,
  });
  const peak = f.put(s.got("peak_at_s"), s.got("peak_kn"));
  m.dots.push({ ...peak, r: 7, class: "fill-primary" });
  m.words.push(
    { x: peak.x + 12, y: peak.y + 4, text: `peak ${print("force", s.got("peak_kn"))}` },
    { x: end.x, y: rest.y - 8, text: `at rest ${print("force", s.got("rest_kn"))}`, anchor: "end" },
    { x: end.x, y: end.y + 20, text: `${times.at(-1) ?? 0} s`, anchor: "end" },
  );
  if (points.length <= 40)
    m.grips = points.map((p, i) => ({
      ...p,
      label: `Load at ${times[i] ?? 0} s`,
      path: `kn[${i}]`,
      moved: (to) => [[`kn[${i}]`, round(Math.max(0, f.back(to).y), 0.05)]],
    }));
  return m;
}

export const ofFalls: Record<string, (s: Scene) => Drawing> = {
  drop,
  "drop-sim": drop,
  catch: caught,
  swing,
  "trace-read": trace,
};
