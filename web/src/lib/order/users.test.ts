import { expect, test } from "vitest";
import type { Job } from "../api/client";
import { movesOf, picksOf, usersOf } from "./users";

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

test("a rig also moves wood over the ground", () => {
  const ground = {
    moves: [
      { id: "m1", name: "to the lane", rig: "r2" },
      { id: "m2", rig: "r2" },
      { id: "m3", name: "by hand" },
    ],
  };
  expect(movesOf({ ...job, ground } as unknown as Job, "r2")).toEqual(["to the lane", "m2"]);
  expect(movesOf(job, "r2")).toEqual([]);
});

test("picks are named as they are called", () => {
  expect(picksOf([3])).toBe("pick 3");
  expect(picksOf([3, 8])).toBe("picks 3 and 8");
  expect(picksOf([1, 4, 5])).toBe("picks 1, 4 and 5");
});
