import type { Conflict, Job, JobHead, Merged } from "../api/client";
import type { Surroundings } from "./surroundings";

export type SaveState =
  "saved" | "waiting" | "saving" | "unreachable" | "stale" | "refused" | "gone";

interface Kept {
  base: number;
  key: string;
  job: Job;
}

/** What is kept on this device until a server has acknowledged it. */
interface Left {
  /** Sent, and never answered: it may or may not have been kept. */
  doubt: Kept | null;
  /** The newest. */
  pending: Kept;
}

const pause = 350;
const again = 2000;

/** Puts another document in place; undoable: as a step of the user's own. */
type Adopt = (job: Job, undoable: boolean) => void;

/**
 * Saves one job by itself, and hears when someone else has. Changes of both sides are
 * brought together part by part; only what both changed is asked about. What is not yet acknowledged is also kept on this device,
 * so that neither a lost connection nor a closed page loses it. A save tried again
 * carries the same key: the server keeps it once.
 */
export class Saver {
  readonly id: string;
  state = $state<SaveState>("saved");
  revision = $state(0);
  savedAt = $state("");
  /** Why a save was refused. */
  reason = $state("");
  /** What is kept meanwhile, when both sides changed the same part. */
  theirs = $state.raw<JobHead | null>(null);
  conflicts = $state.raw<Conflict[]>([]);
  /** When a change from elsewhere last came in. */
  broughtIn = $state(0);
  /** Work found on this device that no server has acknowledged. */
  readonly resumed: Job | null = null;

  private pending: Kept | null = null;
  private doubt: Kept | null = null;
  private noted = "";
  private inFlight = false;
  private closed = false;
  private cancel: () => void = () => undefined;
  /** The newest document that a server has acknowledged or sent. */
  private known: { revision: number; job: Job };
  private merged: { mine: Job; theirs: Job } | null = null;
  private heard = 0;
  private readonly deafen: () => void;
  /** Called when the crew's gear or rules have changed. */
  onCrew: () => void = () => undefined;

  constructor(
    head: JobHead,
    private readonly around: Surroundings,
    private readonly adopt: Adopt,
  ) {
    this.id = head.id;
    this.known = { revision: head.revision, job: head.job };
    this.revision = head.revision;
    this.savedAt = head.saved_at;
    const left = this.recall();
    if (left) {
      this.resumed = left.pending.job;
      this.pending = left.pending;
      this.doubt = left.doubt;
      this.noted = left.pending.key;
      this.state = "waiting";
      this.schedule(0);
    }
    this.deafen = around.listen(head.id, {
      online: () => void this.send(),
      crew: () => this.onCrew(),
      moved: (revision, deleted) => {
        if (deleted) {
          this.state = "gone";
          return;
        }
        if (this.state === "gone") this.state = this.pending ? "waiting" : "saved";
        this.heard = Math.max(this.heard, revision);
        void this.catchUp();
      },
    });
  }

  /** Brings in what was saved elsewhere, when nothing of ours is under way. */
  private async catchUp(): Promise<void> {
    if (this.inFlight || this.heard <= this.revision || this.state === "stale") return;
    this.inFlight = true;
    try {
      const head = await this.around.read(this.id);
      if (head && head.revision > this.revision) await this.bringIn(head);
    } catch {
      // The line is down: the stream says so again when it is back.
    } finally {
      this.inFlight = false;
    }
    if (this.pending && this.state === "waiting") this.schedule(0);
  }

  /** Takes in a newer revision: as it is, or together with what is not saved yet. */
  private async bringIn(head: JobHead): Promise<void> {
    if (!this.pending) {
      this.take(head);
      this.broughtIn = this.around.now();
      this.adopt(head.job, false);
      return;
    }
    let sent: Kept;
    let base: Job | null;
    let mine: Merged | null;
    do {
      // What is typed meanwhile is brought together too.
      sent = this.pending;
      base = await this.documentOf(sent.base);
      mine = base ? await this.around.merge(base, sent.job, head.job) : null;
    } while (this.pending !== sent);
    if (!mine || mine.conflicts.length) {
      const theirs = base ? await this.around.merge(base, head.job, sent.job) : null;
      this.conflicts = mine?.conflicts ?? [];
      this.merged = { mine: mine?.job ?? sent.job, theirs: theirs?.job ?? head.job };
      this.theirs = head;
      this.state = "stale";
      return;
    }
    this.take(head);
    this.broughtIn = this.around.now();
    this.pending = { base: head.revision, key: this.around.newId(), job: mine.job };
    this.state = "waiting";
    this.note();
    this.adopt(mine.job, false);
  }

  private take(head: JobHead): void {
    this.known = { revision: head.revision, job: head.job };
    this.revision = head.revision;
    this.savedAt = head.saved_at;
    this.doubt = null;
  }

  private async documentOf(revision: number): Promise<Job | null> {
    if (this.known.revision === revision) return this.known.job;
    return this.around.revision(this.id, revision);
  }

  private get slot(): string {
    return `elkstay.unsaved.${this.id}`;
  }

  private recall(): Left | null {
    try {
      return JSON.parse(this.around.recall(this.slot) ?? "null") as Left | null;
    } catch {
      return null;
    }
  }

  private note(): void {
    if (this.pending) {
      const left: Left = { doubt: this.doubt, pending: this.pending };
      this.around.note(this.slot, JSON.stringify(left));
      this.noted = this.pending.key;
    } else if (this.recall()?.pending.key === this.noted) {
      // Only our own note: another page may have left one for the same job.
      this.around.note(this.slot, null);
    }
  }

  /** Asks for a document to be saved. */
  want(job: Job): void {
    this.pending = { base: this.revision, key: this.around.newId(), job };
    this.note();
    if (this.state === "stale" || this.state === "gone") return;
    this.state = this.inFlight
      ? "saving"
      : this.state === "unreachable"
        ? "unreachable"
        : "waiting";
    this.schedule(pause);
  }

  private schedule(after: number): void {
    this.cancel();
    if (!this.closed) this.cancel = this.around.after(after, () => void this.send());
  }

  private async send(): Promise<void> {
    if (this.inFlight || !this.pending || this.state === "stale" || this.state === "gone") return;
    // What may have been kept already goes first, under the key it had.
    const sent = this.doubt ?? this.pending;
    this.inFlight = true;
    if (this.state !== "unreachable") this.state = "saving";
    try {
      const answer = await this.around.save(this.id, sent.base, sent.key, sent.job);
      if ("kept" in answer) this.acknowledged(sent, answer.kept.revision, answer.kept.savedAt);
      else if ("moved" in answer) {
        this.doubt = null;
        await this.bringIn(answer.moved);
        this.schedule(0);
      } else if ("gone" in answer) this.state = "gone";
      else if ("refused" in answer) {
        this.reason = answer.refused;
        this.state = "refused";
      } else this.unreachable(sent, answer.unanswered);
    } catch {
      this.unreachable(sent, "");
    } finally {
      this.inFlight = false;
    }
    void this.catchUp();
  }

  private acknowledged(sent: Kept, revision: number, savedAt: string): void {
    this.known = { revision, job: sent.job };
    this.revision = revision;
    this.savedAt = savedAt;
    this.doubt = null;
    if (this.pending?.key === sent.key) {
      this.pending = null;
      this.state = "saved";
    } else if (this.pending) {
      this.pending = { ...this.pending, base: revision };
      this.state = "waiting";
      this.schedule(0);
    }
    this.note();
  }

  private unreachable(sent: Kept, why: string): void {
    this.doubt = sent;
    this.reason = why;
    this.note();
    this.state = "unreachable";
    this.schedule(again);
  }

  /** Saves both sides' changes; where both changed the same, this device's. */
  keepMine(): void {
    if (!this.theirs || !this.pending) return;
    const job = this.merged?.mine ?? this.pending.job;
    this.take(this.theirs);
    this.pending = { base: this.revision, key: this.around.newId(), job };
    this.settle();
    this.state = "waiting";
    this.note();
    this.adopt(job, false);
    this.schedule(0);
  }

  /** Takes theirs where both changed the same; this device's can be brought back with undo. */
  takeTheirs(): void {
    if (!this.theirs) return;
    const job = this.merged?.theirs ?? this.theirs.job;
    const same = JSON.stringify(job) === JSON.stringify(this.theirs.job);
    this.take(this.theirs);
    this.pending = same ? null : { base: this.revision, key: this.around.newId(), job };
    this.settle();
    this.state = same ? "saved" : "waiting";
    this.note();
    this.adopt(job, true);
    if (!same) this.schedule(0);
  }

  private settle(): void {
    this.theirs = null;
    this.merged = null;
    this.conflicts = [];
  }

  /** Keeps this device's version as a job of its own and takes the other here. */
  async keepBoth(): Promise<string | null> {
    if (!this.pending) return null;
    const mine = structuredClone(this.pending.job);
    mine.name = `${[...mine.name].slice(0, 108).join("")} (mine)`;
    const made = await this.around.create(mine);
    if (!made || !this.theirs) return null;
    this.merged = { mine, theirs: this.theirs.job };
    this.takeTheirs();
    return made.id;
  }

  /** Brings a deleted job back and saves what is at hand. */
  async restore(): Promise<void> {
    if (!(await this.around.restore(this.id))) return;
    this.state = "waiting";
    this.schedule(0);
  }

  close(): void {
    this.cancel();
    this.closed = true;
    this.deafen();
    if (this.state !== "unreachable") void this.send();
  }
}
