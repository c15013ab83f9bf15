import type { Conflict, Job } from "../api/client";

export type Json = string | number | boolean | null | Json[] | { [name: string]: Json };
type Fields = { [name: string]: Json };
type Named = Fields & { id: string };

/** A step towards a part of the document: a field by its name, or a thing by its id. */
export type Step = string | { id: string };

/**
 * A named change of one part of the document. It names things by their ids, never by where
 * they happened to stand, so that it can be made again on a document that has moved on.
 */
export type Operation =
  | { do: "set"; at: Step[]; value: Json }
  | { do: "unset"; at: Step[] }
  | { do: "add"; list: Step[]; entry: Named; after: string | null }
  | { do: "remove"; list: Step[]; id: string }
  | { do: "move"; list: Step[]; id: string; after: string | null }
  /** An entry of a list without ids: found again by what it was. */
  | { do: "entry"; list: Step[]; was: Json | null; now: Json | null; near: number };

export const same = (a: unknown, b: unknown): boolean => {
  if (a === b) return true;
  if (Array.isArray(a) && Array.isArray(b)) {
    return a.length === b.length && a.every((one, i) => same(one, b[i]));
  }
  if (!a || !b || typeof a !== "object" || typeof b !== "object") return false;
  if (Array.isArray(a) || Array.isArray(b)) return false;
  const left = Object.keys(a);
  return (
    left.length === Object.keys(b).length &&
    left.every((key) => key in b && same((a as Fields)[key], (b as Fields)[key]))
  );
};

const isFields = (value: unknown): value is Fields =>
  typeof value === "object" && value !== null && !Array.isArray(value);
const named = (list: Json[]): list is Named[] =>
  list.every((one) => isFields(one) && typeof one.id === "string");

/** The operations that lead from one document to another. */
export function difference(before: Job, after: Job): Operation[] {
  const found: Operation[] = [];
  fields(before as unknown as Fields, after as unknown as Fields, [], found);
  return found;
}

function fields(before: Fields, after: Fields, at: Step[], found: Operation[]): void {
  for (const name of Object.keys(before)) {
    if (!(name in after)) found.push({ do: "unset", at: [...at, name] });
  }
  for (const [name, value] of Object.entries(after)) {
    const was = before[name];
    if (same(was, value)) continue;
    const here = [...at, name];
    if (isFields(was) && isFields(value)) fields(was, value, here, found);
    // A list that was not there yet may have been begun elsewhere meanwhile.
    else if (was === undefined && Array.isArray(value) && value.length > 0 && named(value)) {
      things([], value, here, found);
    } else if (Array.isArray(was) && Array.isArray(value)) {
      if (was.length + value.length > 0 && named(was) && named(value)) {
        things(was, value, here, found);
      } else entries(was, value, here, found);
    } else found.push({ do: "set", at: here, value });
  }
}

function things(before: Named[], after: Named[], list: Step[], found: Operation[]): void {
  for (const one of before) {
    if (!after.some((other) => other.id === one.id)) found.push({ do: "remove", list, id: one.id });
  }
  // What stays is put in its order by the fewest moves: those outside the longest run that keeps it.
  const place = new Map(before.map((one, i) => [one.id, i]));
  const kept = longestRising(after.flatMap((one) => place.get(one.id) ?? []));
  after.forEach((one, i) => {
    const previous = after[i - 1]?.id ?? null;
    const was = place.get(one.id);
    if (was === undefined) found.push({ do: "add", list, entry: one, after: previous });
    else {
      if (!kept.has(was)) found.push({ do: "move", list, id: one.id, after: previous });
      fields(before[was] as Named, one, [...list, { id: one.id }], found);
    }
  });
}

/** The longest rising run of a row of numbers. */
function longestRising(row: number[]): Set<number> {
  const best: number[][] = [];
  for (const n of row) {
    const before = best
      .filter((run) => (run.at(-1) as number) < n)
      .reduce<number[]>((a, b) => (b.length > a.length ? b : a), []);
    best.push([...before, n]);
  }
  return new Set(best.reduce((a, b) => (b.length > a.length ? b : a), []));
}

/** Lists without ids: what is equal at both ends stays, the middle is told entry by entry. */
function entries(before: Json[], after: Json[], list: Step[], found: Operation[]): void {
  let head = 0;
  while (head < before.length && head < after.length && same(before[head], after[head])) head++;
  let tail = 0;
  while (
    tail < before.length - head &&
    tail < after.length - head &&
    same(before.at(-1 - tail), after.at(-1 - tail))
  ) {
    tail++;
  }
  const was = before.slice(head, before.length - tail);
  const now = after.slice(head, after.length - tail);
  for (let i = 0; i < Math.max(was.length, now.length); i++) {
    found.push({ do: "entry", list, was: was[i] ?? null, now: now[i] ?? null, near: head + i });
  }
}

/** What a document became, and which operations found no place in it any more. */
export interface Replayed {
  job: Job;
  lost: Operation[];
}

/** Makes operations on a document, which may have moved on since they were told. */
export function replay(job: Job, operations: Operation[]): Replayed {
  const next = structuredClone(job);
  const lost = operations.filter((operation) => !make(next as unknown as Fields, operation));
  return { job: next, lost };
}

/**
 * Those of some operations that would overwrite what stands otherwise by now than where they were told: a field that
 * has another value than it had and than they give it, a thing to be taken away that was changed.
 */
export function contested(operations: Operation[], told: Job, now: Job): Operation[] {
  const [before, after] = [told as unknown as Fields, now as unknown as Fields];
  return operations.filter((one) => {
    if (one.do === "set" || one.do === "unset") {
      const stands = find(after, one.at);
      const gives = one.do === "set" ? one.value : undefined;
      return !same(stands, find(before, one.at)) && !same(stands, gives);
    }
    if (one.do !== "remove") return false;
    const way = [...one.list, { id: one.id }];
    const stands = find(after, way);
    return stands !== undefined && !same(stands, find(before, way));
  });
}

/** A step back that would overwrite what was changed elsewhere since: that part waits for a word. */
export interface Contest {
  conflicts: Conflict[];
  operations: Operation[];
}

function find(document: Fields, way: Step[]): Json | undefined {
  let here: Json | undefined = document;
  for (const step of way) {
    if (typeof step === "string") here = isFields(here) ? here[step] : undefined;
    else if (Array.isArray(here)) here = (here as Named[]).find((one) => one.id === step.id);
    else return undefined;
  }
  return here;
}

function make(document: Fields, operation: Operation): boolean {
  if (operation.do === "set" || operation.do === "unset") {
    const owner = find(document, operation.at.slice(0, -1));
    const name = operation.at.at(-1);
    if (!isFields(owner) || typeof name !== "string") return false;
    if (operation.do === "unset") Reflect.deleteProperty(owner, name);
    else owner[name] = structuredClone(operation.value);
    return true;
  }
  const list = find(document, operation.list);
  if (!Array.isArray(list)) return begin(document, operation);
  switch (operation.do) {
    case "add":
      return add(list as Named[], operation.entry, operation.after);
    case "remove":
      return take(list as Named[], operation.id) !== undefined;
    case "move": {
      const one = take(list as Named[], operation.id);
      return one !== undefined && add(list as Named[], one, operation.after);
    }
    case "entry":
      return put(list, operation);
  }
}

/** A list that is not there yet begins with what is put into it. */
function begin(document: Fields, operation: Exclude<Operation, { do: "set" | "unset" }>): boolean {
  const owner = find(document, operation.list.slice(0, -1));
  const name = operation.list.at(-1);
  if (!isFields(owner) || typeof name !== "string") return false;
  if (operation.do === "entry" && operation.was === null) {
    owner[name] = [structuredClone(operation.now)];
  } else if (operation.do === "add") owner[name] = [structuredClone(operation.entry)];
  else return false;
  return true;
}

function take(list: Named[], id: string): Named | undefined {
  const i = list.findIndex((one) => one.id === id);
  return i < 0 ? undefined : list.splice(i, 1)[0];
}

function add(list: Named[], entry: Named, after: string | null): boolean {
  if (list.some((one) => one.id === entry.id)) return false;
  const i = after === null ? -1 : list.findIndex((one) => one.id === after);
  list.splice(after !== null && i < 0 ? list.length : i + 1, 0, structuredClone(entry));
  return true;
}

function put(list: Json[], { was, now, near }: Operation & { do: "entry" }): boolean {
  if (was === null) {
    if (now !== null) list.splice(Math.min(near, list.length), 0, structuredClone(now));
    return true;
  }
  const i = same(list[near], was) ? near : list.findIndex((one) => same(one, was));
  if (i < 0) return false;
  if (now === null) list.splice(i, 1);
  else list[i] = structuredClone(now);
  return true;
}
