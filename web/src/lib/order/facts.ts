import { newId, type Fact, type Job, type Wood } from "../api/client";

/** What happened: rows are added, none is changed or taken out; one is taken back by another. */

/** Ids of the facts that are not taken back: what takes back may be taken back itself. */
function standing(facts: Fact[]): Set<string> {
  const by = new Map<string, string[]>();
  for (const f of facts) {
    if (f.what === "back" && f.back) by.set(f.back, [...(by.get(f.back) ?? []), f.id]);
  }
  const known = new Map<string, boolean>();
  const stands = (id: string): boolean => {
    const is = known.get(id);
    if (is !== undefined) return is;
    known.set(id, true);
    const found = !(by.get(id) ?? []).some(stands);
    known.set(id, found);
    return found;
  };
  return new Set(facts.filter((f) => stands(f.id)).map((f) => f.id));
}

const moment = (f: Fact) => (f.at ? Date.parse(f.at) : -Infinity);

/** The facts that stand, the oldest first. */
export function happened(job: Job): Fact[] {
  const facts = job.facts ?? [];
  const stands = standing(facts);
  return facts
    .filter((f) => f.what !== "back" && stands.has(f.id))
    .sort((a, b) => (moment(a) === moment(b) ? (a.id < b.id ? -1 : 1) : moment(a) - moment(b)));
}

/** Ids of the picks that are down. */
export const downs = (job: Job): Set<string> =>
  new Set(happened(job).flatMap((f) => (f.what === "down" && f.pick ? [f.pick] : [])));

/** The weighing of a pick that counts. */
export const weighing = (job: Job, pick: string): Fact | undefined =>
  happened(job).findLast((f) => f.what === "weighed" && f.pick === pick);

function device(): string {
  try {
    const known = localStorage.getItem("elkstay.device");
    if (known) return known;
    const fresh = newId();
    localStorage.setItem("elkstay.device", fresh);
    return fresh;
  } catch {
    return "";
  }
}

/** Writes a fact down. */
function note(job: Job, fact: Omit<Fact, "id" | "at" | "device">): void {
  const from = device();
  job.facts = [
    ...(job.facts ?? []),
    {
      id: newId(),
      ...fact,
      at: new Date().toISOString(),
      ...(from ? { device: from } : {}),
    },
  ];
}

function takeBack(job: Job, which: (f: Fact) => boolean): void {
  for (const f of happened(job)) if (which(f)) note(job, { what: "back", back: f.id });
}

/** Marks a pick down, or not down: of the wood that it is. */
export function setDown(job: Job, pick: string, down: boolean, of: Wood | undefined): void {
  if (!down) takeBack(job, (f) => f.what === "down" && f.pick === pick);
  else if (!downs(job).has(pick)) note(job, { what: "down", pick, ...(of ? { of } : {}) });
}

/** Keeps what the scale said of a pick, kg, of the wood that it is; undefined: it was not so. */
export function weigh(job: Job, pick: string, kg: number | undefined, of: Wood | undefined): void {
  if (kg === undefined) takeBack(job, (f) => f.what === "weighed" && f.pick === pick);
  else note(job, { what: "weighed", pick, kg, ...(of ? { of } : {}) });
}

/** The loads that have gone on a vehicle, the oldest first. */
export const loadsGone = (job: Job, truck: string): Fact[] =>
  happened(job).filter((f) => f.what === "gone" && f.truck === truck);

/** Writes down that a load has gone. */
export function noteGone(
  job: Job,
  truck: string,
  load: { takes: "logs" | "chips"; kg: number; on?: string },
): void {
  note(job, { what: "gone", truck, ...load });
}

/** A load has not gone after all. */
export const takeLoadBack = (job: Job, id: string): void => takeBack(job, (f) => f.id === id);

/** A document without what happened. */
export const bare = (job: Job): Job => ({ ...job, facts: [] });

/** Steps the facts of a document as another one stepped: what came there stands, what went there is taken back. */
export function stepFacts(job: Job, from: Job, to: Job): void {
  const before = new Set((from.facts ?? []).map((f) => f.id));
  const after = new Set((to.facts ?? []).map((f) => f.id));
  for (const f of from.facts ?? []) {
    if (!after.has(f.id) && standing(job.facts ?? []).has(f.id)) {
      note(job, { what: "back", back: f.id });
    }
  }
  for (const f of to.facts ?? []) {
    if (before.has(f.id)) continue;
    const own = job.facts ?? [];
    if (!own.some((one) => one.id === f.id)) job.facts = [...own, f];
    const stands = standing(job.facts ?? []);
    const back = (job.facts ?? []).find(
      (one) => one.what === "back" && one.back === f.id && stands.has(one.id),
    );
    if (back) note(job, { what: "back", back: back.id });
  }
}
