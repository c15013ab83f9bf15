// Lines, blocks, bollards and what falls onto them.
import { path, type Point } from "../../draw/view";
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

function wraps(s: Scene): Drawing {
  const turns = Math.max(0, Math.min(9, s.got("wraps", s.ask("wraps", 3))));
  const whole = Math.ceil(turns);
  const m = blank();
  m.lines.push({ d: "M230 20h100v200h-100Z", class: "fill-base-200 stroke-base-content" });
  for (let i = 0; i < whole; i++) {
    const y = 60 + i * 16;
    const share = Math.min(1, turns - i);
    m.lines.push({
      d: `M230 ${y}L${230 + 100 * share} ${y + 9 * share}`,
      class: rope,
      width: 6,
    });
  }
  const last = 60 + Math.max(0, whole - 1) * 16 + 9;
  m.lines.push(
    { d: "M30 60H230", class: rope, width: 5 },
    { d: `M330 ${last}L520 210`, class: rope, width: 3 },
  );
  m.words.push(
    { x: 40, y: 50, text: `line ${print("force", s.ask("line_kn", s.got("line_kn")))}` },
    {
      x: 440,
      y: 200,
      text: `hand ${print("force", s.ask("hand_kn", s.got("hand_kn")))}`,
    },
  );
  if (s.has("wraps"))
    m.grips.push({
      x: 330,
      y: last,
      label: "Turns on the bollard",
      path: "wraps",
      moved: (to) => [["wraps", round(Math.max(0.5, Math.min(9, (to.y - 53) / 16)), 0.5)]],
    });
  return m;
}

function vector(s: Scene): Drawing {
  const half = s.ask("span_m", 10) / 2;
  const sag = s.got("deflection_m");
  const f = s.frame([
    { x: -half, y: 0 },
    { x: half, y: 0 },
    { x: 0, y: -Math.max(sag, half * 0.1) },
  ]);
  const [a, b, c] = [f.put(-half, 0), f.put(half, 0), f.put(0, -sag)];
  const m = blank();
  m.lines.push(
    { d: path([a, c, b], false), class: rope, width: 3 },
    { d: `M${c.x} ${c.y}v40m-6 -9l6 9l6 -9`, class: "stroke-primary fill-none", width: 3 },
  );
  m.dots.push(...[a, b].map((p) => ({ ...p, r: 6, class: "fill-base-content" })));
  m.words.push(
    {
      x: (a.x + c.x) / 2,
      y: (a.y + c.y) / 2 - 10,
      text: print("force", s.got("tension_kn")),
      anchor: "middle",
    },
    { x: c.x + 12, y: c.y + 36, text: print("force", s.ask("side_force_kn")) },
  );
  m.grips.push(
    {
      ...b,
      label: "The span",
      path: "span_m",
      moved: (to) => [["span_m", round(Math.max(0.5, 2 * f.back(to).x), 0.1)]],
    },
    {
      x: c.x,
      y: c.y + 40,
      label: "The pull to the side",
      path: "side_force_kn",
      // A tenth of a kilonewton for every four steps of the picture.
      moved: (to) => [
        [
          "side_force_kn",
          round(Math.max(0.05, s.ask("side_force_kn") + (to.y - c.y - 40) / 40), 0.05),
        ],
      ],
    },
  );
  return m;
}

function line(s: Scene): Drawing {
  const points = s.rows("points");
  const m = blank();
  if (points.length < 2) return m;
  const f = s.frame(points.map((p) => ({ x: p.x ?? 0, y: p.z ?? 0 })));
  const placed = points.map((p) => f.put(p.x ?? 0, p.z ?? 0));
  m.lines.push({ d: path(placed, false), class: rope, width: 3 });
  m.dots = placed.map((p, i) => ({ ...p, r: i ? 7 : 10, class: i ? post : "fill-primary" }));
  m.words.push(
    ...placed.map((p, i) => ({ x: p.x + 12, y: p.y - 8, text: String(points[i]?.name ?? "") })),
    ...s.found("legs").map((leg, i) => ({
      x: ((placed[i]?.x ?? 0) + (placed[i + 1]?.x ?? 0)) / 2 + 6,
      y: ((placed[i]?.y ?? 0) + (placed[i + 1]?.y ?? 0)) / 2,
      text: print("force", leg.tension_kn ?? 0),
    })),
  );
  m.grips = placed.map((p, i) => ({
    ...p,
    label: String(points[i]?.name ?? `Place ${i + 1}`),
    path: `points[${i}].x`,
    moved: (to) => {
      const at = f.back(to);
      return [
        [`points[${i}].x`, round(at.x, 0.1)],
        [`points[${i}].z`, round(at.y, 0.1)],
      ];
    },
  }));
  return m;
}

function twoTie(s: Scene): Drawing {
  const ties = s.rows("ties") as unknown as { at_m: number; point: { x: number; z: number } }[];
  const held = s.found("ties") as unknown as {
    at: { x: number; z: number };
    tension_kn: number;
  }[];
  const m = blank();
  if (ties.length < 2 || held.length < 2) return m;
  const butt = { x: s.got("butt.x"), y: s.got("butt.z") };
  const tip = { x: s.got("tip.x"), y: s.got("tip.z") };
  const f = s.frame([butt, tip, ...ties.map((t) => ({ x: t.point.x, y: t.point.z }))]);
  m.lines.push({
    d: path([f.put(butt.x, butt.y), f.put(tip.x, tip.y)], false),
    class: "stroke-primary",
    width: 9,
  });
  ties.forEach((t, i) => {
    const p = f.put(t.point.x, t.point.z);
    const q = f.put(held[i]?.at.x ?? 0, held[i]?.at.z ?? 0);
    m.lines.push({ d: path([p, q], false), class: rope, width: 3 });
    m.dots.push({ ...p, r: 7, class: post });
    m.words.push({ x: p.x + 10, y: p.y + 22, text: print("force", held[i]?.tension_kn ?? 0) });
    m.grips.push(
      {
        ...p,
        label: `Point of line ${i + 1}`,
        path: `ties[${i}].point.x`,
        moved: (to) => {
          const at = f.back(to);
          return [
            [`ties[${i}].point.x`, round(at.x, 0.1)],
            [`ties[${i}].point.z`, round(at.y, 0.1)],
          ];
        },
      },
      {
        ...q,
        label: `Length of line ${i + 1}`,
        path: `ties[${i}].line_m`,
        moved: (to) => {
          const at = f.back(to);
          return [
            [
              `ties[${i}].line_m`,
              round(Math.max(0.2, Math.hypot(at.x - t.point.x, at.y - t.point.z))),
            ],
          ];
        },
      },
    );
  });
  return m;
}

/** A piece on two lines from two points, in the upright plane through both. */
function twoLine(s: Scene): Drawing {
  const [ax, ay, bx, by] = [s.ask("a.x"), s.ask("a.y"), s.ask("b.x"), s.ask("b.y")];
  const apart = Math.max(0.01, Math.hypot(bx - ax, by - ay));
  const along = { x: (bx - ax) / apart, y: (by - ay) / apart };
  const at = {
    x: (s.got("steepest.at.x") - ax) * along.x + (s.got("steepest.at.y") - ay) * along.y,
    y: s.got("steepest.at.z", s.ask("piece_z")),
  };
  const f = s.frame([
    { x: 0, y: s.ask("a.z") },
    { x: apart, y: s.ask("b.z") },
    { x: at.x, y: at.y - 1 },
  ]);
  const [a, b, piece] = [f.put(0, s.ask("a.z")), f.put(apart, s.ask("b.z")), f.put(at.x, at.y)];
  const m = blank();
  const way = s.found("way") as unknown as { at: { x: number; y: number; z: number } }[];
  if (way.length > 1)
    m.lines.push({
      d: path(
        way.map((w) => f.put((w.at.x - ax) * along.x + (w.at.y - ay) * along.y, w.at.z)),
        false,
      ),
      class: "stroke-primary fill-none",
      dash: "4 5",
    });
  m.lines.push({ d: path([a, piece, b], false), class: rope, width: 3 });
  m.dots.push(
    { ...a, r: 8, class: post },
    { ...b, r: 8, class: post },
    { ...piece, r: 10, class: "fill-primary" },
  );
  m.words.push(
    {
      x: (a.x + piece.x) / 2 - 8,
      y: (a.y + piece.y) / 2 + 4,
      text: print("force", s.got("steepest.a_kn")),
      anchor: "end",
    },
    {
      x: (b.x + piece.x) / 2 + 8,
      y: (b.y + piece.y) / 2 - 8,
      text: print("force", s.got("steepest.b_kn")),
    },
    { x: piece.x, y: piece.y + 36, text: "hardest here", anchor: "middle" },
  );
  m.grips.push(
    {
      ...a,
      label: "First point",
      path: "a.z",
      moved: (to) => [["a.z", round(f.back(to).y, 0.1)]],
    },
    {
      ...b,
      label: "Second point",
      path: "b.z",
      moved: (to) => {
        const p = f.back(to);
        const out = Math.max(0.1, p.x);
        return [
          ["b.x", round(ax + along.x * out, 0.1)],
          ["b.y", round(ay + along.y * out, 0.1)],
          ["b.z", round(p.y, 0.1)],
        ];
      },
    },
  );
  if (s.has("piece_z"))
    m.grips.push({
      ...piece,
      label: "Height of the tie",
      path: "piece_z",
      moved: (to) => [["piece_z", round(f.back(to).y, 0.1)]],
    });
  return m;
}

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

/** What is left of a rope's strength, and what is asked of it. */
function rating(s: Scene): Drawing {
  const m = blank();
  const whole = s.ask("breaking_kn", s.ask("marked_kn", 10));
  const strength = s.got("strength_kn", whole);
  const limit = s.got("limit_kn");
  const most = Math.max(whole, s.ask("peak_kn"), s.ask("marked_kn"), 0.1);
  const f: Frame = (s.used ??= s.holds() ?? {
    scale: (wide - 120) / most,
    put: (x, y) => ({ x: 60 + (x / most) * (wide - 120), y: s.tall / 2 - y }),
    back: (p) => ({ x: ((p.x - 60) / (wide - 120)) * most, y: s.tall / 2 - p.y }),
  });
  m.lines.push(
    { d: box(f, 0, 40, whole, -4), class: "fill-base-200 stroke-base-content" },
    { d: box(f, 0, 40, strength, -4), class: "fill-info/25 stroke-info" },
    { d: box(f, 0, 40, limit, -4), class: "fill-success/45 stroke-success" },
  );
  const label = (kn: number, words: string, y: number, anchor: "start" | "middle" | "end") => {
    const p = f.put(kn, y);
    m.words.push({
      x: p.x + (anchor === "start" ? 14 : 0),
      y: p.y,
      text: `${words} ${print("force", kn)}`,
      anchor,
    });
  };
  label(whole, s.has("breaking_kn") ? "new" : "marked", 88, "end");
  if (strength < whole) label(strength, "left of it", 66, "end");
  label(limit, "limit", 48, "start");
  for (const [path, words, y] of [
    ["resting_kn", "at rest", -40],
    ["peak_kn", "peak", -70],
  ] as const) {
    if (!s.has(path)) continue;
    const p = f.put(s.ask(path), 0);
    m.lines.push({
      d: `M${p.x} ${p.y - 44}V${p.y - y - 18}`,
      class: s.ask(path) > limit ? "stroke-error" : "stroke-primary",
      width: 3,
    });
    label(s.ask(path), words, y - 4, "start");
    m.grips.push({
      x: p.x,
      y: p.y - y - 18,
      label: words === "peak" ? "The peak" : "What it carries at rest",
      path,
      moved: (to) => [[path, round(Math.max(0, f.back(to).x), 0.1)]],
    });
  }
  return m;
}

/** A pulling system: its anchor to the left, what it pulls to the right. */
function haul(s: Scene): Drawing {
  const m = blank();
  const pulleys = s.rows("pulleys") as unknown as { id: string; on: string }[];
  const ropes = s.rows("ropes") as unknown as { id: string; path: string[] }[];
  const legs = s.found("legs") as unknown as {
    rope: string;
    from: string;
    to: string;
    tension_kn: number;
  }[];
  const places = new Map<string, Point>();
  const row = { anchor: 0, load: 0, end: 0 };
  const column = (on: string) => (on === "anchor" ? 110 : on === "load" ? 430 : 280);
  for (const p of pulleys) {
    const on = p.on.startsWith("end") ? "end" : p.on === "load" ? "load" : "anchor";
    places.set(p.id, { x: column(on), y: 60 + 62 * row[on] + (on === "end" ? 20 : 0) });
    row[on]++;
  }
  const at = (stop: string, i: number): Point => {
    switch (stop) {
      case "load":
        return { x: 480, y: 46 + 30 * i };
      case "anchor":
        return { x: 60, y: 46 + 30 * i };
      case "hand":
        return { x: 280, y: s.tall - 22 };
      case "free":
        return { x: 280, y: 84 };
    }
    return places.get(stop) ?? { x: 280, y: 40 };
  };
  m.lines.push(
    { d: `M60 20V${s.tall - 60}`, class: "stroke-base-content", width: 6 },
    { d: `M480 30h56v${s.tall - 110}h-56Z`, class: wood },
  );
  ropes.forEach((r, n) => {
    for (let i = 1; i < r.path.length; i++) {
      // In at the top of a pulley, out at its foot.
      const [from, to] = [r.path[i - 1] ?? "", r.path[i] ?? ""];
      const [c, d] = [at(from, n + i - 1), at(to, n + i)];
      const a = { x: c.x, y: c.y + (places.has(from) ? 10 : 0) };
      const b = { x: d.x, y: d.y - (places.has(to) ? 10 : 0) };
      m.lines.push({ d: path([a, b], false), class: rope, width: 3 });
      const leg = legs.find((l) => l.rope === r.id && l.from === from && l.to === to);
      if (leg)
        m.words.push({
          x: a.x * 0.45 + b.x * 0.55,
          y: a.y * 0.45 + b.y * 0.55 - 7,
          text: print("force", leg.tension_kn),
          anchor: "middle",
        });
    }
  });
  for (const [id, p] of places) {
    m.dots.push({ ...p, r: 11, class: post });
    m.words.push({ x: p.x + 16, y: p.y + 5, text: id });
  }
  m.dots.push({ x: 280, y: s.tall - 22, r: 9, class: "fill-primary" });
  m.words.push(
    { x: 296, y: s.tall - 16, text: `hand ${print("force", s.got("hand_kn"))}` },
    { x: 508, y: s.tall - 62, text: print("force", s.ask("load_kn")), anchor: "middle" },
    { x: 60, y: s.tall - 40, text: "anchor", anchor: "middle" },
  );
  return m;
}

/** A piece under its hook. */
function pick(s: Scene): Drawing {
  const long = s.ask("piece.length_m", 5);
  const tilt = (s.got("tilt_deg") * Math.PI) / 180;
  const hook = s.got("hook_over_m", long / 2);
  const high = s.got("hook_height_m", 3);
  const at = (along: number): Point => ({
    x: (along - hook) * Math.cos(tilt),
    y: -(along - hook) * Math.sin(tilt) - high,
  });
  const f = s.frame([{ x: 0, y: 0 }, at(0), at(long)]);
  const top = f.put(0, 0);
  const m = blank();
  m.lines.push({
    d: path([f.put(at(0).x, at(0).y), f.put(at(long).x, at(long).y)], false),
    class: "stroke-primary",
    width: 10,
  });
  m.dots.push({ ...top, r: 8, class: post });
  const cog = at(s.ask("piece.cog_m", long / 2));
  m.dots.push({ ...f.put(cog.x, cog.y), r: 6, class: "fill-base-100 stroke-primary" });
  s.rows("slings").forEach((sling, i) => {
    const on = at(sling.at_m ?? 0);
    const p = f.put(on.x, on.y);
    m.lines.push({ d: path([top, p], false), class: rope, width: 3 });
    m.words.push({
      x: p.x,
      y: p.y + 24,
      text: print("force", s.got(`slings[${i}].tension_kn`)),
      anchor: "middle",
    });
    m.grips.push({
      ...p,
      label: `Sling ${String(sling.name ?? i + 1)}`,
      path: `slings[${i}].at_m`,
      moved: (to) => {
        const place = f.back(to);
        return [
          [
            `slings[${i}].at_m`,
            round(Math.max(0, Math.min(long, hook + place.x / Math.max(0.2, Math.cos(tilt))))),
          ],
        ];
      },
    });
  });
  return m;
}

export const ofRopes: Record<string, (s: Scene) => Drawing> = {
  wraps,
  vector,
  line,
  heat: line,
  "two-tie": twoTie,
  "two-line": twoLine,
  drop,
  "drop-sim": drop,
  catch: caught,
  swing,
  "trace-read": trace,
  rating,
  haul,
  pick,
};
