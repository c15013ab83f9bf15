// What is sawn, and how.
import { outline, path } from "../../draw/view";
import { print } from "../../reference.svelte";
import { blank, round, Scene, wood, type Drawing } from "./canvas";

/** An upright log on its bridge, pushed by hand. */
function snap(s: Scene): Drawing {
  const cog = s.ask("cog_height_m", 0.5);
  const high = Math.max(2 * cog, s.ask("push.height_m") * 1.15);
  const edge = s.ask("bridge_to_edge_m", 0.1);
  const lean = (s.ask("lean_deg") * Math.PI) / 180;
  const half = Math.max(edge * 1.3, high / 8);
  const f = s.frame([
    { x: -high * 0.9, y: -high * 0.15 },
    { x: high * 0.9, y: high },
  ]);
  const place = (x: number, y: number) =>
    f.put(
      edge + (x - edge) * Math.cos(lean) + y * Math.sin(lean),
      y * Math.cos(lean) - (x - edge) * Math.sin(lean),
    );
  const m = blank();
  m.lines.push(
    {
      d: path([f.put(-half, 0), f.put(half, 0), f.put(half, -high), f.put(-half, -high)], true),
      class: wood,
    },
    {
      d: path([place(-half, 0), place(half, 0), place(half, high), place(-half, high)], true),
      class: wood,
    },
    { d: path([f.put(0, 0), f.put(edge, 0)], false), class: "stroke-error", width: 5 },
  );
  const [push, balance] = [place(-half, s.ask("push.height_m")), place(s.ask("cog_offset_m"), cog)];
  m.lines.push({
    d: `M${push.x - 84} ${push.y}H${push.x - 4}m-11 -7l11 7l-11 7`,
    class: "stroke-primary fill-none",
    width: 4,
  });
  m.dots.push({ ...balance, r: 6, class: "fill-base-100 stroke-primary" });
  m.words.push({
    x: push.x - 88,
    y: push.y - 12,
    text: print("force", s.ask("push.force_kn")),
    anchor: "middle",
  });
  const over = f.put(edge, 0);
  m.words.push({ x: over.x + 10, y: over.y - 6, text: "bridge" });
  m.grips.push(
    {
      x: push.x - 8,
      y: push.y,
      label: "Where it is pushed",
      path: "push.height_m",
      moved: (to) => [["push.height_m", round(Math.max(0.05, f.back(to).y), 0.05)]],
    },
    {
      ...balance,
      label: "Its balance",
      path: "cog_height_m",
      moved: (to) => [["cog_height_m", round(Math.max(0.05, f.back(to).y), 0.05)]],
    },
    {
      ...over,
      label: "Bridge to its edge",
      path: "bridge_to_edge_m",
      moved: (to) => [["bridge_to_edge_m", round(Math.max(0.01, f.back(to).x), 0.005)]],
    },
  );
  return m;
}

/** A piece as it grows, and the cut that fits it best. */
function advice(s: Scene): Drawing {
  const [long, thick] = [s.ask("length_m", 3), s.ask("diameter_m", 0.3)];
  const turn = (s.ask("orientation_deg") * Math.PI) / 180;
  const f = s.frame([
    { x: -long * 0.4, y: -long * 0.3 },
    { x: long, y: long },
  ]);
  const [dx, dy] = [Math.sin(turn), Math.cos(turn)];
  const m = blank();
  m.lines.push({
    d: outline(
      [f.put(-dx * long * 0.3, -dy * long * 0.3), f.put(0, 0), f.put(dx * long, dy * long)],
      [1.15, 1, 0.5].map((share) => Math.max(6, share * thick * f.scale)),
    ),
    class: wood,
  });
  const half = Math.max(10, (thick / 2) * f.scale + 6);
  const cut = f.put(0, 0);
  m.lines.push({
    d: `M${cut.x - dy * half} ${cut.y - dx * half}L${cut.x + dy * half} ${cut.y + dx * half}`,
    class: "stroke-primary",
    width: 3,
  });
  const best = s.found("cuts")[0] as unknown as { cut: string } | undefined;
  const tip = f.put(dx * long, dy * long);
  m.words.push(
    { x: cut.x + 26, y: cut.y + 30, text: best?.cut ?? "no cut fits" },
    { x: tip.x + 10, y: tip.y + 5, text: `${Math.round(s.ask("orientation_deg"))}° from upright` },
  );
  m.grips.push({
    ...tip,
    label: "Its tip",
    path: "orientation_deg",
    moved: (to) => {
      const p = f.back(to);
      return [
        [
          "orientation_deg",
          round(Math.min(180, (Math.abs(Math.atan2(p.x, p.y)) * 180) / Math.PI), 1),
        ],
        ["length_m", round(Math.max(0.2, Math.hypot(p.x, p.y)), 0.1)],
      ];
    },
  });
  return m;
}

export const ofCuts: Record<string, (s: Scene) => Drawing> = {
  snap,
  "cut-advice": advice,
};
