import { expect, test } from "vitest";
import type { Job, PlanPart } from "../api/client";
import { sample } from "../session/testing/world";
import { readPlace, takeParts } from "./plan";

const part = (more: Partial<PlanPart>): PlanPart => ({
  number: 1,
  name: "x",
  kind: "target",
  shape: "line",
  does: "new",
  why: "",
  id: "",
  ...more,
});

test("what has an id changes what is there, what has none is new, and nothing else moves", () => {
  const job: Job = sample();
  const before = structuredClone(job);
  let n = 0;
  const outline = [
    { x: 0, y: 0 },
    { x: 9, y: 0 },
    { x: 9, y: 9 },
  ];
  const fence = { id: "", name: "fence", kind: "fence", outline: outline.slice(0, 2), to_m: 2 };
  takeParts(
    job,
    [
      part({ kind: "drop zone", id: "z1", zone: { id: "z1", name: "lawn", outline } }),
      part({ target: fence as PlanPart["target"] }),
      part({ target: { ...fence, name: "another" } as PlanPart["target"] }),
      part({ kind: "tree", id: "1", foot: { x: 3, y: 4 } }),
      part({ kind: "tree", id: "gone", foot: { x: 3, y: 4 } }),
      part({ kind: "way out", escape: { id: "", name: "out", outline } }),
    ],
    { lat_deg: 48, lon_deg: -40 },
    () => `f${n++}`,
  );
  expect(job.site.zones).toEqual([{ id: "z1", name: "lawn", outline }]);
  expect(job.site.targets.map((t) => t.name)).toEqual(["fence", "another"]);
  expect(new Set(job.site.targets.map((t) => t.id)).size).toBe(2);
  expect(job.site.targets.every((t) => t.id)).toBe(true);
  expect(job.trees[0]?.at).toEqual({ x: 3, y: 4 });
  expect(job.site.escapes).toHaveLength(1);
  expect(job.site.earth).toEqual({ lat_deg: 48, lon_deg: -40 });
  expect(job.picks).toEqual(before.picks);
  // A place that is there stays.
  takeParts(job, [], { lat_deg: 1, lon_deg: 1 }, () => "x");
  expect(job.site.earth?.lat_deg).toBe(48);
});

test("a place is read in degrees, or refused in words", () => {
  expect(readPlace("52.10012, 4.30034")).toEqual({ lat: 52.10012, lon: 4.30034 });
  expect(readPlace("33.9° S 151.2° E")).toEqual({ lat: -33.9, lon: 151.2 });
  expect(readPlace("-33.9;-151.2")).toEqual({ lat: -33.9, lon: -151.2 });
  expect(readPlace("52")).toContain("is no place");
  expect(readPlace("52,1 4,3")).toContain("is no place");
  expect(readPlace("91, 4")).toContain("latitude");
  expect(readPlace("52, 181")).toContain("longitude");
});
