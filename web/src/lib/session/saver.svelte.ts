import type { Conflict, Job, JobHead } from "../api/client";
import { Slot, type Kept, type Left, type Question } from "./slot";
import type { Surroundings } from "./surroundings";

export type SaveState =
  "saved" | "waiting" | "saving" | "unreachable" | "stale" | "refused" | "gone";

const pause = 350;
const again = 2000;
/** What a device kept goes out once it is known that no other page of it holds the job. */
const soon = 60;

/** Puts another document in place; undoable: as one's own step. */
type Adopt = (job: Job, undoable: boolean) => void;

/**
 * Saves one job by itself, and hears when someone else has. Changes of both sides are
 * brought together part by part; only what both changed is asked about, and what is done
 * after the question goes on. What is not yet acknowledged is also kept on this device,
 * so that neither a lost connection nor a closed page loses it; what is acknowledged is
 * this device's own copy at once. A save tried again carries the same key: the server keeps
 * it once. Of several pages of one device one saves; the others follow.
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
  /** How many changes no server has acknowledged, and since when, ms. */
  waiting = $state(0);
  since = $state(0);
  /** What waits is kept on this device; else only in this page. */
  here = $state(true);
  /** Another page of this device saves this job: here it is only seen. */
  follows = $state(false);
  /** Work found on this device that no server has acknowledged. */
  readonly resumed: Job | null = null;

  private pending: Kept | null = null;
  private doubt: Kept | null = null;
  private readonly slot: Slot;
  private inFlight = false;
  private closed = false;
  private cancel: () => void = () => undefined;
  private cancelHearing: () => void = () => undefined;
  /** The newest document that a server has acknowledged or sent. */
  private known: { revision: number; job: Job };
  private question: Question | null = null;
  private heard = 0;
  private readonly deafen: () => void;
  private readonly owning: { take: () => void; leave: () => void };
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
    this.slot = new Slot(head.id, around);
    const left = this.slot.take();
    if (left) {
      this.resumed = left.pending.job;
      this.resume(left);
    }
    this.owning = around.own(head.id, {
      gained: () => this.gained(),
      lost: () => this.follow(),
    });
    this.deafen = around.listen(head.id, {
      online: () => void this.send(),
      crew: () => this.onCrew(),
      moved: (revision, deleted) => {
        if (deleted) {
          this.state = "gone";
          return;
        }
        this.heard = Math.max(this.heard, revision);
        if (this.state === "gone") {
          this.state = this.pending ? "waiting" : "saved";
          if (this.pending) this.schedule(0);
        }
        void this.catchUp();
      },
    });
  }

  private resume(left: Left): void {
    this.pending = left.pending;
    this.doubt = left.doubt;
    this.waiting = left.waiting ?? 1;
    this.since = left.since ?? this.around.now();
    this.state = "waiting";
    this.schedule(soon);
  }

  /** This page saves the job from now on: with what the other left on this device. */
  private gained(): void {
    if (!this.follows) return;
    this.follows = false;
    const left = this.slot.take();
    if (left) {
      this.resume(left);
      this.adopt(left.pending.job, false);
    }
    void this.catchUp();
  }

  /** Another page of this device saves it: what waits is in its hands. */
  private follow(): void {
    // What only this page holds goes on from here: beside the other, as from another device.
    if (this.pending && !this.here) return;
    this.follows = true;
    this.cancel();
    this.settle();
    this.pending = null;
    this.doubt = null;
    this.waiting = 0;
    if (this.state !== "gone") this.state = "saved";
    void this.catchUp();
  }

  /** Takes the job over from another page of this device. */
  takeOver(): void {
    this.owning.take();
  }

  /** Brings in what was saved elsewhere, when nothing of ours is under way. */
  private async catchUp(): Promise<void> {
    if (this.inFlight || this.heard <= this.revision || this.state === "stale") return;
    if (this.doubt) return; // What is heard of may be that: it is found out first.
    this.inFlight = true;
    try {
      const head = await this.around.read(this.id);
      if (head && head.revision > this.revision) await this.bringIn(head);
    } catch {
      this.cancelHearing();
      if (!this.closed) {
        this.cancelHearing = this.around.after(again, () => void this.catchUp());
      }
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
    let mine: { job: Job; conflicts: Conflict[] };
    let theirs: Job;
    do {
      // What is typed meanwhile is brought together too.
      sent = this.pending;
      base = await this.documentOf(sent.base);
      mine = base ? await this.merged(base, sent.job, head.job) : { job: sent.job, conflicts: [] };
      theirs =
        base && mine.conflicts.length
          ? (await this.merged(base, head.job, sent.job)).job
          : head.job;
    } while (this.pending !== sent);
    if (!base || mine.conflicts.length) {
      this.question = {
        asked: sent.job,
        theirs: head,
        withMine: mine.job,
        withTheirs: theirs,
        copy: this.around.newId(),
      };
      this.conflicts = mine.conflicts;
      this.theirs = head;
      this.state = "stale";
      return;
    }
    this.take(head);
    this.broughtIn = this.around.now();
    this.wait(mine.job, head.revision);
    this.state = "waiting";
    this.adopt(mine.job, false);
  }

  private async merged(base: Job, mine: Job, theirs: Job) {
    const merged = await this.around.merge(base, mine, theirs);
    // A core that does not answer has not said that everything contradicts.
    if (!merged) throw new Error("no answer");
    return merged;
  }

  private take(head: JobHead): void {
    this.known = { revision: head.revision, job: head.job };
    this.revision = head.revision;
    this.savedAt = head.saved_at;
    this.doubt = null;
    this.around.keep(head);
  }

  private async documentOf(revision: number): Promise<Job | null> {
    if (this.known.revision === revision) return this.known.job;
    return this.around.revision(this.id, revision);
  }

  private note(): void {
    if (this.follows) return;
    this.here = this.slot.note(
      this.pending && {
        doubt: this.doubt,
        pending: this.pending,
        waiting: this.waiting,
        since: this.since,
      },
    );
  }

  /** Makes a document the one that waits to be saved: made from a revision. */
  private wait(job: Job, base: number): void {
    this.pending = { base, key: this.around.newId(), job };
    this.note();
  }

  /** Asks for a document to be saved. */
  want(job: Job): void {
    if (this.follows) return;
    if (this.waiting === 0) this.since = this.around.now();
    this.waiting++;
    // What waits already may be of an older revision than was last read: so is what comes on top of it.
    this.wait(job, this.pending?.base ?? this.revision);
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
      if (this.follows) return;
      if ("kept" in answer) this.acknowledged(sent, answer.kept.revision, answer.kept.savedAt);
      else if ("moved" in answer) {
        this.doubt = null;
        await this.bringIn(answer.moved);
        this.schedule(0);
      } else if ("gone" in answer) this.state = "gone";
      else if ("refused" in answer) this.refused(sent, answer.refused);
      else this.unreachable(sent, answer.unanswered);
    } catch {
      this.unreachable(sent, "");
    } finally {
      this.inFlight = false;
    }
    void this.catchUp();
  }

  /** What will never be kept as it is does not stand before what comes after it. */
  private refused(sent: Kept, why: string): void {
    this.doubt = null;
    if (this.pending && this.pending.key !== sent.key) {
      this.note();
      this.state = "waiting";
      this.schedule(0);
      return;
    }
    this.note();
    this.reason = why;
    this.state = "refused";
  }

  private acknowledged(sent: Kept, revision: number, savedAt: string): void {
    this.take({ id: this.id, revision, saved_at: savedAt, deleted: false, job: sent.job });
    if (this.pending?.key === sent.key) {
      this.pending = null;
      this.waiting = 0;
      this.state = "saved";
    } else if (this.pending) {
      this.pending = { ...this.pending, base: revision };
      this.state = "waiting";
      this.schedule(0);
    }
    this.note();
  }

  private unreachable(sent: Kept, why: string): void {
    if (this.pending && this.state !== "stale") {
      this.doubt = sent;
      this.reason = why;
      this.state = "unreachable";
    }
    this.note();
    this.schedule(again);
  }

  /** Saves both sides' changes; where both changed the same, this device's. */
  keepMine(): Promise<void> {
    return this.answer("mine");
  }

  /** Takes theirs where both changed the same; this device's can be brought back with undo. */
  takeTheirs(): Promise<void> {
    return this.answer("theirs");
  }

  private async answer(whose: "mine" | "theirs"): Promise<void> {
    for (;;) {
      const asked = this.question;
      const now = this.pending;
      if (!asked || !now) return;
      let job = whose === "mine" ? asked.withMine : asked.withTheirs;
      if (now.job !== asked.asked) {
        // What was done since goes on; what was asked about stands as it was answered.
        const both =
          whose === "mine"
            ? await this.around.merge(asked.asked, now.job, job)
            : await this.around.merge(asked.asked, job, now.job);
        if (!both) return;
        job = both.job;
        if (this.question !== asked) return;
        if (this.pending !== now) continue;
      }
      this.take(asked.theirs);
      this.settle();
      if (whose === "theirs" && JSON.stringify(job) === JSON.stringify(asked.theirs.job)) {
        this.pending = null;
        this.waiting = 0;
        this.state = "saved";
        this.note();
      } else {
        this.wait(job, asked.theirs.revision);
        this.state = "waiting";
        this.schedule(0);
      }
      this.adopt(job, whose === "theirs");
      return this.catchUp(); // with what was saved while the question stood
    }
  }

  private settle(): void {
    this.theirs = null;
    this.question = null;
    this.conflicts = [];
  }

  /** Keeps this device's version as a job of its own and takes the other here. */
  async keepBoth(): Promise<string | null> {
    const asked = this.question;
    if (!this.pending || !asked) return null;
    const mine = structuredClone(this.pending.job);
    mine.name = `${[...mine.name].slice(0, 108).join("")} (mine)`;
    const made = await this.around.create(mine, asked.copy);
    if (!made || this.question !== asked) return made?.id ?? null;
    this.question = { ...asked, asked: this.pending.job, withTheirs: asked.theirs.job };
    await this.takeTheirs();
    return made.id;
  }

  /** Brings a deleted job back and saves what is at hand. */
  async restore(): Promise<void> {
    if (!(await this.around.restore(this.id))) return;
    this.state = this.pending ? "waiting" : "saved";
    this.schedule(0);
  }

  close(): void {
    this.cancel();
    this.cancelHearing();
    this.closed = true;
    this.deafen();
    this.owning.leave();
    if (this.state !== "unreachable") void this.send();
  }
}
