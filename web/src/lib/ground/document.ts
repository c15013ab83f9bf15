import type { Job } from "../api/client";

type OnGround = NonNullable<Job["ground"]>;
export type Logging = NonNullable<OnGround["logs"]>[number];
export type Way = NonNullable<OnGround["moves"]>[number];
export type Vehicle = NonNullable<OnGround["trucks"]>[number];

/** The part of a document that says what becomes of the wood; made where there is none. */
export const onGround = (job: Job): OnGround => (job.ground ??= {});

/** How a pick's wood is sawn; made where nobody has said. */
export function loggingOf(job: Job, pick: string): Logging {
  const logs = (onGround(job).logs ??= []);
  let one = logs.find((l) => l.id === pick);
  if (!one) logs.push((one = { id: pick }));
  return one;
}
