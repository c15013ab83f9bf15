import { readFileSync } from "node:fs";
import { resolve } from "node:path";

const root = resolve(import.meta.dirname, "../..");

/** The demo's oak, to be pulled over whole towards a stump. */
export function whole(fell: Record<string, unknown>): Record<string, unknown> {
  const job = JSON.parse(readFileSync(resolve(root, "demo/mill-fold.json"), "utf8")) as {
    name: string;
    site: { anchors: unknown[] };
    picks: unknown[];
  };
  job.name = "Pulled over whole";
  job.site.anchors.push({
    id: "stump",
    name: "oak stump",
    kind: "ground",
    at: { x: 24, y: -12 },
    marked_kn: 40,
  });
  job.picks = [{ id: "p1", what: "top", cut_m: 0.6, way: "felled", fall_towards_deg: 110, fell }];
  return job as unknown as Record<string, unknown>;
}

/** A level limb over a boathouse, held at both ends from two masts, each line on a bollard. */
export function carried(): Record<string, unknown> {
  const rope = {
    name: "made-up line",
    marked_kn: 14,
    mbs_kn: 80,
    elongation: [
      { load_pct: 10, strain_pct: 1.6 },
      { load_pct: 20, strain_pct: 2.6 },
    ],
  };
  const rig = (id: string, name: string, anchor: string) => ({
    id,
    name,
    rope,
    tie: {},
    block: { name: "made-up block", place: { on: "anchor", anchor, at_m: 16 }, marked_kn: 30 },
    sling: { marked_kn: 40 },
    redirects: [],
    device: { marked_kn: 15 },
    hands: {},
    catch: { how: "locked" },
  });
  const mast = (id: string, x: number) => ({
    id,
    name: `mast ${id}`,
    kind: "ground",
    at: { x, y: 0 },
    height_m: 16,
    marked_kn: 30,
  });
  return {
    format: "elkstay-job",
    version: 5,
    name: "Held at both ends",
    site: {
      targets: [
        {
          id: "t",
          name: "boathouse",
          kind: "building",
          box: { min: { x: 2.5, y: -2 }, max: { x: 7, y: 2 } },
          to_m: 4,
        },
      ],
      zones: [],
      sectors: [],
      anchors: [mast("m1", 1), mast("m2", 5)],
      cranes: [],
    },
    trees: [
      {
        id: "1",
        wood: { species: "northern-red-oak" },
        readings: [
          { at_m: 0.5, tape: "diameter", tape_m: 0.8 },
          { at_m: 6, tape: "diameter", tape_m: 0.6 },
        ],
        height_m: 18,
        top_diameter_m: 0.2,
        limbs: [
          {
            id: "a",
            name: "boathouse limb",
            at_m: 9,
            azimuth_deg: 90,
            angle_deg: 90,
            diameter_m: 0.2,
            length_m: 6,
            brush: "bare",
          },
        ],
        defects: [],
      },
    ],
    rigs: [rig("r1", "Butt rig", "m1"), rig("r2", "Tip rig", "m2")],
    picks: [{ id: "p1", what: "limb", limb: "a", way: "from-above", rig: "r1" }],
    limits: {},
  };
}
