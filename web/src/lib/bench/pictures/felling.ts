// Trees that are pulled over, and what pulls on the ground.
import { path, type Point } from "../../draw/view";
import { print } from "../../reference.svelte";
import { blank, grey, ink, rope, round, Scene, wide, wood, type Drawing } from "./canvas";

/** Where the tie, the anchor and its height of a kind stand. */
const lines: Record<string, { tie: string; out: string; up: string }> = {
  fell: {
    tie: "pull.attach_height_m",
    out: "pull.anchor_distance_m",
    up: "pull.anchor_height_m",
  },
  "fell-sim": {
    tie: "lines[0].attach_height_m",
    out: "lines[0].anchor_distance_m",
    up: "lines[0].anchor_height_m",
  },
  "midline-weight": {
    tie: "attach_height_m",
    out: "anchor_distance_m",
    up: "anchor_height_m",
  },
  push: { tie: "height_m", out: "", up: "" },
};

function tree(s: Scene): Drawing {
  const at = lines[s.kind] ?? { tie: "", out: "", up: "" };
  const high = s.ask("tree.top_height_m", s.ask("tree.cog_height_m", 8) * 2);
  const tie = s.ask(at.tie, high * 0.7);
  const out = at.out ? s.ask(at.out, 20) : 0;
  const up = at.up ? s.ask(at.up) : 0;
  const top = Math.max(high, tie * 1.2);
  const f = s.frame([
    { x: -4, y: 0 },
    { x: at.out ? out : top, y: Math.min(0, up) },
    { x: 0, y: top },
  ]);
  const [foot, tip, tied, anchor] = [f.put(0, 0), f.put(0, top), f.put(0, tie), f.put(out, up)];
  const m = blank();
  m.lines.push(
    { d: `M20 ${foot.y}H${wide - 20}`, class: "stroke-base-content", width: 1.5 },
    { d: path([foot, tip], false), class: "stroke-[var(--wood)]", width: 12 },
    { d: path([foot, tip], false), class: ink, width: 2 },
  );
  if (s.kind !== "midline-weight") {
    const cog = f.put(s.ask("tree.cog_forward_m"), s.ask("tree.cog_height_m", top / 2));
    m.dots.push({ ...cog, r: 7, class: "fill-base-100 stroke-primary" });
    m.grips.push({
      ...cog,
      label: "Its balance",
      path: "tree.cog_forward_m",
      moved: (to) => {
        const p = f.back(to);
        return [
          ["tree.cog_forward_m", round(p.x)],
          ["tree.cog_height_m", round(Math.max(0.1, Math.min(top, p.y)), 0.1)],
        ];
      },
    });
  }
  m.grips.push({
    ...tied,
    label: s.kind === "push" ? "Where it is pushed" : "Where the line is tied",
    path: at.tie,
    moved: (to) => [[at.tie, round(Math.max(0.5, f.back(to).y), 0.1)]],
  });
  if (at.out)
    m.grips.push({
      ...anchor,
      label: "The anchor",
      path: at.out,
      moved: (to) => {
        const p = f.back(to);
        return [
          [at.out, round(Math.max(0.5, p.x), 0.1)],
          [at.up, round(p.y, 0.1)],
        ];
      },
    });
  if (s.kind === "push") {
    m.lines.push({
      d: `M${tied.x - 80} ${tied.y}H${tied.x - 8}m-10 -7l10 7l-10 7`,
      class: "stroke-primary fill-none",
      width: 4,
    });
    m.words.push({ x: tied.x - 84, y: tied.y - 10, text: print("force", s.got("push_kn")) });
  } else if (s.kind === "midline-weight") {
    const weight = f.put(s.got("curve[0].weight_out_m"), s.got("curve[0].weight_at_m"));
    m.lines.push({ d: path([tied, weight, anchor], false), class: rope, width: 3 });
    m.dots.push({ ...weight, r: 11, class: "fill-base-content" });
    m.words.push({
      x: weight.x,
      y: weight.y + 28,
      text: print("mass", s.ask("weight_kg")),
      anchor: "middle",
    });
  } else {
    m.lines.push({ d: path([tied, anchor], false), class: rope, width: 3 });
    m.words.push({
      x: (tied.x + anchor.x) / 2 + 6,
      y: (tied.y + anchor.y) / 2 - 8,
      text: print("force", s.kind === "fell" ? s.got("pull_kn") : s.got("lines[0].peak_kn")),
    });
  }
  return m;
}

function reach(s: Scene): Drawing {
  const high = s.ask("top_height_m", 10);
  const hinge = s.ask("hinge_height_m", 0.3);
  const slope = Math.tan((s.ask("slope_deg") * Math.PI) / 180);
  const tip = s.got("tip_m", high);
  const far = s.got("farthest_m", high);
  const f = s.frame([
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
  const m = blank();
  m.lines.push(
    { d: path([foot, farthest], false), class: "stroke-base-content", width: 2 },
    { d: path([foot, top], false), class: ink, width: 5 },
    { d: path([cut, down], false), class: "stroke-primary", width: 5 },
  );
  m.dots.push({ ...farthest, r: 6, class: "fill-primary" });
  m.words.push(
    { x: down.x - 8, y: down.y - 14, text: print("height", tip), anchor: "end" },
    { x: farthest.x, y: farthest.y + 20, text: `farthest ${print("height", far)}`, anchor: "end" },
  );
  m.grips.push(
    {
      ...top,
      label: "The top",
      path: "top_height_m",
      moved: (to) => [["top_height_m", round(Math.max(1, f.back(to).y), 0.1)]],
    },
    {
      ...down,
      label: "The slope",
      path: "slope_deg",
      moved: (to) => {
        const p = f.back(to);
        return [
          [
            "slope_deg",
            round(
              Math.max(-45, Math.min(45, (Math.atan2(-p.y, Math.max(0.1, p.x)) * 180) / Math.PI)),
              1,
            ),
          ],
        ];
      },
    },
  );
  return m;
}

/** A log, or a vehicle, on a slope with a line on it. */
function slope(s: Scene): Drawing {
  const steep = (s.ask("slope_deg") * Math.PI) / 180;
  const lead = s.kind === "drag" ? "line_angle_deg" : "line_up_deg";
  const f = s.frame([
    { x: -4, y: -4 * Math.tan(steep) },
    { x: 6, y: 6 * Math.tan(steep) },
    { x: 0, y: 2 },
  ]);
  const on = (x: number, up: number): Point =>
    f.put(x - up * Math.sin(steep), x * Math.tan(steep) + up * Math.cos(steep));
  const angle = steep + (s.ask(lead) * Math.PI) / 180;
  const start = on(2, 0.4);
  const end = { x: start.x + 130 * Math.cos(angle), y: start.y - 130 * Math.sin(angle) };
  const m = blank();
  m.lines.push(
    { d: path([on(-4, 0), on(6, 0)], false), class: "stroke-base-content", width: 2 },
    {
      d: path([on(-1.5, 0), on(2, 0), on(2, 0.8), on(-1.5, 0.8)], true),
      class: s.kind === "drag" ? wood : grey,
    },
    { d: path([start, end], false), class: rope, width: 4 },
  );
  m.words.push({ x: end.x - 30, y: end.y - 14, text: print("force", s.got("pull_kn")) });
  const low = on(-4, 0);
  m.grips.push(
    {
      ...end,
      label: "The line",
      path: lead,
      moved: (to) => [
        [
          lead,
          round(
            Math.max(
              -60,
              Math.min(
                80,
                (Math.atan2(start.y - to.y, to.x - start.x) * 180) / Math.PI - s.ask("slope_deg"),
              ),
            ),
            1,
          ),
        ],
      ],
    },
    {
      ...low,
      label: "The slope",
      path: "slope_deg",
      moved: (to) => {
        const p = f.back(to);
        return [
          [
            "slope_deg",
            round(
              Math.max(-40, Math.min(40, (Math.atan2(-p.y, Math.max(0.5, -p.x)) * 180) / Math.PI)),
              1,
            ),
          ],
        ];
      },
    },
  );
  return m;
}

export const ofFelling: Record<string, (s: Scene) => Drawing> = {
  fell: tree,
  "fell-sim": tree,
  push: tree,
  "midline-weight": tree,
  reach,
  drag: slope,
  grip: slope,
};
