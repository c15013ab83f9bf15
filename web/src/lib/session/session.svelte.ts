import { api, type Assessment, type Fault, type Job, type JobHead } from "../api/client";
import { preferences } from "../preferences.svelte";
import { Saver } from "./saver.svelte";

const deepest = 500;

/**
 * One job on the screen: the document, what the core says of it, and the steps back.
 * Every change is asked of the core first; what the core refuses never enters the
 * document. While something is dragged the document follows at once and the core is
 * asked as often as it answers.
 */
export class Session {
  readonly id: string;
  readonly saver: Saver;
  job = $state.raw<Job>() as Job;
  assessment = $state.raw<Assessment | null>(null);
  /** The figures are older than the document: the core does not answer. */
  behind = $state(false);
  private past = $state.raw<Job[]>([]);
  private future = $state.raw<Job[]>([]);
  private held: Job | null = null;
  private asking = false;
  private askAgain = false;
  private line: Promise<unknown> = Promise.resolve();
  private retry: ReturnType<typeof setTimeout> | undefined;

  constructor(head: JobHead) {
    this.id = head.id;
    this.saver = new Saver(head, (job) => this.replace(job));
    this.job = this.saver.resumed ?? head.job;
  }

  canUndo = $derived(this.past.length > 0);
  canRedo = $derived(this.future.length > 0);

  /** Asks the core of a change and makes it, or returns why it was refused. */
  change(mutate: (job: Job) => void): Promise<Fault[]> {
    const turn = this.line.then(() => this.tryChange(mutate));
    this.line = turn.catch(() => undefined);
    return turn;
  }

  private async tryChange(mutate: (job: Job) => void): Promise<Fault[]> {
    const next = structuredClone(this.job);
    mutate(next);
    try {
      const { data, error } = await api.POST("/api/assess", {
        params: { query: { units: preferences.units } },
        body: next,
      });
      if (error && "errors" in error && error.status === 422) return error.errors;
      if (data) {
        this.remember();
        this.set(next);
        this.assessment = data;
        this.behind = false;
        return [];
      }
    } catch {
      // No answer: the change stands and is asked again.
    }
    this.remember();
    this.set(next);
    this.fallBehind();
    return [];
  }

  /** Begins a drag: one step back for all of it. */
  hold(): void {
    this.held ??= this.job;
  }

  /** Moves something in hand. */
  drag(mutate: (job: Job) => void): void {
    this.hold();
    const next = structuredClone(this.job);
    mutate(next);
    this.job = next;
    void this.assess();
  }

  /** Lets go of what was dragged. */
  release(): void {
    if (!this.held) return;
    const before = this.held;
    this.held = null;
    if (before === this.job) return;
    this.past = [...this.past, before].slice(-deepest);
    this.future = [];
    this.saver.want(this.job);
  }

  undo(): void {
    const before = this.past.at(-1);
    if (!before) return;
    this.past = this.past.slice(0, -1);
    this.future = [...this.future, this.job];
    this.set(before);
    void this.assess();
  }

  redo(): void {
    const after = this.future.at(-1);
    if (!after) return;
    this.future = this.future.slice(0, -1);
    this.past = [...this.past, this.job];
    this.set(after);
    void this.assess();
  }

  /** Puts another version in place, as one step that can be undone. */
  replace(job: Job): void {
    this.remember();
    this.job = job;
    void this.assess();
  }

  private remember(): void {
    this.past = [...this.past, this.job].slice(-deepest);
    this.future = [];
  }

  private set(job: Job): void {
    this.job = job;
    this.saver.want(job);
  }

  /** Asks the core of the document as it is now; asked while it answers, once more after. */
  async assess(): Promise<void> {
    if (this.asking) {
      this.askAgain = true;
      return;
    }
    this.asking = true;
    try {
      do {
        this.askAgain = false;
        const { data } = await api.POST("/api/assess", {
          params: { query: { units: preferences.units } },
          body: this.job,
        });
        if (data) {
          this.assessment = data;
          this.behind = false;
        } else {
          this.fallBehind();
        }
      } while (this.askAgain);
    } catch {
      this.fallBehind();
    } finally {
      this.asking = false;
    }
  }

  private fallBehind(): void {
    this.behind = true;
    clearTimeout(this.retry);
    this.retry = setTimeout(() => void this.assess(), 1500);
  }

  close(): void {
    clearTimeout(this.retry);
    this.saver.close();
  }
}
