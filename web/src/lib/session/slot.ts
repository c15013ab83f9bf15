import type { Job, JobHead } from "../api/client";
import type { Surroundings } from "./surroundings";

/** A document on its way to the server. */
export interface Kept {
  base: number;
  key: string;
  job: Job;
}

/** What is kept on this device until a server has acknowledged it. */
export interface Left {
  /** Sent, and never answered: it may or may not have been kept. */
  doubt: Kept | null;
  /** The newest. */
  pending: Kept;
  /** How many changes it holds, and since when, ms. */
  waiting?: number;
  since?: number;
}

/** A part that both sides changed, until somebody says whose stands. */
export interface Question {
  /** What this device had when it was asked: whatever is done after it goes on. */
  asked: Job;
  theirs: JobHead;
  /** Both brought together: with mine where both changed the same, and with theirs. */
  withMine: Job;
  withTheirs: Job;
  /** Under which mine is kept as a job of its own, however often it is pressed. */
  copy: string;
}
/** Before the id of the job whose changes wait under it. */
export const slotBefore = "elkstay.unsaved.";

/** Where a device keeps what waits of one job. */
export class Slot {
  private noted = "";

  constructor(
    private readonly id: string,
    private readonly around: Pick<Surroundings, "recall" | "note">,
  ) {}

  private get name(): string {
    return slotBefore + this.id;
  }

  private recall(): Left | null {
    try {
      return JSON.parse(this.around.recall(this.name) ?? "null") as Left | null;
    } catch {
      return null;
    }
  }

  /** What is there, as one's own from now on. */
  take(): Left | null {
    const left = this.recall();
    if (left) this.noted = left.pending.key;
    return left;
  }

  /** Keeps what waits; null: nothing does any more. False: the device keeps nothing more. */
  note(left: Left | null): boolean {
    if (left) {
      const kept = this.around.note(this.name, JSON.stringify(left));
      if (kept) this.noted = left.pending.key;
      return kept;
    }
    // Only our own note: another page may have left one for the same job.
    if (this.recall()?.pending.key === this.noted) this.around.note(this.name, null);
    return true;
  }
}
