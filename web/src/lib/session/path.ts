import type { Job } from "../api/client";

type Branch = Record<string, unknown>;

/** Splits "tree.readings[2].at_m" into its steps. */
function steps(path: string): string[] {
  return path.replace(/\[(\d+)\]/g, ".$1").split(".");
}

/** Sets, or with undefined takes out, the value at a dotted path of a job document. */
export function assign(job: Job, path: string, value: unknown): void {
  const way = steps(path);
  const name = way.pop() as string;
  let branch = job as unknown as Branch;
  for (const step of way) branch = branch[step] as Branch;
  if (value === undefined) Reflect.deleteProperty(branch, name);
  else branch[name] = value;
}
