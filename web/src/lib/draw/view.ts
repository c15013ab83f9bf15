import type { LimbShape, Shape, Spot, Station, Target } from "../api/client";

export interface Point {
  x: number;
  y: number;
}

export interface Place {
  x: number;
  y: number;
  z: number;
}

/** An elevation: what is seen looking across one azimuth, to scale. */
export interface View {
  /** The place of the plan that the drawing is laid out from: the foot of the first tree. */
  foot: Place;
  /** Azimuth that points to the right of the drawing, degrees. */
  right: number;
  /** Pixels of the foot of the tree. */
  axis: number;
  ground: number;
  perMetre: number;
}

const rad = (deg: number) => (deg * Math.PI) / 180;

/** How far a place of the plan lies to the right of the tree's foot, m. */
export const across = (view: View, spot: Spot): number =>
  (spot.x - view.foot.x) * Math.sin(rad(view.right)) +
  (spot.y - view.foot.y) * Math.cos(rad(view.right));

/** A place in space on the drawing. */
export const put = (view: View, place: Place): Point => ({
  x: view.axis + across(view, place) * view.perMetre,
  y: view.ground - place.z * view.perMetre,
});

/** The stem's axis at a height: straight between the places it is drawn by, and on beyond them. */
export function onStem(shape: Shape, z: number): Place {
  const points = shape.stem;
  const above = points.findIndex((p) => (p[2] ?? 0) >= z);
  const i = Math.max(1, above < 0 ? points.length - 1 : above);
  const a = points[i - 1] ?? [shape.foot.x, shape.foot.y, 0];
  const b = points[i] ?? [shape.foot.x, shape.foot.y, 1];
  const f = (z - (a[2] ?? 0)) / ((b[2] ?? 0) - (a[2] ?? 0) || 1);
  const mix = (k: number) => (a[k] ?? 0) + f * ((b[k] ?? 0) - (a[k] ?? 0));
  return { x: mix(0), y: mix(1), z };
}

/** The stem's outside and cavity at a height, read off between two stations for drawing. */
export function widthAt(stem: Station[], z: number): { outside: number; cavity: number } {
  const above = stem.findIndex((s) => s.at_m >= z);
  const i = above < 0 ? stem.length - 1 : Math.max(1, above);
  const a = stem[i - 1] as Station;
  const b = stem[i] as Station;
  const f = Math.max(0, Math.min(1, (z - a.at_m) / (b.at_m - a.at_m)));
  const between = (p = 0, q = 0) => p + f * (q - p);
  return {
    outside: between(a.diameter_m, b.diameter_m),
    cavity: between(a.cavity_m, b.cavity_m),
  };
}

/** Heights of the stem's corners between two heights, both ends included. */
export function corners(shape: Shape, from: number, to: number): number[] {
  return [from, ...shape.stem.map((p) => p[2] ?? 0).filter((z) => z > from && z < to), to];
}

/** A place along a limb and its diameter there, read off between the points it is drawn by. */
export function alongLimb(limb: LimbShape, share: number): { at: Place; wide: number } {
  const last = limb.points.length - 1;
  const f = Math.max(0, Math.min(1, share)) * last;
  const i = Math.min(last - 1, Math.floor(f));
  const a = limb.points[i] as number[];
  const b = limb.points[i + 1] as number[];
  const mix = (k: number) => (a[k] ?? 0) + (f - i) * ((b[k] ?? 0) - (a[k] ?? 0));
  return { at: { x: mix(0), y: mix(1), z: mix(2) }, wide: mix(3) };
}

const line = (points: Point[], closed: boolean): string =>
  points.map((p, i) => `${i ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`).join("") +
  (closed ? "Z" : "");

/** A closed outline round a middle line, a width at each of its places. */
export function outline(middle: Point[], widths: number[]): string {
  const left: Point[] = [];
  const right: Point[] = [];
  middle.forEach((p, i) => {
    const a = middle[Math.max(0, i - 1)] as Point;
    const b = middle[Math.min(middle.length - 1, i + 1)] as Point;
    const long = Math.hypot(b.x - a.x, b.y - a.y) || 1;
    const half = (widths[i] ?? 0) / 2;
    const nx = (-(b.y - a.y) / long) * half;
    const ny = ((b.x - a.x) / long) * half;
    right.push({ x: p.x - nx, y: p.y - ny });
    left.push({ x: p.x + nx, y: p.y + ny });
  });
  return line([...right, ...left.reverse()], true);
}

/** The stem between two heights. */
export function stemPath(
  view: View,
  shape: Shape,
  stem: Station[],
  from: number,
  to: number,
  width: "outside" | "cavity" = "outside",
): string {
  const heights = corners(shape, from, to);
  const middle = heights.map((z) => put(view, onStem(shape, z)));
  return outline(
    middle,
    heights.map((z) => widthAt(stem, z)[width] * view.perMetre),
  );
}

/** The room that a tree's wood takes on the drawing, piece by piece. */
export function woodRoom(
  view: View,
  shape: Shape,
  stem: Station[],
): { left: number; right: number; top: number; bottom: number }[] {
  const room = (a: Point, b: Point, wide: number) => ({
    left: Math.min(a.x, b.x) - wide / 2,
    right: Math.max(a.x, b.x) + wide / 2,
    top: Math.min(a.y, b.y) - (a.x === b.x ? 0 : wide / 2),
    bottom: Math.max(a.y, b.y) + (a.x === b.x ? 0 : wide / 2),
  });
  const between = (places: { at: Place; wide: number }[]) =>
    places.slice(1).map((place, i) => {
      const before = places[i] as { at: Place; wide: number };
      return room(
        put(view, before.at),
        put(view, place.at),
        Math.max(before.wide, place.wide) * view.perMetre,
      );
    });
  const top = stem.at(-1)?.at_m ?? 0;
  const heights = shape.stem.length > 1 && stem.length > 1 ? corners(shape, 0, top) : [];
  const parts = 6;
  return [
    ...between(
      heights.map((z) => ({
        at: onStem(shape, z),
        wide: widthAt(stem, Math.max(z, stem[0]?.at_m ?? 0)).outside,
      })),
    ),
    ...shape.limbs.flatMap((limb) =>
      between(Array.from({ length: parts + 1 }, (_, i) => alongLimb(limb, i / parts))),
    ),
  ];
}

/** A limb between two shares of its length. */
export function limbPath(view: View, limb: LimbShape, from: number, to: number): string {
  const parts = 6;
  const places = Array.from({ length: parts + 1 }, (_, i) =>
    alongLimb(limb, from + ((to - from) * i) / parts),
  );
  return outline(
    places.map((p) => put(view, p.at)),
    places.map((p) => Math.max(1.6, p.wide * view.perMetre)),
  );
}

/** Short strokes for the brush of a limb, the same every time. */
export function brush(view: View, limb: LimbShape, to: number): string {
  let strokes = "";
  for (let i = 0; i < 9; i++) {
    const share = to * (0.5 + 0.5 * (i / 8));
    const p = put(view, alongLimb(limb, share).at);
    const before = put(view, alongLimb(limb, share - 0.05).at);
    const lead = Math.atan2(p.y - before.y, p.x - before.x);
    const side = i % 2 ? 0.75 : -0.75;
    const long = view.perMetre * (0.35 + 0.09 * ((i * 5) % 4));
    strokes += `M${p.x.toFixed(1)} ${p.y.toFixed(1)}l${(Math.cos(lead + side) * long).toFixed(1)} ${(Math.sin(lead + side) * long).toFixed(1)}`;
  }
  return strokes;
}

/** The corners of a target on the plan. */
export function outlineOf(target: Target): Spot[] {
  if (target.box) {
    const { min, max } = target.box;
    return [min, { x: max.x, y: min.y }, max, { x: min.x, y: max.y }];
  }
  return target.outline ?? [];
}

/** A step of a scale that leaves marks at least a given number of pixels apart. */
export function markStep(pixelsPerMetre: number, apart: number, unit: number): number {
  const steps = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];
  return (steps.find((s) => s * unit * pixelsPerMetre >= apart) ?? 50) * unit;
}

/** The eight winds, for a direction in words. */
export const wind = (azimuth: number): string =>
  ["N", "NE", "E", "SE", "S", "SW", "W", "NW"][
    Math.round((((azimuth % 360) + 360) % 360) / 45) % 8
  ] ?? "N";

export { line as path };
