import type {
  Assessment,
  Detail,
  Fault,
  Job,
  JobFigures,
  JobHead,
  Pick,
  Trace,
} from "../api/client";
import { bare, downs, stepFacts } from "../order/facts";
import { contested, difference, replay, type Contest } from "./operations";
import { byId } from "./path";
import { changedMeanwhile, goneMeanwhile, inAnother } from "./refusals";
import { Saver } from "./saver.svelte";
import type { Surroundings } from "./surroundings";

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
  /** What a step back left as it is, as it was changed elsewhere since. */
  contest = $state.raw<Contest | null>(null);
  /** What was in hand was changed elsewhere, and was taken out of it. */
  taken = $state(false);
  private letGo = false;
  private held: Job | null = null;
  /** When a field last changed from elsewhere, by the count of such changes. */
  private foreign: Record<string, number> = {};
  private came = 0;
  private asking = false;
  private askAgain = false;
  private line: Promise<unknown> = Promise.resolve();
  private cancelRetry: () => void = () => undefined;
  private cancelRest: () => void = () => undefined;
  /** Id of the tree in hand, when it is not the chosen pick's. */
  private treeInHand = $state("");

  constructor(
    head: JobHead,
    private readonly around: Surroundings,
    /** What the server said of the job as it was read. */
    figures: JobFigures | null = null,
  ) {
    this.id = head.id;
    this.saver = new Saver(head, around, (job, undoable) => {
      if (undoable) this.remember(job);
      this.came++;
      for (const one of difference(this.held ?? this.job, job)) {
        if ("at" in one) this.foreign[JSON.stringify(one.at)] = this.came;
      }
      if (this.held) {
        // What is in hand is made again on what came in: a step back leaves that.
        const moved = difference(this.held, this.job);
        const against = contested(moved, this.held, job);
        if (against.length) {
          this.letGo = this.taken = true;
          this.held = null;
          this.job = job;
        } else {
          this.held = job;
          this.job = replay(job, moved).job;
        }
      } else this.job = job;
      this.keepChoice();
      void this.assess();
    });
    this.saver.onCrew = () => void around.refresh().then(() => this.assess());
    this.job = this.saver.resumed ?? head.job;
    const open = this.job.picks.find((p) => !this.down.has(p.id)) ?? this.job.picks[0];
    if (open) this.chosen = [open.id];
    if (!this.saver.resumed && figures?.revision === head.revision) this.show(figures.assessment);
  }

  canUndo = $derived(this.past.length > 0);
  canRedo = $derived(this.future.length > 0);
  /** Ids of the picks that are down. */
  down = $derived(downs(this.job));
  /** The pick shown in full. */
  pick = $derived(this.job.picks.find((p) => p.id === this.chosen.at(-1)) ?? null);
  index = $derived(this.pick ? this.job.picks.indexOf(this.pick) : -1);
  detail = $derived.by<Detail | null>(() => {
    const detail = this.assessment?.detail;
    return detail && detail.id === this.pick?.id ? detail : null;
  });
  figures = $derived(this.assessment?.picks.find((p) => p.id === this.pick?.id) ?? null);
  /** The place of the tree in hand among the trees. */
  treeIndex = $derived.by(() => {
    const own = this.job.trees.findIndex((t) => t.id === this.treeInHand);
    if (own >= 0) return own;
    return this.pick ? this.treeOf(this.pick) : 0;
  });
  tree = $derived(this.job.trees[this.treeIndex] ?? (this.job.trees[0] as Job["trees"][number]));
  /** Where the tree in hand stands in the document. */
  treePath = $derived(byId("trees", this.tree.id));
  treeFigures = $derived(this.assessment?.trees[this.treeIndex] ?? null);
  /** Where the chosen pick stands in the document. */
  pickPath = $derived(byId("picks", this.pick?.id ?? ""));
  rigIndex = $derived.by(() => {
    const wanted = this.pick?.rig;
    const found = this.job.rigs.findIndex((r) => r.id === wanted);
    return found < 0 ? 0 : found;
  });

  /** The place of a pick's tree among the trees. */
  treeOf(pick: Pick): number {
    return Math.max(0, pick.tree ? this.job.trees.findIndex((t) => t.id === pick.tree) : 0);
  }

  /** The tree in hand, in another version of the document. */
  treeIn(job: Job): Job["trees"][number] {
    const id = this.tree.id;
    return job.trees.find((t) => t.id === id) ?? (job.trees[0] as Job["trees"][number]);
  }

  chooseTree(id: string): void {
    this.treeInHand = id;
    const pick = this.job.picks.find(
      (p) => this.job.trees[this.treeOf(p)]?.id === id && !this.down.has(p.id),
    );
    if (pick && this.pick && this.job.trees[this.treeOf(this.pick)]?.id !== id) {
      this.chosen = [pick.id];
      void this.assess();
    }
  }

  choose(ids: string[]): void {
    this.chosen = ids;
    this.treeInHand = "";
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

  /**
   * Makes a change, or returns why it was refused. The change is told once, on the document
   * as it was seen, as operations on ids; where a colleague's save has come in since, the
   * operations are made on that. What they meant and is not there any more refuses them.
   */
  change(
    mutate: (job: Job) => void,
    choose?: string[],
    seen: Job = this.job,
    noted = false,
  ): Promise<Fault[]> {
    if (this.saver.follows) return Promise.resolve([inAnother]);
    const told = structuredClone(seen);
    mutate(told);
    const operations = difference(seen, told);
    const since = this.came;
    return this.inTurn(async () => {
      const pick = choose?.at(-1) ?? this.chosen.at(-1) ?? "";
      for (;;) {
        const from = this.job;
        const made = replay(from, operations);
        if (made.lost.length) return [goneMeanwhile];
        // One's own changes follow on each other; what came in from elsewhere is not overwritten unseen.
        const against = contested(operations, seen, from).some(
          (one) => "at" in one && (this.foreign[JSON.stringify(one.at)] ?? 0) > since,
        );
        if (against) return [changedMeanwhile];
        let next = made.job;
        if (noted) next = (await this.around.resolve(next)) ?? next;
        const answer = await this.around.assess(next, pick);
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
    });
  }

  /** Changes the pick of an id. */
  changePick(id: string, mutate: (pick: Pick) => void): Promise<Fault[]> {
    return this.change((job) => {
      const one = job.picks.find((p) => p.id === id);
      if (one) mutate(one);
    });
  }

  /** Takes an item of the locker: the job notes its figures as they are now. */
  take(mutate: (job: Job) => void): Promise<Fault[]> {
    return this.change(mutate, undefined, this.job, true);
  }

  /** Begins a drag: one step back for all of it. */
  hold(): void {
    this.held ??= this.job;
  }

  /** Moves something in hand. */
  drag(mutate: (job: Job) => void): void {
    if (this.letGo || this.saver.follows) return;
    this.hold();
    const next = structuredClone(this.job);
    mutate(next);
    this.job = next;
    void this.assess();
  }

  /** Lets go of what was dragged. */
  release(): void {
    this.letGo = false;
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
      if (!step || this.saver.follows) return;
      this.past = this.past.slice(0, -1);
      this.future = [...this.future, step];
      await this.go(step.after, step.before);
    });
  }

  redo(): Promise<void> {
    return this.inTurn(async () => {
      const step = this.future.at(-1);
      if (!step || this.saver.follows) return;
      this.future = this.future.slice(0, -1);
      this.past = [...this.past, step];
      await this.go(step.before, step.after);
    });
  }

  /** Takes the step back that was left, over what was changed elsewhere since. */
  stepAllTheSame(): Promise<Fault[]> {
    const steps = this.contest?.operations ?? [];
    this.contest = null;
    return this.change((job) => {
      Object.assign(job, replay(job, steps).job);
    });
  }

  leaveIt(): void {
    this.contest = null;
  }

  /** Changes and steps back wait for one another: each begins where the last one ended. */
  private inTurn<T>(work: () => Promise<T>): Promise<T> {
    const turn = this.line.then(work);
    this.line = turn.catch(() => undefined);
    return turn;
  }

  /**
   * Goes from one version to another; what came in from elsewhere meanwhile stays. What was changed
   * elsewhere since is left as it stands, and asked about.
   */
  private async go(from: Job, to: Job): Promise<void> {
    this.contest = null;
    for (;;) {
      const current = this.job;
      const steps = difference(bare(from), bare(to));
      const against = from === current ? [] : contested(steps, from, current);
      const next =
        from === current
          ? { ...to, facts: current.facts ?? [] }
          : replay(
              current,
              steps.filter((one) => !against.includes(one)),
            ).job;
      stepFacts(next, from, to);
      if (against.length) {
        const both = await this.around.merge(bare(from), bare(to), bare(current));
        if (this.job !== current) continue;
        this.contest = { conflicts: both?.conflicts ?? [], operations: against };
      }
      const answer = await this.around.assess(next, this.chosen.at(-1) ?? "");
      if (this.job !== current) continue;
      this.set(next);
      if (answer?.data) this.show(answer.data);
      break;
    }
    // What is chosen may have changed with the order.
    void this.assess();
  }

  private remember(after: Job): void {
    this.taken = false;
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
    this.around.ready(this.job);
    this.cancelRest();
    this.cancelRest = this.around.after(restMs, () => void this.simulate());
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
        const asked = this.job;
        const pick = this.chosen.at(-1) ?? "";
        const answer = await this.around.assess(asked, pick);
        // Changed while the core was asked, by other than a hand that drags: the answer is that of
        // a document that is no more.
        if (this.job !== asked && !this.held) {
          this.askAgain = true;
          continue;
        }
        if (answer?.data) this.show(answer.data);
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
    const asked = this.job;
    const trace = await this.around.simulate(asked, pick.id, runs);
    // Changed meanwhile: what comes of that is followed when its figures are there.
    if (pick.id === this.pick?.id && this.job === asked) this.trace = trace;
  }

  private fallBehind(): void {
    this.behind = true;
    this.cancelRetry();
    this.cancelRetry = this.around.after(1500, () => void this.assess());
  }

  close(): void {
    this.cancelRetry();
    this.cancelRest();
    this.saver.close();
  }
}
