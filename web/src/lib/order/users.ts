// Who uses what of a job.
import type { Job, Way } from "../api/client";
import ways from "./ways.json";

/** Whether a rig holds what goes down this way; a pick of these that names none is on the first. */
export const isHeld = (way: Way): boolean =>
  ways.some((one) => one.way === way && one.held === "line");

/** The picks a rig is of use to, by their numbers: on its line, at an end, beside or in a pull. */
export function usersOf(job: Job, rig: string): number[] {
  const named = new RegExp(
    `"rig":${JSON.stringify(rig).replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}[,}]`,
  );
  const first = job.rigs[0]?.id === rig;
  return job.picks.flatMap((pick, i) =>
    named.test(JSON.stringify(pick)) || (first && !pick.rig && isHeld(pick.way)) ? [i + 1] : [],
  );
}

/** The ways over the ground that a rig moves wood along, by their names. */
export const movesOf = (job: Job, rig: string): string[] =>
  (job.ground?.moves ?? []).filter((move) => move.rig === rig).map((move) => move.name || move.id);

/** "Pick 3", "picks 3, 4 and 8". */
export function picksOf(numbers: number[]): string {
  if (numbers.length < 2) return `pick ${numbers[0] ?? ""}`;
  return `picks ${numbers.slice(0, -1).join(", ")} and ${numbers.at(-1) ?? ""}`;
}
