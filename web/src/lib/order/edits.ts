import type { Job, Pick, Tree, TreeFigures, Way } from "../api/client";
import { known } from "../reference.svelte";

/** Every id of a document, wherever it stands. */
function idsOf(value: unknown, found = new Set<string>()): Set<string> {
  if (Array.isArray(value)) for (const one of value) idsOf(one, found);
  else if (value && typeof value === "object") {
    for (const [key, inner] of Object.entries(value)) {
      if (key === "id" && typeof inner === "string") found.add(inner);
      else idsOf(inner, found);
    }
  }
  return found;
}

const letters = "abcdefghijkmnpqrstuvwxyz23456789";

/** An id that nothing in the job has, and nothing that a colleague makes meanwhile: by chance. */
export function freshId(job: Job, letter: string): string {
  const taken = idsOf(job);
  for (;;) {
    const chance = crypto.getRandomValues(new Uint8Array(10));
    const id = letter + Array.from(chance, (n) => letters[n % letters.length]).join("");
    if (!taken.has(id)) return id;
  }
}

/** Picks that were proposed, under ids of this job's own: two people may be proposed the same. */
export function afresh(job: Job, picks: Pick[]): Pick[] {
  return picks.map((pick) => ({ ...structuredClone(pick), id: freshId(job, "p") }));
}

const onLimb = (pick: Pick, limb: string | undefined) =>
  limb ? pick.what === "limb" && pick.limb === limb : pick.what !== "limb";

/** How a pick names its tree: the first needs no name. */
const ofTree = (job: Job, tree: Tree): Partial<Pick> =>
  job.trees[0]?.id === tree.id ? {} : { tree: tree.id };

/** The next pick that suggests itself: the lowest limb that stands, else the stem's top. */
export function nextPick(job: Job, tree: Tree, figures: TreeFigures | null): Pick {
  const left = figures?.left;
  const standing = tree.limbs
    .map((limb, i) => ({ limb, tip: left?.tips_m[i] ?? limb.length_m }))
    .filter(({ limb, tip }) => !limb.parent && tip > 0)
    .sort((a, b) => a.limb.at_m - b.limb.at_m);
  const way = job.rigs[0]?.rope ? ("past-block" as const) : ("free" as const);
  const pick: Pick = { id: freshId(job, "p"), ...ofTree(job, tree), what: "stem", way };
  const lowest = standing[0]?.limb;
  if (lowest) {
    pick.what = "limb";
    pick.limb = lowest.id;
    if (way === "past-block") pick.way = "from-above";
  }
  if (way !== "free" && job.rigs[0]) pick.rig = job.rigs[0].id;
  return pick;
}

/** A pick of some wood, cut at a place: where it belongs in the order is at its end. */
export function pickAt(job: Job, tree: Tree, limb: string | undefined, cut: number): Pick {
  const own = job.picks.filter((p) => (p.tree || job.trees[0]?.id) === tree.id);
  const pick = { ...(own.findLast((p) => onLimb(p, limb)) ?? { way: "free" as const }) };
  const fresh: Pick = {
    id: freshId(job, "p"),
    ...ofTree(job, tree),
    what: limb ? "limb" : "stem",
    way: pick.way === "crane" ? "free" : pick.way,
    cut_m: cut,
  };
  if (limb) fresh.limb = limb;
  if ("rig" in pick && pick.rig) fresh.rig = pick.rig;
  return fresh;
}

/** Cuts a pick in two: the outer part first, cut at a place. */
export function split(job: Job, id: string, at: number): string {
  const i = job.picks.findIndex((p) => p.id === id);
  const pick = job.picks[i];
  if (!pick) return id;
  const outer: Pick = { ...structuredClone(pick), id: freshId(job, "p"), cut_m: at };
  delete outer.mass_kg;
  delete outer.mass_why;
  delete outer.label;
  if (outer.what === "top") outer.what = "stem";
  job.picks.splice(i, 0, outer);
  return outer.id;
}

/** Joins a pick to the one before it on the same wood: the two come off as one. */
export function join(job: Job, id: string): boolean {
  const i = job.picks.findIndex((p) => p.id === id);
  const pick = job.picks[i];
  if (!pick) return false;
  const before = job.picks
    .slice(0, i)
    .findLastIndex(
      (p) => p.tree === pick.tree && onLimb(p, pick.what === "limb" ? pick.limb : undefined),
    );
  if (before < 0) return false;
  job.picks.splice(before, 1);
  return true;
}

/** Moves picks up or down the order, together. */
export function shift(job: Job, ids: string[], by: -1 | 1): void {
  const picks = job.picks;
  const order = picks.map((p, i) => i).filter((i) => ids.includes(picks[i]?.id ?? ""));
  if (by > 0) order.reverse();
  for (const i of order) {
    const a = picks[i];
    const b = picks[i + by];
    if (!a || !b || ids.includes(b.id)) continue;
    picks[i] = b;
    picks[i + by] = a;
  }
}

/** Puts picks before another; at the end when it is undefined. */
export function moveBefore(job: Job, ids: string[], before: string | undefined): void {
  if (before && ids.includes(before)) return;
  const moving = job.picks.filter((p) => ids.includes(p.id));
  const rest = job.picks.filter((p) => !ids.includes(p.id));
  const at = before ? rest.findIndex((p) => p.id === before) : rest.length;
  rest.splice(at < 0 ? rest.length : at, 0, ...moving);
  job.picks = rest;
}

export function remove(job: Job, ids: string[]): void {
  job.picks = job.picks.filter((p) => !ids.includes(p.id));
}

/** The ways down in the crew's words. */
export const ways = (): Record<Way, string> => known.get().ways as Record<Way, string>;
