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
  /** Null: there is none; nobody answering is an error. */
  read(id: string): Promise<JobHead | null>;
  revision(id: string, number: number): Promise<Job | null>;
  save(id: string, base: number, key: string, job: Job): Promise<Saved>;
  /** Asked twice under one key it makes one. */
  create(job: Job, key: string): Promise<JobHead | null>;
  restore(id: string): Promise<boolean>;
  /** Makes what a server has acknowledged this device's own copy of the job. */
  keep(head: JobHead): void;
  /**
   * Of several pages of one device one saves a job. Says when this page may no more, because another
   * does, and when it does after all; take makes it the one, leave lets another.
   */
  own(
    id: string,
    told: { gained: () => void; lost: () => void },
  ): { take: () => void; leave: () => void };
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
  /** False: this device keeps nothing any more. */
  note(slot: string, text: string | null): boolean;
  newId(): string;
  now(): number;
  /** Calls back after a time; the answer takes that back. */
  after(ms: number, then: () => void): () => void;
}
