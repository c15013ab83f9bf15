import { api, explain, newId, type Job, type JobHead } from "../api/client";

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

/**
 * Saves one job by itself. What is not yet acknowledged is also kept on this device,
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
  /** What is kept meanwhile, when someone else has saved. */
  theirs = $state.raw<JobHead | null>(null);
  /** Work found on this device that no server has acknowledged. */
  readonly resumed: Job | null = null;

  private pending: Kept | null = null;
  private doubt: Kept | null = null;
  private noted = "";
  private inFlight = false;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private adopt: (job: Job) => void;
  private online = () => void this.send();

  constructor(head: JobHead, adopt: (job: Job) => void) {
    this.id = head.id;
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
        this.theirs = error.current;
        this.state = "stale";
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
  }

  private acknowledged(sent: Kept, revision: number, savedAt: string): void {
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

  /** Saves this device's version on top of the other. */
  keepMine(): void {
    if (!this.theirs || !this.pending) return;
    this.revision = this.theirs.revision;
    this.pending = { ...this.pending, base: this.theirs.revision, key: newId() };
    this.theirs = null;
    this.state = "waiting";
    this.note();
    this.schedule(0);
  }

  /** Takes the other version; this device's can be brought back with undo. */
  takeTheirs(): void {
    if (!this.theirs) return;
    const { job, revision, saved_at } = this.theirs;
    this.theirs = null;
    this.pending = null;
    this.doubt = null;
    this.revision = revision;
    this.savedAt = saved_at;
    this.state = "saved";
    this.note();
    this.adopt(job);
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
    if (!data) return null;
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
    window.removeEventListener("online", this.online);
    if (this.state !== "unreachable") void this.send();
  }
}
