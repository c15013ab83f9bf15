// Names on a drawing, set so that none covers another and all of each is seen.

export interface Label {
  id: string;
  /** Where it would stand: the middle of its foot, or its left end. */
  x: number;
  y: number;
  text: string;
  /** Height of its letters. */
  size: number;
  anchor?: "start" | "middle";
  /** How far to the right its end may go, to stand beside wood and not over it. */
  until?: number;
}

export interface Bounds {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** How wide letters are over their height, on the average, and the lead between two lines. */
const letter = 0.56;
const lead = 1.22;

const apart = (a: Bounds, b: Bounds): boolean =>
  a.left >= b.right || a.right <= b.left || a.top >= b.bottom || a.bottom <= b.top;

/**
 * A place for each name by its id: where it would stand, or as near above or beneath as is
 * free; clear of wood where there is such a place.
 */
export function placed(
  labels: Label[],
  within: Bounds,
  wood: Bounds[] = [],
): Map<string, { x: number; y: number }> {
  const taken: Bounds[] = [];
  const places = new Map<string, { x: number; y: number }>();
  for (const one of labels) {
    const wide = one.text.length * one.size * letter;
    const [before, after] = one.anchor === "start" ? [0, wide] : [wide / 2, wide / 2];
    const inside = (x: number) => Math.max(within.left + before, Math.min(within.right - after, x));
    const clamped = (y: number) =>
      Math.max(within.top + one.size, Math.min(within.bottom - 0.2 * one.size, y));
    const at = (x: number, y: number): Bounds => ({
      left: x - before,
      right: x + after,
      top: y - one.size,
      bottom: y + 0.2 * one.size,
    });
    const free = (box: Bounds, of: Bounds[]) => of.every((other) => apart(box, other));
    // One line down, one up, two down, …
    const lines = Array.from({ length: 17 }, (_, n) =>
      clamped(one.y + Math.ceil(n / 2) * one.size * lead * (n % 2 ? 1 : -1)),
    );
    const x = inside(one.x);
    const beside = lines.slice(0, 5).flatMap((y) => {
      const row = wood.filter((w) => w.top < y + 0.2 * one.size && w.bottom > y - one.size);
      return [x, ...row.map((w) => w.right + 3 + before)]
        .filter((to) => to >= x && (to === x || to + after <= (one.until ?? -Infinity)))
        .sort((a, b) => a - b)
        .map((to) => ({ x: to, y }));
    });
    const stacked = lines.map((y) => ({ x, y }));
    const place = beside.find((p) => free(at(p.x, p.y), taken) && free(at(p.x, p.y), wood)) ??
      stacked.find((p) => free(at(p.x, p.y), taken)) ?? { x, y: lines.at(-1) ?? one.y };
    taken.push(at(place.x, place.y));
    places.set(one.id, place);
  }
  return places;
}
