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

export const ofWood: Record<string, (s: Scene) => Drawing> = {
  piece: (s) => log(s),
  "cut-length": (s) => log(s),
  bind,
  limb,
  "weigh-in": weighIn,
  spar,
  section,
};
