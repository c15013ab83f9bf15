// Who uses what of a job, and what stands in for what nobody gave.
import type { Job, Rope, Way } from "../api/client";

/** Ways down that a rig holds; a pick of these that names none is on the first. */
const held: readonly Way[] = ["past-block", "from-above", "swung", "two-points", "both-ends"];

/** The picks a rig is of use to, by their numbers: on its line, at an end, beside or in a pull. */
export function usersOf(job: Job, rig: string): number[] {
  const named = new RegExp(
    `"rig":${JSON.stringify(rig).replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}[,}]`,
  );
  const first = job.rigs[0]?.id === rig;
  return job.picks.flatMap((pick, i) =>
    named.test(JSON.stringify(pick)) || (first && !pick.rig && held.includes(pick.way))
      ? [i + 1]
      : [],
  );
}

/** "Pick 3", "picks 3, 4 and 8". */
export function picksOf(numbers: number[]): string {
  if (numbers.length < 2) return `pick ${numbers[0] ?? ""}`;
  return `picks ${numbers.slice(0, -1).join(", ")} and ${numbers.at(-1) ?? ""}`;
}

/** The typical rope whose stretch stands in for one that has no table: of its size, or the next
 * thicker; the least that stretches where its size is not known. */
export function standsIn(ropes: Rope[], diameter: number | null): Rope | undefined {
  const stretch = (rope: Rope) => rope.elongation?.[0]?.strain_pct ?? Infinity;
  const stiff = [...ropes].sort((a, b) => stretch(a) - stretch(b));
  if (diameter === null) return stiff[0];
  const thick = stiff.filter((rope) => (rope.diameter_m ?? 0) >= diameter - 1e-6);
  const least = Math.min(...thick.map((rope) => rope.diameter_m ?? Infinity));
  return thick.find((rope) => rope.diameter_m === least) ?? stiff[0];
}
