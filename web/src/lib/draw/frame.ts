// What part of the world an elevation shows, and at what scale.
import type { Assessment, Detail, Job, Shape } from "../api/client";
import { across, outlineOf, woodRoom, type View } from "./view";

interface Framed {
  assessment: Assessment;
  targets: Job["site"]["targets"];
  detail: Detail | null | undefined;
  /** Of the tree in hand. */
  shape: Shape;
  /** Azimuth to the right of the drawing, degrees. */
  right: number;
  /** Close up on the piece in place of the whole tree. */
  close: boolean;
  /** Seen square to a fall. */
  square: boolean;
  width: number;
  height: number;
}

interface Extent {
  left: number;
  far: number;
  low: number;
  high: number;
}

/** What is to be seen, m from the first foot: across, and up from the ground. */
function extentOf(of: Framed, flat: View): Extent {
  const reach = (p: readonly number[]) => across(flat, { x: p[0] ?? 0, y: p[1] ?? 0 });
  const places = of.assessment.trees.flatMap((t) => [
    ...t.shape.stem,
    ...t.shape.limbs.flatMap((l) => l.points),
  ]);
  if (of.close && of.detail?.piece) {
    const { piece, line } = of.detail;
    const near = [piece.cut, piece.tip, ...line.slice(0, 2).map((l) => l.at)];
    const xs = near.map((p) => across(flat, p));
    const zs = near.map((p) => p.z);
    const pad = 0.8 + piece.length_m * 0.15;
    return {
      low: Math.max(0, Math.min(...zs) - pad),
      high: Math.max(...zs) + pad,
      left: Math.min(...xs) - pad - 0.6,
      far: Math.max(...xs) + pad + 0.6,
    };
  }
  const sides = places.map(reach);
  const high = Math.max(1, ...places.map((p) => p[2] ?? 0));
  let left = Math.min(-3, ...sides) - 1.5;
  let far = Math.max(3, ...sides) + 1.5;
  // What stands near is worth its place; what stands far off is cut at the edge.
  for (const target of of.targets) {
    for (const corner of outlineOf(target)) {
      const x = across(flat, corner);
      if (Math.abs(x) < high * 0.6) {
        left = Math.min(left, x - 0.5);
        far = Math.max(far, x + 0.5);
      }
    }
  }
  if (of.square && !of.close) {
    far = Math.max(far, across(flat, of.shape.foot) + (of.detail?.fell?.farthest_m ?? 0) + 0.5);
  }
  return { left, far, low: 0, high };
}

/** The frame of an elevation: what a piece weighs and the tools stand above the tree, the small plan beside it. */
export function frameOf(of: Framed): View {
  const { assessment, right, width, height } = of;
  const foot = assessment.trees[0]?.shape.foot ?? { x: 0, y: 0, z: 0 };
  const { left, far, low, high } = extentOf(of, { foot, right, axis: 0, ground: 0, perMetre: 1 });
  const tall = Math.max(60, height - 30 - (width < 640 ? 50 : 62));
  const beside = (kept: number): View => {
    const wide = Math.max(60, width - 60 - kept);
    const perMetre = Math.min(tall / (high - low), wide / (far - left));
    return {
      foot,
      right,
      axis: 40 + (width - 50 - kept) / 2 - ((left + far) / 2) * perMetre,
      ground: height - 26 + low * perMetre,
      perMetre,
    };
  };
  const whole = beside(0);
  const plan = width < 640 ? 120 : 168;
  const covered = assessment.trees
    .flatMap((tree) => woodRoom(whole, tree.shape, tree.stem))
    .some((wood) => wood.right > width - plan && wood.top < plan + 50);
  if (!covered) return whole;
  const less = beside(plan);
  return less.perMetre > 0.7 * whole.perMetre ? less : whole;
}

interface Grip {
  x: number;
  y: number;
  /** Along the wood, a unit. */
  dx: number;
  dy: number;
  wide: number;
  onLimb: boolean;
}

/** Where what a cut says stands: of a stem to the left, of a limb square to it and away from what it grows on. */
export function tagBeside(
  from: Grip,
  room: number,
  union: boolean,
  within: { width: number; height: number },
): { x: number; y: number } {
  if (!from.onLimb) return { x: Math.max(76, from.x - from.wide / 2 - 46), y: from.y };
  const half = from.wide / 2 + 10;
  const out = from.dx < 0 ? -1 : 1;
  const down = from.dy < 0 ? 1 : -1;
  const square = { x: out * Math.abs(from.dy), y: down * Math.abs(from.dx) };
  const far = half + 6 + Math.abs(square.x) * room + Math.abs(square.y) * 13;
  // The stem, or the limb it grows on, is as wide again beside a union.
  const least = union ? room + half : 0;
  const x = from.x + out * Math.max(Math.abs(square.x) * far, least);
  return {
    x: Math.max(room + 4, Math.min(within.width - room - 4, x)),
    y: Math.max(18, Math.min(within.height - 40, from.y + square.y * far)),
  };
}
