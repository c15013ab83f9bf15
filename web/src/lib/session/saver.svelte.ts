import {
  api,
  explain,
  newId,
  type Conflict,
  type Job,
  type JobHead,
  type Merged,
} from "../api/client";
import { core } from "../core/core.svelte";

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
  private timer: ReturnType<typeof setTimeout> | undefined;
  private adopt: Adopt;
  private online = () => void this.send();
  /** The newest document that a server has acknowledged or sent. */
  private known: { revision: number; job: Job };
  private merged: { mine: Job; theirs: Job } | null = null;
  private stream: EventSource | undefined;
  private heard = 0;
  /** Called when the crew's gear or rules have changed. */
  onCrew: () => void = () => undefined;

  constructor(head: JobHead, adopt: Adopt) {
    this.id = head.id;
    this.known = { revision: head.revision, job: head.job };
    this.revision = head.revision;
    this.savedAt = head.saved_at;
    this.adopt = adopt;
    const left = this.recall();
    if (left) {
      this.resumed = left.pending.job;
      this.pending = left.pending;
      this.doubt = left.doubt;
      this.noted = left.pending.key;
      this.state = "waiting";
      this.schedule(0);
    }
    window.addEventListener("online", this.online);
    document.addEventListener("visibilitychange", this.seen);
    this.listen();
  }

  // A page nobody looks at gives its connection back: a browser has few for one server.
  // Seen again, it hears at once what it missed.
  private seen = () => {
    this.stream?.close();
    if (document.visibilityState === "visible") this.listen();
  };

  /** Hears of every save of this job, by whomever. */
  private listen(): void {
    this.stream = new EventSource(`/api/jobs/${this.id}/live`);
    this.stream.addEventListener("moved", (event: MessageEvent<string>) => {
      const { revision, deleted } = JSON.parse(event.data) as {
        revision: number;
        deleted: boolean;
      };
      if (deleted) {
        this.state = "gone";
        return;
      }
      if (this.state === "gone") this.state = this.pending ? "waiting" : "saved";
      this.heard = Math.max(this.heard, revision);
      void this.catchUp();
    });
    this.stream.addEventListener("crew", () => this.onCrew());
  }

  /** Brings in what was saved elsewhere, when nothing of ours is under way. */
  private async catchUp(): Promise<void> {
    if (this.inFlight || this.heard <= this.revision || this.state === "stale") return;
    this.inFlight = true;
    try {
      const { data } = await api.GET("/api/jobs/{id}", { params: { path: { id: this.id } } });
      if (data && data.revision > this.revision) await this.bringIn(data);
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
      this.broughtIn = Date.now();
      this.adopt(head.job, false);
      return;
    }
    let sent: Kept;
    let base: Job | null;
    let mine: Merged | undefined;
    do {
      // What is typed meanwhile is brought together too.
      sent = this.pending;
      base = await this.documentOf(sent.base);
      mine = base ? (await core.merge(base, sent.job, head.job)).data : undefined;
    } while (this.pending !== sent);
    if (!mine || mine.conflicts.length) {
      const theirs = base ? (await core.merge(base, head.job, sent.job)).data : undefined;
      this.conflicts = mine?.conflicts ?? [];
      this.merged = { mine: mine?.job ?? sent.job, theirs: theirs?.job ?? head.job };
      this.theirs = head;
      this.state = "stale";
      return;
    }
    this.take(head);
    this.broughtIn = Date.now();
    this.pending = { base: head.revision, key: newId(), job: mine.job };
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
    const { data } = await api.GET("/api/jobs/{id}/revisions/{number}", {
      params: { path: { id: this.id, number: revision } },
    });
    return data?.job ?? null;
  }

  private get slot(): string {
    return `elkstay.unsaved.${this.id}`;
  }

  private recall(): Left | null {
    try {
      return JSON.parse(localStorage.getItem(this.slot) ?? "null") as Left | null;
    } catch {
      return null;
    }
  }

  private note(): void {
    try {
      if (this.pending) {
        const left: Left = { doubt: this.doubt, pending: this.pending };
        localStorage.setItem(this.slot, JSON.stringify(left));
        this.noted = this.pending.key;
      } else if (this.recall()?.pending.key === this.noted) {
        // Only our own note: another page may have left one for the same job.
        localStorage.removeItem(this.slot);
      }
    } catch {
      // A browser that keeps nothing: the page itself still does.
    }
  }

  /** Asks for a document to be saved. */
  want(job: Job): void {
    this.pending = { base: this.revision, key: newId(), job };
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
    clearTimeout(this.timer);
    this.timer = setTimeout(() => void this.send(), after);
  }

  private async send(): Promise<void> {
    if (this.inFlight || !this.pending || this.state === "stale" || this.state === "gone") return;
    // What may have been kept already goes first, under the key it had.
    const sent = this.doubt ?? this.pending;
    this.inFlight = true;
    if (this.state !== "unreachable") this.state = "saving";
    try {
      const { data, error, response } = await api.PUT("/api/jobs/{id}", {
        params: {
          path: { id: this.id },
          header: { "If-Match": `"${sent.base}"`, "Idempotency-Key": sent.key },
        },
        body: sent.job,
      });
      if (data) this.acknowledged(sent, data.revision, data.saved_at);
      else if (response.status === 412 && error && "current" in error) {
        this.doubt = null;
        await this.bringIn(error.current);
        this.schedule(0);
      } else if (response.status === 404) this.state = "gone";
      else if (response.status === 422) {
        this.reason = explain(error);
        this.state = "refused";
      } else this.unreachable(sent);
    } catch {
      this.unreachable(sent);
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

  private unreachable(sent: Kept): void {
    this.doubt = sent;
    this.note();
    this.state = "unreachable";
    this.schedule(again);
  }

  /** Saves both sides' changes; where both changed the same, this device's. */
  keepMine(): void {
    if (!this.theirs || !this.pending) return;
    const job = this.merged?.mine ?? this.pending.job;
    this.take(this.theirs);
    this.pending = { base: this.revision, key: newId(), job };
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
    this.pending = same ? null : { base: this.revision, key: newId(), job };
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
    mine.name = `${mine.name.slice(0, 108)} (mine)`;
    const { data } = await api.POST("/api/jobs", {
      params: { header: { "Idempotency-Key": newId() } },
      body: mine,
    });
    if (!data || !this.theirs) return null;
    this.merged = { mine, theirs: this.theirs.job };
    this.takeTheirs();
    return data.id;
  }

  /** Brings a deleted job back and saves what is at hand. */
  async restore(): Promise<void> {
    const { data } = await api.POST("/api/jobs/{id}/restore", {
      params: { path: { id: this.id } },
    });
    if (!data) return;
    this.state = "waiting";
    this.schedule(0);
  }

  close(): void {
    clearTimeout(this.timer);
    this.stream?.close();
    document.removeEventListener("visibilitychange", this.seen);
    window.removeEventListener("online", this.online);
    if (this.state !== "unreachable") void this.send();
  }
}
