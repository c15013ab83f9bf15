import { figure, print, unitOf } from "../reference.svelte";
import list from "./instruments.json";
import { quantityOf } from "../quantity";

export interface Field {
  path: string;
  label: string;
  unit: string;
  doc: string;
  min?: number;
  max?: number;
  above?: boolean;
  whole?: boolean;
  choices?: string[];
  number?: boolean;
  flag?: boolean;
  required?: boolean;
}

export interface Instrument {
  kind: string;
  title: string;
  words: string;
  group: string;
  begin: Record<string, unknown>;
  answer: string;
  beside: string[];
  fields: Field[];
  figures: { path: string; label: string; unit: string }[];
  makes_job?: boolean;
}

export const instruments = list as unknown as Instrument[];

const plain = (value: number) =>
  Math.abs(value) >= 1000 ? Math.round(value).toLocaleString("en") : String(+value.toPrecision(4));

/** A figure in the reader's units. */
export function said(path: string, unit: string, value: number): string {
  const quantity = quantityOf(path, unit);
  return quantity ? print(quantity, value) : `${plain(value)}${unit ? ` ${unit}` : ""}`;
}

/** The same in two parts, its unit apart. */
export function parts(path: string, unit: string, value: number): [string, string] {
  const quantity = quantityOf(path, unit);
  return quantity ? [figure(quantity, value), unitOf(quantity).label] : [plain(value), unit];
}

function steps(path: string): (string | number)[] {
  return path
    .split(/[.[\]]+/)
    .filter((step) => step !== "")
    .map((step) => (/^\d+$/.test(step) ? Number(step) : step));
}

/** What stands at a path of a request or an answer. */
export function at(document: unknown, path: string): unknown {
  return steps(path).reduce<unknown>(
    (branch, step) => (branch as Record<string | number, unknown> | undefined)?.[step],
    document,
  );
}

/** A number at a path; undefined: there is none. */
export function numberAt(document: unknown, path: string): number | undefined {
  const value = at(document, path);
  return typeof value === "number" ? value : undefined;
}

/** The document with something else at a path; undefined takes it out. */
export function put(
  document: Record<string, unknown>,
  path: string,
  value: unknown,
): Record<string, unknown> {
  const next = structuredClone(document);
  const way = steps(path);
  const name = way.pop();
  const branch = way.reduce<unknown>(
    (one, step) => (one as Record<string | number, unknown> | undefined)?.[step],
    next,
  ) as Record<string | number, unknown> | undefined;
  if (branch === undefined || name === undefined) return next;
  if (value === undefined) Reflect.deleteProperty(branch, name);
  else branch[name] = value;
  return next;
}

/** What a request has, without its figures: when it changes, other figures can be typed. */
export function shapeOf(value: unknown): string {
  if (Array.isArray(value)) return `[${value.slice(0, 40).map(shapeOf).join()}]`;
  if (value && typeof value === "object")
    return `{${Object.entries(value)
      .map(([name, inner]) => `${name}:${shapeOf(inner)}`)
      .join()}}`;
  return typeof value;
}

/** Names of figures that rise from row to row of a list. */
const rising = ["at_m", "load_pct", "strain_pct", "radius_m", "capacity_kg", "x", "id"];

/** The document with one more row at the end of a list: as the last, its places further on. */
export function withRow(
  document: Record<string, unknown>,
  path: string,
  first?: unknown,
): Record<string, unknown> {
  const list = at(document, path);
  if (!Array.isArray(list) || !list.length) return first ? put(document, path, [first]) : document;
  const rows = list as unknown[];
  const last = rows.at(-1);
  const before = rows.at(-2) ?? last;
  const next = (name: string, a: unknown, b: unknown): unknown => {
    if (typeof b === "number" && typeof a === "number" && rising.includes(name)) {
      const step = b - a;
      return +(b + (step !== 0 ? step : 1)).toFixed(4);
    }
    if (name === "id" && typeof b === "string") return `${b}${rows.length + 1}`;
    return structuredClone(b);
  };
  const row =
    last && typeof last === "object" && !Array.isArray(last)
      ? Object.fromEntries(
          Object.entries(last).map(([name, value]) => [
            name,
            next(name, (before as Record<string, unknown>)[name], value),
          ]),
        )
      : next("at_m", before, last);
  return put(document, path, [...rows, row]);
}

/** The document without the last row of a list. */
export const withoutRow = (document: Record<string, unknown>, path: string) =>
  put(document, path, (at(document, path) as unknown[]).slice(0, -1));

/** Instruments that a search leads to: every word of it begins a word of theirs. */
export function found(search: string): Instrument[] {
  const wanted = search.toLowerCase().split(/\s+/).filter(Boolean);
  return instruments.filter((one) => {
    const words = `${one.title} ${one.words} ${one.kind} ${one.group}`
      .toLowerCase()
      .split(/[^a-z0-9:]+/);
    return wanted.every((part) => words.some((word) => word.startsWith(part)));
  });
}
