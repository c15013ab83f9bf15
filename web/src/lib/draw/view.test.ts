import { expect, test } from "vitest";
import type { Shape } from "../api/client";
import { across, markStep, onStem, put, widthAt, wind, woodRoom, type View } from "./view";

const view: View = { foot: { x: 2, y: 1, z: 0 }, right: 90, axis: 300, ground: 500, perMetre: 20 };

test("looking north, east is to the right and up is up", () => {
  expect(across(view, { x: 5, y: 9 })).toBeCloseTo(3, 12);
  expect(put(view, { x: 5, y: 9, z: 4 })).toEqual({ x: 360, y: 420 });
  // A quarter turn on, north is to the right.
  expect(across({ ...view, right: 0 }, { x: 5, y: 9 })).toBeCloseTo(8, 12);
});

test("the stem is straight between the places it is drawn by, and on beyond them", () => {
  const shape = {
    foot: { x: 0, y: 0, z: 0 },
    stem: [
      [0, 0, 1, 0.4],
      [1, 0, 6, 0.3],
      [1, 2, 11, 0.2],
    ],
    limbs: [],
  } as unknown as Shape;
  expect(onStem(shape, 3.5)).toEqual({ x: 0.5, y: 0, z: 3.5 });
  expect(onStem(shape, 11)).toEqual({ x: 1, y: 2, z: 11 });
  expect(onStem(shape, 13.5).y).toBeCloseTo(3, 12);
  expect(onStem(shape, 0).x).toBeCloseTo(-0.2, 12);
});

test("the room of a stem and a limb is as wide as their wood", () => {
  const shape = {
    foot: { x: 2, y: 1, z: 0 },
    stem: [
      [2, 1, 0, 0.4],
      [2, 1, 10, 0.2],
    ],
    limbs: [
      {
        id: "l",
        points: [
          [2, 1, 5, 0.1],
          [8, 1, 5, 0.1],
        ],
      },
    ],
  } as unknown as Shape;
  const rooms = woodRoom(view, shape, [
    { at_m: 0, diameter_m: 0.4 },
    { at_m: 10, diameter_m: 0.2 },
  ]);
  // 0.4 m at 20 to the metre: 4 to each side of the axis, from the ground to the top.
  expect(rooms[0]).toEqual({ left: 296, right: 304, top: 300, bottom: 500 });
  // Six parts of 1 m and of 0.1 m, level at 5 m.
  expect(rooms).toHaveLength(7);
  expect(rooms[6]?.right).toBeCloseTo(300 + 6 * 20 + 1, 9);
  expect(rooms[6]?.top).toBeCloseTo(500 - 5 * 20 - 1, 9);
  expect(woodRoom(view, { ...shape, stem: [], limbs: [] }, [])).toEqual([]);
});

test("a width is read off between two readings", () => {
  const stem = [
    { at_m: 1, diameter_m: 0.5, cavity_m: 0.2 },
    { at_m: 5, diameter_m: 0.3 },
  ];
  expect(widthAt(stem, 3)).toEqual({ outside: 0.4, cavity: 0.1 });
  expect(widthAt(stem, 9).outside).toBeCloseTo(0.3, 12);
});

test("marks stand far enough apart, in the reader's unit", () => {
  expect(markStep(20, 44, 1)).toBe(5);
  expect(markStep(20, 30, 1)).toBe(2);
  expect(markStep(20, 44, 0.3048)).toBeCloseTo(10 * 0.3048, 12);
});

test("the eight winds", () => {
  expect([0, 22, 23, 180, 337, 338, 359, 405, -45].map(wind)).toEqual(
    "N N NE S NW N N NE NW".split(" "),
  );
});
