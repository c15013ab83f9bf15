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
