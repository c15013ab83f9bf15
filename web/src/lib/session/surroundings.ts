import type { Assessment, Fault, Job, JobHead, Merged, Trace } from "../api/client";

/** What a server makes of a save. */
export type Saved =
  | { kept: { revision: number; savedAt: string } }
  | { moved: JobHead }
  | { gone: true }
  | { refused: string }
  /** Nothing was kept; why, where the server said so. */
  | { unanswered: string };

/** What hears of a job from elsewhere. */
export interface Hearing {
  moved: (revision: number, deleted: boolean) => void;
  crew: () => void;
  online: () => void;
}

/** What a session needs from around it: a server, a core, a place to keep notes, a clock. */
export interface Surroundings {
  read(id: string): Promise<JobHead | null>;
  revision(id: string, number: number): Promise<Job | null>;
  save(id: string, base: number, key: string, job: Job): Promise<Saved>;
  create(job: Job): Promise<JobHead | null>;
  restore(id: string): Promise<boolean>;
  /** Hears of every save; the answer ends it. */
  listen(id: string, hearing: Hearing): () => void;
  merge(base: Job, mine: Job, theirs: Job): Promise<Merged | null>;
  /** Null: nobody answers. */
  assess(job: Job, pick: string): Promise<{ data?: Assessment; faults?: Fault[] } | null>;
  simulate(job: Job, pick: string, runs: number): Promise<Trace | null>;
  resolve(job: Job): Promise<Job | null>;
  /** The crew's rules and gear, made ready for a job, or asked for anew. */
  ready(job: Job): void;
  refresh(): Promise<void>;
  recall(slot: string): string | null;
  note(slot: string, text: string | null): void;
  newId(): string;
  now(): number;
  /** Calls back after a time; the answer takes that back. */
  after(ms: number, then: () => void): () => void;
}
