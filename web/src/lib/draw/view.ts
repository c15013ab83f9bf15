import type { Assessment, LimbShape, Spot, Target } from "../api/client";

type Station = Assessment["stem"][number];
type Shape = Assessment["shape"];

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
  /** Azimuth that points to the right of the drawing, degrees. */
  right: number;
  /** Pixels of the foot of the tree. */
  axis: number;
  ground: number;
  perMetre: number;
}

const rad = (deg: number) => (deg * Math.PI) / 180;

/** How far a place of the plan lies to the right of the tree's foot, m. */
export const across = (view: View, foot: Place, spot: Spot): number =>
  (spot.x - foot.x) * Math.sin(rad(view.right)) + (spot.y - foot.y) * Math.cos(rad(view.right));

/** A place in space on the drawing. */
export const put = (view: View, foot: Place, place: Place): Point => ({
  x: view.axis + across(view, foot, place) * view.perMetre,
  y: view.ground - place.z * view.perMetre,
});

/** The stem's axis at a height. */
export const onStem = (shape: Shape, z: number): Place => ({
  x: shape.foot.x + shape.lean_x * z,
  y: shape.foot.y + shape.lean_y * z,
  z,
});

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
export function corners(stem: Station[], from: number, to: number): number[] {
  return [from, ...stem.map((s) => s.at_m).filter((z) => z > from && z < to), to];
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
  const heights = corners(stem, from, to);
  const middle = heights.map((z) => put(view, shape.foot, onStem(shape, z)));
  return outline(
    middle,
    heights.map((z) => widthAt(stem, z)[width] * view.perMetre),
  );
}

/** A limb between two shares of its length. */
export function limbPath(
  view: View,
  shape: Shape,
  limb: LimbShape,
  from: number,
  to: number,
): string {
  const parts = 6;
  const places = Array.from({ length: parts + 1 }, (_, i) =>
    alongLimb(limb, from + ((to - from) * i) / parts),
  );
  return outline(
    places.map((p) => put(view, shape.foot, p.at)),
    places.map((p) => Math.max(1.6, p.wide * view.perMetre)),
  );
}

/** Short strokes for the brush of a limb, the same every time. */
export function brush(view: View, shape: Shape, limb: LimbShape, to: number): string {
  let strokes = "";
  for (let i = 0; i < 9; i++) {
    const share = to * (0.5 + 0.5 * (i / 8));
    const p = put(view, shape.foot, alongLimb(limb, share).at);
    const before = put(view, shape.foot, alongLimb(limb, share - 0.05).at);
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
