import { expect, test } from "vitest";
import { placed, type Label } from "./labels";

const within = { left: 0, right: 400, top: 0, bottom: 200 };
const label = (id: string, x: number, y: number, text = "quay rail"): Label => ({
  id,
  x,
  y,
  text,
  size: 12,
});

/** The room that a name takes: nine letters of 12 are 60 wide, 14.4 high with their tails. */
const box = (one: Label, at: { x: number; y: number }) => {
  const wide = one.text.length * one.size * 0.56;
  const left = one.anchor === "start" ? at.x : at.x - wide / 2;
  return { left, right: left + wide, top: at.y - one.size, bottom: at.y + 0.2 * one.size };
};

test("a name alone stands where it would", () => {
  expect(placed([label("a", 100, 80)], within).get("a")).toEqual({ x: 100, y: 80 });
});

test("names at one place stand beneath and above each other, none over another", () => {
  const labels = Array.from({ length: 6 }, (_, i) => label(String(i), 200, 100));
  const places = placed(labels, within);
  const boxes = labels.map((one) => box(one, places.get(one.id) ?? { x: 0, y: 0 }));
  for (const [i, a] of boxes.entries())
    for (const b of boxes.slice(i + 1))
      expect(a.bottom <= b.top || b.bottom <= a.top || a.right <= b.left || b.right <= a.left).toBe(
        true,
      );
  expect(places.get("0")).toEqual({ x: 200, y: 100 });
  for (const { y } of places.values()) expect(Math.abs(y - 100)).toBeLessThan(60);
});

test("all of a name is within the drawing", () => {
  const labels = [
    label("left", -50, 20),
    label("right", 600, 20),
    label("top", 100, -40),
    label("foot", 100, 900),
    { ...label("start", 390, 60), anchor: "start" as const },
  ];
  const places = placed(labels, within);
  for (const one of labels) {
    const b = box(one, places.get(one.id) ?? { x: 0, y: 0 });
    expect(b.left).toBeGreaterThanOrEqual(-1e-9);
    expect(b.right).toBeLessThanOrEqual(400 + 1e-9);
    expect(b.top).toBeGreaterThanOrEqual(-1e-9);
    expect(b.bottom).toBeLessThanOrEqual(200 + 1e-9);
  }
});

test("more names than there is room for are all given a place", () => {
  const labels = Array.from({ length: 60 }, (_, i) => label(String(i), 200, 100));
  expect(placed(labels, within).size).toBe(60);
});

test("a name stands beside wood, not over it, where its wall goes on far enough", () => {
  const stem = { left: 90, right: 130, top: 0, bottom: 200 };
  const one = { ...label("a", 80, 80), anchor: "start" as const, until: 300 };
  expect(placed([one], within, [stem]).get("a")).toEqual({ x: 133, y: 80 });
  // Its wall ends behind the stem: it stays where it is, over the wood.
  expect(placed([{ ...one, until: 150 }], within, [stem]).get("a")).toEqual({ x: 80, y: 80 });
});

test("a name goes a line down where a limb is drawn", () => {
  const limb = { left: 40, right: 200, top: 66, bottom: 82 };
  const at = placed([label("a", 100, 80)], within, [limb]).get("a");
  expect(at?.x).toBe(100);
  expect(at?.y).toBeCloseTo(80 + 1.22 * 12, 9);
});

test("two names beside one stem do not meet", () => {
  const stem = { left: 90, right: 130, top: 0, bottom: 200 };
  const labels = ["a", "b"].map((id) => ({
    ...label(id, 80, 80),
    anchor: "start" as const,
    until: 300,
  }));
  const places = placed(labels, within, [stem]);
  const [a, b] = labels.map((one) => box(one, places.get(one.id) ?? { x: 0, y: 0 }));
  expect(a && b && (a.bottom <= b.top || b.bottom <= a.top)).toBe(true);
  for (const one of [a, b]) expect(one && one.left >= 130).toBe(true);
});
