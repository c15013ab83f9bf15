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

/** A place for each name by its id: where it would stand, or as near above or beneath as is free. */
export function placed(labels: Label[], within: Bounds): Map<string, { x: number; y: number }> {
  const taken: Bounds[] = [];
  const places = new Map<string, { x: number; y: number }>();
  for (const one of labels) {
    const wide = one.text.length * one.size * letter;
    const [before, after] = one.anchor === "start" ? [0, wide] : [wide / 2, wide / 2];
    const x = Math.max(within.left + before, Math.min(within.right - after, one.x));
    const at = (y: number): Bounds => ({
      left: x - before,
      right: x + after,
      top: y - one.size,
      bottom: y + 0.2 * one.size,
    });
    const free = (box: Bounds) =>
      taken.every(
        (other) =>
          box.left >= other.right ||
          box.right <= other.left ||
          box.top >= other.bottom ||
          box.bottom <= other.top,
      );
    const clamped = (y: number) =>
      Math.max(within.top + one.size, Math.min(within.bottom - 0.2 * one.size, y));
    let y = clamped(one.y);
    for (let n = 0; n < 16 && !free(at(y)); n++) {
      // One line down, one up, two down, …
      const step = Math.ceil((n + 1) / 2) * one.size * lead * (n % 2 ? -1 : 1);
      y = clamped(one.y + step);
    }
    taken.push(at(y));
    places.set(one.id, { x, y });
  }
  return places;
}
