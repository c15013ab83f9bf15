import type { Assessment, Detail, Fault, Job, JobHead, Trace } from "../api/client";
import { core } from "../core/core.svelte";
import { crew } from "../crew/crew.svelte";
import { preferences } from "../preferences.svelte";
import { Saver } from "./saver.svelte";

interface Step {
  before: Job;
  after: Job;
}

/** Until the figures have come to rest, the drop is not followed again. */
const restMs = 140;

/**
 * One job on the screen: the document, what the core says of it, what is chosen, and
 * the steps back. Every change is asked of the core first; what the core refuses never
 * enters the document. While something is dragged the document follows at once and the
 * core is asked as often as it answers.
 */
export class Session {
  readonly id: string;
  readonly saver: Saver;
  job = $state.raw<Job>() as Job;
  assessment = $state.raw<Assessment | null>(null);
  /** The figures are older than the document: the core does not answer. */
  behind = $state(false);
  /** Ids of the chosen picks; the last is the one shown in full. */
  chosen = $state.raw<string[]>([]);
  trace = $state.raw<Trace | null>(null);
  /** Where the film stands, s. */
  at = $state(0);
  private past = $state.raw<Step[]>([]);
  private future = $state.raw<Step[]>([]);
  private held: Job | null = null;
  private asking = false;
  private askAgain = false;
  private line: Promise<unknown> = Promise.resolve();
  private retry: ReturnType<typeof setTimeout> | undefined;
  private resting: ReturnType<typeof setTimeout> | undefined;

  constructor(head: JobHead) {
    this.id = head.id;
    this.saver = new Saver(head, (job, undoable) => {
      if (undoable) this.remember(job);
      // What is in hand goes on from here: a step back leaves what came in.
      if (this.held) this.held = job;
      this.job = job;
      this.keepChoice();
      void this.assess();
    });
    this.saver.onCrew = () => void crew.refresh().then(() => this.assess());
    this.job = this.saver.resumed ?? head.job;
    const open = this.job.picks.find((p) => !p.done) ?? this.job.picks[0];
    if (open) this.chosen = [open.id];
  }

  canUndo = $derived(this.past.length > 0);
  canRedo = $derived(this.future.length > 0);
  /** The pick shown in full. */
  pick = $derived(this.job.picks.find((p) => p.id === this.chosen.at(-1)) ?? null);
  index = $derived(this.pick ? this.job.picks.indexOf(this.pick) : -1);
  detail = $derived.by<Detail | null>(() => {
    const detail = this.assessment?.detail;
    return detail && detail.id === this.pick?.id ? detail : null;
  });
  figures = $derived(this.assessment?.picks.find((p) => p.id === this.pick?.id) ?? null);
  rigIndex = $derived.by(() => {
    const wanted = this.pick?.rig;
    const found = this.job.rigs.findIndex((r) => r.id === wanted);
    return found < 0 ? 0 : found;
  });

  choose(ids: string[]): void {
    this.chosen = ids;
    this.trace = null;
    this.at = 0;
    void this.assess();
  }

  /** Drops what is chosen and no longer there. */
  private keepChoice(): void {
    const there = this.chosen.filter((id) => this.job.picks.some((p) => p.id === id));
    if (there.length !== this.chosen.length) {
      const next = this.job.picks[Math.max(0, this.index)] ?? this.job.picks.at(-1);
      this.chosen = there.length ? there : next ? [next.id] : [];
    }
  }

  /** Asks the core of a change and makes it, or returns why it was refused. */
  change(mutate: (job: Job) => void, choose?: string[]): Promise<Fault[]> {
    return this.inTurn(() => this.tryChange(mutate, choose));
  }

  /** Takes an item of the locker: the job notes its figures as they are now. */
  take(mutate: (job: Job) => void): Promise<Fault[]> {
    return this.inTurn(() => this.tryChange(mutate, undefined, true));
  }

  private async tryChange(
    mutate: (job: Job) => void,
    choose?: string[],
    noted = false,
  ): Promise<Fault[]> {
    const pick = choose?.at(-1) ?? this.chosen.at(-1) ?? "";
    for (;;) {
      const from = this.job;
      let next = structuredClone(from);
      mutate(next);
      if (noted) next = (await core.resolve(next).catch(() => null))?.data ?? next;
      const answer = await core.assess(next, preferences.units, pick).catch(() => null);
      // Something came in from elsewhere while the core was asked: made again on that.
      if (this.job !== from) continue;
      if (answer?.faults) return answer.faults;
      this.remember(next);
      this.set(next, choose);
      if (answer?.data) this.show(answer.data);
      // No answer: the change stands and is asked again.
      else this.fallBehind();
      return [];
    }
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
    this.past = [...this.past, { before, after: this.job }];
    this.future = [];
    this.saver.want(this.job);
  }

  undo(): Promise<void> {
    return this.inTurn(async () => {
      const step = this.past.at(-1);
      if (!step) return;
      this.past = this.past.slice(0, -1);
      this.future = [...this.future, step];
      await this.go(step.after, step.before);
    });
  }

  redo(): Promise<void> {
    return this.inTurn(async () => {
      const step = this.future.at(-1);
      if (!step) return;
      this.future = this.future.slice(0, -1);
      this.past = [...this.past, step];
      await this.go(step.before, step.after);
    });
  }

  /** Changes and steps back wait for one another: each begins where the last one ended. */
  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.line.then(work);
    this.line = turn.catch(() => undefined);
    return turn;
  }

  /** Goes from one version to another; what came in from elsewhere meanwhile stays. */
  private async go(from: Job, to: Job): Promise<void> {
    for (;;) {
      const current = this.job;
      let next = to;
      if (from !== current) {
        const merged = await core.merge(from, to, current).catch(() => null);
        if (merged?.data) next = merged.data.job;
      }
      const pick = this.chosen.at(-1) ?? "";
      const answer = await core.assess(next, preferences.units, pick).catch(() => null);
      if (this.job !== current) continue;
      this.set(next);
      if (answer?.data) this.show(answer.data);
      break;
    }
    // What is chosen may have changed with the order.
    void this.assess();
  }

  private remember(after: Job): void {
    this.past = [...this.past, { before: this.job, after }];
    this.future = [];
  }

  private set(job: Job, choose?: string[]): void {
    this.job = job;
    if (choose) this.chosen = choose;
    this.keepChoice();
    this.saver.want(job);
  }

  private show(assessment: Assessment): void {
    this.assessment = assessment;
    this.behind = false;
    // At hand before the signal goes, and before the core in the page is first asked.
    void crew.ready(this.job);
    clearTimeout(this.resting);
    this.resting = setTimeout(() => void this.simulate(), restMs);
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
        const pick = this.chosen.at(-1) ?? "";
        const { data } = await core.assess(this.job, preferences.units, pick);
        if (data) this.show(data);
        else this.fallBehind();
      } while (this.askAgain);
    } catch {
      this.fallBehind();
    } finally {
      this.asking = false;
    }
  }

  /** Follows the chosen pick through time; runs > 0 spreads it. */
  async simulate(runs = 0): Promise<void> {
    const pick = this.pick;
    if (!pick) {
      this.trace = null;
      return;
    }
    const { data } = await core
      .simulate(this.job, preferences.units, pick.id, runs)
      .catch(() => ({ data: null }));
    if (pick.id === this.pick?.id) this.trace = data ?? null;
  }

  private fallBehind(): void {
    this.behind = true;
    clearTimeout(this.retry);
    this.retry = setTimeout(() => void this.assess(), 1500);
  }

  close(): void {
    clearTimeout(this.retry);
    clearTimeout(this.resting);
    this.saver.close();
  }
}
