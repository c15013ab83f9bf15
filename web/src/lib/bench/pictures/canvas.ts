// What the pictures of the instruments are drawn with: places in metres laid out to scale, marks,
// and grips that write a request's figures where they are dragged.
import type { Point } from "../../draw/view";
import { at, numberAt } from "../instruments";

export const wide = 560;

/** How high the picture of a kind is: what stands upright has more room. */
export const heightOf = (kind: string) =>
  ["drop", "drop-sim", "section", "spar", "catch", "snap"].includes(kind) ? 400 : 250;

/** A part that is dragged: where it is, what it is called, what it writes when it is elsewhere. */
export interface Grip extends Point {
  label: string;
  /** The figure that it writes, or the first of several. */
  path: string;
  /** Figures by their paths with the grip at a place of the picture. */
  moved: (to: Point) => [string, number][];
}

export interface Drawing {
  lines: { d: string; class: string; width?: number; dash?: string }[];
  dots: { x: number; y: number; r: number; class: string }[];
  words: { x: number; y: number; text: string; anchor?: "start" | "middle" | "end" }[];
  grips: Grip[];
}

export const blank = (): Drawing => ({ lines: [], dots: [], words: [], grips: [] });

/** Metres, or what else a picture is measured in, laid out to scale. */
export interface Frame {
  scale: number;
  put: (x: number, y: number) => Point;
  /** The place in metres of one in the picture. */
  back: (p: Point) => Point;
}

export function frameOf(points: Point[], tall: number): Frame {
  const xs = points.map((p) => p.x);
  const ys = points.map((p) => p.y);
  const [left, right] = [Math.min(...xs), Math.max(...xs)];
  const [low, high] = [Math.min(...ys), Math.max(...ys)];
  const scale = Math.min(
    (wide - 120) / Math.max(0.1, right - left),
    (tall - 60) / Math.max(0.1, high - low),
  );
  const [cx, cy] = [(left + right) / 2, (low + high) / 2];
  return {
    scale,
    put: (x, y) => ({ x: wide / 2 + (x - cx) * scale, y: tall / 2 - (y - cy) * scale }),
    back: (p) => ({ x: (p.x - wide / 2) / scale + cx, y: (tall / 2 - p.y) / scale + cy }),
  };
}

/** What a picture is drawn from. */
export class Scene {
  constructor(
    readonly kind: string,
    readonly request: Record<string, unknown>,
    readonly answer: Record<string, unknown> | null,
    /** The frame that holds while a part is dragged. */
    private readonly held: Frame | null,
  ) {
    this.tall = heightOf(kind);
  }

  readonly tall: number;

  /** The frame of the picture, once it is drawn. */
  used: Frame | null = null;

  ask = (path: string, otherwise = 0) => numberAt(this.request, path) ?? otherwise;
  got = (path: string, otherwise = 0) => numberAt(this.answer, path) ?? otherwise;
  has = (path: string) => at(this.request, path) !== undefined;
  rows = (path: string) => rowsOf(at(this.request, path));
  found = (path: string) => rowsOf(at(this.answer, path));

  /** The frame that holds while a part is dragged; null: none does. */
  holds = () => this.held;

  frame(points: Point[]): Frame {
    return (this.used ??= this.held ?? frameOf(points, this.tall));
  }
}

const rowsOf = (value: unknown) =>
  Array.isArray(value) ? (value as Record<string, number>[]) : [];

export const ink = "stroke-base-content fill-none";
export const wood = "fill-[var(--wood)] stroke-base-content";
export const rope = "stroke-info fill-none";
export const grey = "fill-base-300 stroke-base-content";
export const post = "fill-base-100 stroke-base-content";

/** A box by its corners in metres. */
export function box(f: Frame, x1: number, y1: number, x2: number, y2: number): string {
  const [a, b] = [f.put(x1, y1), f.put(x2, y2)];
  return `M${a.x} ${a.y}H${b.x}V${b.y}H${a.x}Z`;
}

/** Rounded as a person would say it. */
export const round = (value: number, step = 0.05) => +(Math.round(value / step) * step).toFixed(4);
