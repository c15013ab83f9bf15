// What is asked of a rope, of a pulling system and of a hook.
import { path, type Point } from "../../draw/view";
import { print } from "../../reference.svelte";
import {
  blank,
  box,
  grey,
  post,
  rope,
  round,
  Scene,
  wide,
  wood,
  type Drawing,
  type Frame,
} from "./canvas";

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

/** What the hook holds, what the piece weighs, and what it comes to: three pillars of kilonewtons. */
function release(s: Scene): Drawing {
  const pillars = [
    { label: "Held", path: "hook_kn", kn: s.ask("hook_kn"), least: 0, class: grey },
    { label: "Weight", path: "weight_kn", kn: s.ask("weight_kn", 1), least: 0.1, class: grey },
    { label: "Peak", path: "", kn: s.got("peak_kn"), least: 0, class: "fill-primary" },
  ];
  const most = Math.max(0.1, ...pillars.map((p) => p.kn));
  // As wide as high, so that neither squeezes the other.
  const apart = most / 2;
  const f = s.frame([
    { x: -apart / 2, y: 0 },
    { x: apart * 2.5, y: most },
  ]);
  const m = blank();
  pillars.forEach((one, i) => {
    const x = i * apart;
    m.lines.push({ d: box(f, x - apart / 4, one.kn, x + apart / 4, 0), class: one.class });
    const top = f.put(x, one.kn);
    const foot = f.put(x, 0);
    m.words.push(
      { x: top.x, y: top.y - 14, text: print("force", one.kn), anchor: "middle" },
      { x: foot.x, y: foot.y + 20, text: one.label.toLowerCase(), anchor: "middle" },
    );
    if (one.path)
      m.grips.push({
        ...top,
        label: one.label,
        path: one.path,
        moved: (to) => [[one.path, round(Math.max(one.least, f.back(to).y))]],
      });
  });
  return m;
}

export const ofSystems: Record<string, (s: Scene) => Drawing> = {
  rating,
  haul,
  pick,
  release,
};
