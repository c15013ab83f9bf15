import { expect, test } from "vitest";
import type { Job, Rope } from "../api/client";
import { picksOf, standsIn, usersOf } from "./users";

const job = {
  rigs: [{ id: "r1" }, { id: "r2" }, { id: "r.2" }],
  picks: [
    { id: "a", way: "swung", rig: "r2" },
    { id: "b", way: "from-above" },
    { id: "c", way: "free" },
    { id: "d", way: "both-ends", ends: { butt: { rig: "r1" }, tip: { rig: "r2" } } },
    { id: "e", way: "felled", fell: { lines: [{ id: "l", rig: "r2" }] } },
    { id: "f", way: "past-block", rig: "r1", twin: { rig: "r2" } },
    { id: "g", way: "past-block", rig: "rx2" },
  ],
} as unknown as Job;

test("a rig is of use to all picks that have a line of it", () => {
  expect(usersOf(job, "r2")).toEqual([1, 4, 5, 6]);
  // The first rig also takes what names none; what goes free needs none.
  expect(usersOf(job, "r1")).toEqual([2, 4, 6]);
  expect(usersOf(job, "r.2")).toEqual([]);
});

test("picks are named as they are called", () => {
  expect(picksOf([3])).toBe("pick 3");
  expect(picksOf([3, 8])).toBe("picks 3 and 8");
  expect(picksOf([1, 4, 5])).toBe("picks 1, 4 and 5");
});

test("a rope without a table stretches as one of its size, no more", () => {
  const rope = (name: string, mm: number, strain: number) =>
    ({
      name,
      diameter_m: mm / 1000,
      elongation: [{ load_pct: 10, strain_pct: strain }],
    }) as unknown as Rope;
  const ropes = [
    rope("braid 12", 12, 2),
    rope("braid 16", 16, 1.8),
    rope("polyamide 16", 16, 8),
    rope("braid 25", 25, 1.5),
  ];
  expect(standsIn(ropes, 0.012)?.name).toBe("braid 12");
  expect(standsIn(ropes, 0.013)?.name).toBe("braid 16");
  expect(standsIn(ropes, 0.016)?.name).toBe("braid 16");
  expect(standsIn(ropes, 0.04)?.name).toBe("braid 25");
  expect(standsIn(ropes, null)?.name).toBe("braid 25");
  expect(standsIn([], 0.01)).toBeUndefined();
});
