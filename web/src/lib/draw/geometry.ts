import type { Assessment } from "../api/client";

type Station = Assessment["stem"][number];
export interface Point {
  x: number;
  y: number;
}

/** The stem's outside and cavity at a height, read off between two stations for drawing. */
export function widthAt(stem: Station[], z: number): { outside: number; cavity: number } {
  // Above the top, if only by rounding, the last stretch counts.
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

/** A closed outline around an axis: widths at heights, up one side and down the other. */
export function outline(
  heights: number[],
  width: (z: number) => number,
  place: (across: number, z: number) => Point,
): string {
  const right = heights.map((z) => place(width(z) / 2, z));
  const left = heights.toReversed().map((z) => place(-width(z) / 2, z));
  return (
    [...right, ...left]
      .map((p, i) => `${i ? "L" : "M"}${p.x.toFixed(1)} ${p.y.toFixed(1)}`)
      .join("") + "Z"
  );
}

/** A step of a scale that leaves marks at least a given number of pixels apart. */
export function markStep(pixelsPerMetre: number, apart: number, unit: number): number {
  const steps = [0.1, 0.2, 0.5, 1, 2, 5, 10, 20, 50];
  return (steps.find((s) => s * unit * pixelsPerMetre >= apart) ?? 50) * unit;
}
