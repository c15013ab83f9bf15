import type { Fault } from "../api/client";
import type { Session } from "../session/session.svelte";
import { setDown, weigh, weighing } from "./facts";

/** The wood that a pick is, as the figures have it. */
const woodOf = (session: Session, id: string) =>
  session.assessment?.picks.find((p) => p.id === id)?.as_cut;

/** Marks picks down, or not down. */
export function markDown(session: Session, ids: string[], down: boolean): Promise<Fault[]> {
  const woods = ids.map((id) => [id, woodOf(session, id)] as const);
  return session.change((job) => {
    for (const [id, of] of woods) setDown(job, id, down, of);
  });
}

/** Keeps what the scale said of a pick, kg; undefined: it was not so. */
export function keepWeight(session: Session, id: string, kg: number | undefined): Promise<Fault[]> {
  const of = woodOf(session, id);
  return session.change((job) => weigh(job, id, kg, of));
}

/** What the scale said of a pick, kg. */
export const weighedKg = (session: Session, id: string): number | undefined =>
  weighing(session.job, id)?.kg;
