// Logs, limbs, stems and what is sawn of them.
import { outline, path } from "../../draw/view";
import { print } from "../../reference.svelte";
import { blank, box, grey, ink, round, Scene, wood, type Drawing } from "./canvas";

/** A log on its side, by its stations; grips at its ends and on its bark. */
function log(s: Scene, from = "stations"): Drawing {
  const stations = s.rows(from);
  const long = stations.at(-1)?.at_m ?? 1;
  const most = Math.max(...stations.map((one) => one.diameter_m ?? 0.1));
  const f = s.frame([
    { x: stations[0]?.at_m ?? 0, y: -most / 2 },
    { x: long, y: most / 2 },
  ]);
  const middle = stations.map((one) => f.put(one.at_m ?? 0, 0));
  const m = blank();
  m.lines.push({
    d: outline(
      middle,
      stations.map((one) => (one.diameter_m ?? 0) * f.scale),
    ),
    class: wood,
  });
  if (stations.some((one) => one.cavity_m)) {
    m.lines.push({
      d: outline(
        middle,
        stations.map((one) => (one.cavity_m ?? 0) * f.scale),
      ),
      class: grey,
      dash: "3 3",
    });
  }
  stations.forEach((one, i) => {
    const p = middle[i] ?? { x: 0, y: 0 };
    const half = ((one.diameter_m ?? 0) / 2) * f.scale;
    m.words.push({
      x: p.x,
      y: p.y + half + 18,
      text: print("diameter", one.diameter_m ?? 0),
      anchor: "middle",
    });
    m.grips.push({
      x: p.x,
      y: p.y - half,
      label: `Diameter at ${print("height", one.at_m ?? 0)}`,
      path: `${from}[${i}].diameter_m`,
      moved: (to) => [
        [`${from}[${i}].diameter_m`, round(Math.max(0.02, Math.abs(2 * f.back(to).y)), 0.01)],
        ...(i > 0
          ? ([
              [
                `${from}[${i}].at_m`,
                round(Math.max((stations[i - 1]?.at_m ?? 0) + 0.1, f.back(to).x)),
              ],
            ] as [string, number][])
          : []),
      ],
    });
  });
  const cog = s.got("cog_m", NaN);
  if (!Number.isNaN(cog)) {
    const p = f.put(cog, 0);
    m.dots.push({ ...p, r: 6, class: "fill-base-100 stroke-primary" });
    m.words.push({
      x: p.x,
      y: p.y - 12,
      text: `balance ${print("height", cog)}`,
      anchor: "middle",
    });
  }
  return m;
}

function bind(s: Scene): Drawing {
  const stations = s.rows("stations");
  const most = Math.max(...stations.map((one) => one.diameter_m ?? 0.1));
  const m = log(s);
  const f = s.frame([]);
  const supports = (s.request.supports_m as number[] | undefined) ?? [];
  m.words = m.words.slice(stations.length);
  supports.forEach((at, i) => {
    const p = f.put(at, -most / 2);
    m.lines.push({ d: `M${p.x} ${p.y + 2}l10 22h-20Z`, class: grey });
    m.words.push({
      x: p.x,
      y: p.y + 40,
      text: print("force", s.got(`reactions_kn[${i}]`)),
      anchor: "middle",
    });
    m.grips.push({
      x: p.x,
      y: p.y + 14,
      label: `Support ${i + 1}`,
      path: `supports_m[${i}]`,
      moved: (to) => [[`supports_m[${i}]`, round(f.back(to).x)]],
    });
  });
  const saw = f.put(s.ask("cut_at_m"), 0);
  const bottom = s.answer?.tension === "bottom";
  // The cut opens on the side that is pulled apart.
  const open = 7;
  m.lines.push({
    d: bottom
      ? `M${saw.x} ${saw.y - (most / 2) * f.scale}L${saw.x - open} ${saw.y + (most / 2) * f.scale}h${2 * open}Z`
      : `M${saw.x} ${saw.y + (most / 2) * f.scale}L${saw.x - open} ${saw.y - (most / 2) * f.scale}h${2 * open}Z`,
    class: "fill-base-100 stroke-primary",
    width: 2,
  });
  m.words.push({
    x: saw.x,
    y: bottom ? saw.y - (most / 2) * f.scale - 14 : saw.y + (most / 2) * f.scale + 24,
    text: "begin here, shallow",
    anchor: "middle",
  });
  m.grips.push({
    x: saw.x,
    y: bottom ? saw.y - (most / 2) * f.scale : saw.y + (most / 2) * f.scale,
    label: "The saw",
    path: "cut_at_m",
    moved: (to) => [["cut_at_m", round(f.back(to).x)]],
  });
  return m;
}

function limb(s: Scene): Drawing {
  const [long, thick] = [s.ask("length_m", 5), s.ask("basal_diameter_m", 0.2)];
  const f = s.frame([
    { x: 0, y: -long / 6 },
    { x: long, y: long / 6 },
  ]);
  const m = blank();
  m.lines.push({
    d: outline([f.put(0, 0), f.put(long, 0)], [Math.max(5, thick * f.scale), 2]),
    class: wood,
  });
  // Brush grows on the outer two thirds.
  for (let i = 0; i < 9; i++) {
    const at = long * (0.34 + 0.07 * i);
    const side = i % 2 ? 1 : -1;
    const [p, q] = [
      f.put(at, 0),
      f.put(at + long * 0.1, side * long * 0.13 * (1.1 - at / long + 0.3)),
    ];
    m.lines.push({ d: path([p, q], false), class: "stroke-success fill-none", width: 2 });
  }
  const cog = f.put(s.got("cog_m", 0.38 * long), 0);
  m.dots.push({ ...cog, r: 6, class: "fill-base-100 stroke-primary" });
  const [base, tip] = [f.put(0, thick / 2), f.put(long, 0)];
  m.words.push(
    {
      x: cog.x,
      y: cog.y + 24,
      text: `balance ${print("height", s.got("cog_m"))}`,
      anchor: "middle",
    },
    { x: base.x - 4, y: base.y - 14, text: print("diameter", thick), anchor: "middle" },
    { x: tip.x + 14, y: tip.y + 5, text: print("height", long) },
  );
  m.grips.push(
    {
      ...base,
      label: "Base of the limb",
      path: "basal_diameter_m",
      moved: (to) => [["basal_diameter_m", round(Math.max(0.02, 2 * f.back(to).y), 0.01)]],
    },
    {
      ...tip,
      label: "Tip of the limb",
      path: "length_m",
      moved: (to) => [["length_m", round(Math.max(0.2, f.back(to).x))]],
    },
  );
  return m;
}

/** What was told against what the scale said, side by side. */
function weighIn(s: Scene): Drawing {
  const weighed = s.rows("weighed");
  const most = Math.max(
    1,
    ...weighed.map((w) => Math.max(w.predicted_kg ?? 0, w.measured_kg ?? 0)),
  );
  const each = (2 * most) / Math.max(3, weighed.length);
  const f = s.frame([
    { x: 0, y: 0 },
    { x: each * weighed.length, y: most },
  ]);
  const aside = (s.answer?.outliers as number[] | undefined) ?? [];
  const m = blank();
  weighed.forEach((w, i) => {
    const x = each * i;
    m.lines.push(
      { d: box(f, x, 0, x + each * 0.36, w.predicted_kg ?? 0), class: ink, dash: "4 3" },
      {
        d: box(f, x + each * 0.4, 0, x + each * 0.76, w.measured_kg ?? 0),
        class: aside.includes(i)
          ? "fill-base-300 stroke-base-content"
          : "fill-primary/60 stroke-primary",
      },
    );
    const [foot, top] = [f.put(x + each * 0.38, 0), f.put(x + each * 0.58, w.measured_kg ?? 0)];
    m.words.push({
      x: foot.x,
      y: foot.y + 20,
      text: print("mass", w.measured_kg ?? 0),
      anchor: "middle",
    });
    m.grips.push({
      ...top,
      label: `Weighing ${i + 1}`,
      path: `weighed[${i}].measured_kg`,
      moved: (to) => [[`weighed[${i}].measured_kg`, round(Math.max(1, f.back(to).y), 1)]],
    });
  });
  const [a, b] = [f.put(-each * 0.1, 0), f.put(each * weighed.length, 0)];
  m.lines.push({ d: path([a, b], false), class: ink, width: 2 });
  return m;
}

function spar(s: Scene): Drawing {
  const stations = s.rows("stations");
  const high = stations.at(-1)?.at_m ?? 10;
  const f = s.frame([
    { x: -high / 3, y: 0 },
    { x: high / 3, y: high },
  ]);
  const middle = stations.map((one) => f.put(0, one.at_m ?? 0));
  const m = blank();
  m.lines.push({
    d: outline(
      middle,
      stations.map((one) => Math.max(4, (one.diameter_m ?? 0.3) * f.scale)),
    ),
    class: wood,
  });
  s.rows("loads").forEach((load, i) => {
    const p = f.put(0, load.at_m ?? 0);
    m.lines.push({
      d: `M${p.x} ${p.y}h60m-9 -6l9 6l-9 6`,
      class: "stroke-info fill-none",
      width: 3,
    });
    m.words.push({ x: p.x + 76, y: p.y + 5, text: print("force", load.horizontal_kn ?? 0) });
    m.grips.push({
      x: p.x + 60,
      y: p.y,
      label: `Load ${i + 1}`,
      path: `loads[${i}].at_m`,
      moved: (to) => [[`loads[${i}].at_m`, round(Math.max(0, Math.min(high, f.back(to).y)))]],
    });
  });
  const worst = f.put(0, s.got("worst.at_m"));
  m.lines.push({ d: `M${worst.x - 30} ${worst.y}h60`, class: "stroke-error", width: 3 });
  m.words.push({ x: worst.x - 36, y: worst.y + 5, text: "bends most here", anchor: "end" });
  return m;
}

/** A stem with the pieces that it comes down in. */
function section(s: Scene): Drawing {
  const stations = s.rows("stem.stations");
  const high = stations.at(-1)?.at_m ?? 10;
  const f = s.frame([
    { x: -high / 2, y: 0 },
    { x: high / 2, y: high },
  ]);
  const m = blank();
  m.lines.push({
    d: outline(
      stations.map((one) => f.put(0, one.at_m ?? 0)),
      stations.map((one) => Math.max(4, (one.diameter_m ?? 0.3) * f.scale)),
    ),
    class: wood,
  });
  const pieces = s.found("pieces") as unknown as {
    from_m: number;
    to_m: number;
    mass_kg: { high: number };
  }[];
  pieces.forEach((piece, i) => {
    const [top, foot] = [f.put(0, piece.from_m), f.put(0, piece.to_m)];
    m.lines.push({ d: `M${foot.x - 24} ${foot.y}h48`, class: "stroke-primary", width: 2.5 });
    if (top.y + 13 < foot.y + 6)
      m.words.push({
        x: foot.x + (i % 2 ? -34 : 34),
        y: (top.y + foot.y) / 2 + 5,
        text: print("mass", piece.mass_kg.high),
        anchor: i % 2 ? "end" : "start",
      });
  });
  for (const [at, label] of [
    ["from_m", "Down from"],
    ["to_m", "Down to"],
  ] as const) {
    const p = f.put(0, s.ask(at));
    m.grips.push({
      x: p.x,
      y: p.y,
      label,
      path: at,
      moved: (to) => [[at, round(Math.max(0, Math.min(high, f.back(to).y)), 0.1)]],
    });
  }
  return m;
}

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

export const ofWood: Record<string, (s: Scene) => Drawing> = {
  piece: (s) => log(s),
  "cut-length": (s) => log(s),
  bind,
  limb,
  "weigh-in": weighIn,
  spar,
  section,
  snap,
  "cut-advice": advice,
};
