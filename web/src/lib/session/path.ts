import type { Job } from "../api/client";

type Branch = Record<string, unknown>;
type Entry = { id: string };

/**
 * A path names a place of a job document: fields by name, things with an id by it, others
 * by their place: `picks[#p3].cut_m`, `trees[#1].readings[2].at_m`.
 */
export const byId = (list: string, id: string): string => `${list}[#${id}]`;

function steps(path: string): string[] {
  return path.split(/[.[\]]+/).filter((step) => step !== "");
}

/** One step into a document; undefined: there is no such place. */
function into(branch: unknown, step: string): unknown {
  if (Array.isArray(branch)) {
    if (step.startsWith("#")) return branch.find((one: Entry) => one.id === step.slice(1));
    return branch[Number(step)] as unknown;
  }
  return (branch as Branch | undefined)?.[step];
}

/** What stands at a path. */
export function read(job: Job, path: string): unknown {
  return steps(path).reduce<unknown>(into, job);
}

/**
 * Sets, or with undefined takes out, the value at a path. Where the thing it belongs to is
 * not there any more nothing happens, and the answer is false.
 */
export function assign(job: Job, path: string, value: unknown): boolean {
  const way = steps(path);
  const name = way.pop() as string;
  const branch = way.reduce<unknown>(into, job) as Branch | undefined;
  if (branch === undefined || branch === null) return false;
  if (value === undefined) Reflect.deleteProperty(branch, name);
  else branch[name] = value;
  return true;
}

/** The path as the core writes it, every thing by its place in its list. */
export function placed(job: Job, path: string): string {
  let branch: unknown = job;
  let text = "";
  for (const step of steps(path)) {
    if (Array.isArray(branch)) {
      const place = step.startsWith("#")
        ? branch.findIndex((one: Entry) => one.id === step.slice(1))
        : Number(step);
      text += `[${place}]`;
      branch = branch[place] as unknown;
    } else {
      text += text ? `.${step}` : step;
      branch = (branch as Branch | undefined)?.[step];
    }
  }
  return text;
}
