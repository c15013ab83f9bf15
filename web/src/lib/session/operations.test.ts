import { expect, test } from "vitest";
import type { Job, Pick } from "../api/client";
import { difference, replay, type Operation } from "./operations";
import { assign, byId, placed, read } from "./path";
import { random, sample } from "./testing/world";

const changed = (job: Job, mutate: (job: Job) => void): Job => {
  const next = structuredClone(job);
  mutate(next);
  return next;
};
const told = (mutate: (job: Job) => void): Operation[] =>
  difference(sample(), changed(sample(), mutate));

test("a change is told by name and id, not by place", () => {
  expect(told((j) => ((j.picks[1] as Pick).cut_m = 2))).toEqual([
    { do: "set", at: ["picks", { id: "p2" }, "cut_m"], value: 2 },
  ]);
  expect(told((j) => delete (j.picks[2] as Pick).cut_m)).toEqual([
    { do: "unset", at: ["picks", { id: "p3" }, "cut_m"] },
  ]);
  expect(told((j) => j.picks.splice(0, 1))).toEqual([{ do: "remove", list: ["picks"], id: "p1" }]);
  expect(told((j) => j.picks.push(j.picks.shift() as Pick))).toEqual([
    { do: "move", list: ["picks"], id: "p1", after: "p3" },
  ]);
  expect(told((j) => j.picks.splice(1, 0, { id: "n", what: "stem", way: "free" }))).toEqual([
    { do: "add", list: ["picks"], entry: { id: "n", what: "stem", way: "free" }, after: "p1" },
  ]);
  expect(told(() => undefined)).toEqual([]);
});

test("a mass lands on its own pick, whatever came before it meanwhile", () => {
  const judged = told((j) => ((j.picks[1] as Pick).mass_kg = 180));
  const theirs = changed(sample(), (j) => {
    j.picks.unshift({ id: "new", what: "stem", way: "free" });
    j.picks.splice(1, 1);
  });
  const { job, lost } = replay(theirs, judged);
  expect(lost).toEqual([]);
  expect(job.picks.map((p) => [p.id, p.mass_kg])).toEqual([
    ["new", undefined],
    ["p2", 180],
    ["p3", undefined],
  ]);
});

test("what is not there any more is said, and nothing else is touched", () => {
  const judged = told((j) => ((j.picks[1] as Pick).mass_kg = 180));
  const theirs = changed(sample(), (j) => j.picks.splice(1, 1));
  const { job, lost } = replay(theirs, judged);
  expect(lost).toHaveLength(1);
  expect(job).toEqual(theirs);
});

test("an order filled leaves a colleague's note where it is", () => {
  const filled = told((j) => j.picks.push({ id: "p9", what: "stem", way: "free", cut_m: 3 }));
  const theirs = changed(sample(), (j) => ((j.picks[0] as Pick).note = "mind the wire"));
  const { job } = replay(theirs, filled);
  expect(job.picks.map((p) => p.id)).toEqual(["p1", "p2", "p3", "p9"]);
  expect(job.picks[0]?.note).toBe("mind the wire");
});

test("a list that two begin holds what both put into it", () => {
  const fact = (id: string) => ({ id, what: "down" as const, pick: "p1" });
  const mine = told((j) => (j.facts = [fact("a")]));
  const theirs = changed(sample(), (j) => (j.facts = [fact("b")]));
  const { job, lost } = replay(theirs, mine);
  expect(lost).toEqual([]);
  expect(job.facts?.map((f) => f.id).sort()).toEqual(["a", "b"]);
});

test("a reading is found again by what it was", () => {
  const mended = told((j) => ((j.trees[0]?.readings[1] ?? { tape_m: 0 }).tape_m = 1.85));
  const theirs = changed(sample(), (j) =>
    j.trees[0]?.readings.unshift({ at_m: 0.1, tape: "girth", tape_m: 2.4 }),
  );
  const { job, lost } = replay(theirs, mended);
  expect(lost).toEqual([]);
  expect(job.trees[0]?.readings.map((r) => r.tape_m)).toEqual([2.4, 2, 1.85, 1.2]);
  const gone = changed(sample(), (j) => j.trees[0]?.readings.splice(1, 1));
  expect(replay(gone, mended).lost).toHaveLength(1);
  expect(replay(gone, mended).job).toEqual(gone);
});

test("the difference of two documents leads from one to the other", () => {
  const chance = random(7);
  const pick = (n: number) => Math.floor(chance() * n);
  for (let round = 0; round < 400; round++) {
    const a = bend(sample(), pick, 6);
    const b = bend(a, pick, 6);
    const { job, lost } = replay(a, difference(a, b));
    expect(lost).toEqual([]);
    expect(job).toEqual(b);
  }
});

/** Bends a document at random: fields, things, orders, entries without ids. */
function bend(job: Job, pick: (n: number) => number, times: number): Job {
  return changed(job, (j) => {
    for (let i = 0; i < times; i++) {
      const p = j.picks[pick(j.picks.length)];
      const tree = j.trees[0];
      switch (pick(8)) {
        case 0:
          if (p) p.cut_m = pick(900) / 100;
          break;
        case 1:
          if (p) p.note = `note ${pick(100)}`;
          break;
        case 2:
          j.picks.splice(pick(j.picks.length + 1), 0, {
            id: `x${pick(1e9)}`,
            what: "stem",
            way: "free",
          });
          break;
        case 3:
          if (j.picks.length > 1) j.picks.splice(pick(j.picks.length), 1);
          break;
        case 4:
          if (p) {
            j.picks = j.picks.filter((one) => one !== p);
            j.picks.splice(pick(j.picks.length + 1), 0, p);
          }
          break;
        case 5:
          tree?.readings.splice(pick(tree.readings.length + 1), pick(2), {
            at_m: pick(900) / 100,
            tape: "girth",
            tape_m: 1 + pick(100) / 100,
          });
          break;
        case 6:
          j.limits.run_m = pick(5) + 1;
          break;
        case 7:
          if (p) delete p.cut_m;
      }
    }
  });
}

test("paths name things by their ids and read back by their places", () => {
  const job = sample();
  const path = `${byId("trees", "1")}.limbs[#l2].length_m`;
  expect(read(job, path)).toBe(3);
  expect(placed(job, path)).toBe("trees[0].limbs[1].length_m");
  expect(placed(job, "trees[#1].readings[2].at_m")).toBe("trees[0].readings[2].at_m");
  expect(assign(job, path, 3.5)).toBe(true);
  expect(job.trees[0]?.limbs[1]?.length_m).toBe(3.5);
  expect(assign(job, "picks[#gone].cut_m", 1)).toBe(false);
  expect(assign(job, "picks[#p3].cut_m", undefined)).toBe(true);
  expect(job.picks[2]).not.toHaveProperty("cut_m");
});
