// Lines, blocks, bollards and what hangs in them.
import { path } from "../../draw/view";
import { print } from "../../reference.svelte";
import { blank, post, rope, round, Scene, type Drawing } from "./canvas";

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

export const ofRopes: Record<string, (s: Scene) => Drawing> = {
  wraps,
  vector,
  line,
  heat: line,
  "two-tie": twoTie,
  "two-line": twoLine,
};
