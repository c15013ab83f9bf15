import {
  explain,
  fetchInTime,
  type Answer,
  type Asked,
  type Assessment,
  type BenchAsked,
  type BenchLaid,
  type Fault,
  type GroundFigures,
  type GuessedTree,
  type Item,
  type Job,
  type Merged,
  type MergedItem,
  type Paper,
  type Proposal,
  type Quantity,
  type Rose,
  type Sight,
  type SightRead,
  type Step,
  type Swept,
  type System,
  type Trace,
  type Weights,
  type WrapsCard,
  type Whole,
} from "../api/client";
import { crew } from "../crew/crew.svelte";

export type Reply<T> = { data: T; faults?: undefined } | { data?: undefined; faults: Fault[] };

/** An answer of the calculation contract: its own figures, its working and its cautions. */
export type Sum = Record<string, unknown> & { working: Step[]; cautions: string[] };

interface Answers {
  assess: Assessment;
  simulate: Trace;
  propose: Proposal;
  rose: Rose;
  trees: Whole;
  ground: GroundFigures;
  hold: BenchAsked;
  sweep: Swept;
  ask: Answer;
  layout: BenchLaid;
  "into-job": Job;
  merge: Merged;
  "merge-item": MergedItem;
  resolve: Job;
  brief: Paper;
  "read-sight": SightRead;
  "guess-tree": GuessedTree;
  weights: Weights;
  "wraps-card": WrapsCard;
  "read-units": { value: number };
}

interface Message {
  ready?: boolean;
  failed?: string;
  id?: number;
  reply?: string;
}

type Waiting = { settle: (text: string) => void; fail: (error: Error) => void };

/** How long the worker may take over one question, ms: longer than its longest sum. */
const tooLong = 30_000;

/**
 * The core, asked from the page. It runs here, in a worker, as soon as it has loaded;
 * until then, and where it cannot load, the server answers: both are the same code.
 */
/** Questions that the crew's rules and gear do not enter into. */
const plain: string[] = [
  "read-units",
  "merge",
  "merge-item",
  "read-sight",
  "hold",
  "sweep",
  "layout",
  "into-job",
  "guess-tree",
  "weights",
  "wraps-card",
];

class Core {
  /** Whether the core runs in this browser. */
  here = $state(false);
  private worker: Worker | undefined;
  private waiting: Record<number, Waiting> = {};
  private next = 0;

  /** Loads the core into a worker. Asked twice, it loads once. */
  load(): void {
    if (this.worker || typeof Worker === "undefined") return;
    this.worker = new Worker(new URL("./worker.ts", import.meta.url), { type: "module" });
    this.worker.onmessage = (event: MessageEvent<Message>) => this.hear(event.data);
    this.worker.onerror = () => this.lose("the core could not be loaded");
  }

  private hear(message: Message): void {
    if (message.ready) this.here = true;
    else if (message.failed) this.lose(message.failed);
    else if (message.id !== undefined) {
      const waiting = this.waiting[message.id];
      waiting?.settle(message.reply ?? "");
    }
  }

  private restart(): void {
    this.worker?.terminate();
    this.worker = undefined;
    this.lose("the core took too long");
    this.load();
  }

  private lose(why: string): void {
    this.here = false;
    for (const waiting of Object.values(this.waiting)) waiting.fail(new Error(why));
    this.waiting = {};
  }

  private inWorker(
    question: string,
    document: string,
    asked: string,
    crew: string,
  ): Promise<string> {
    const id = ++this.next;
    return new Promise((settle, fail) => {
      // A worker that does not answer is given up: another is begun, and the server asked.
      const timer = setTimeout(() => this.restart(), tooLong);
      const done = () => {
        clearTimeout(timer);
        Reflect.deleteProperty(this.waiting, id);
      };
      this.waiting[id] = {
        settle: (text) => (done(), settle(text)),
        fail: (error) => (done(), fail(error)),
      };
      this.worker?.postMessage({ id, question, document, asked, crew });
    });
  }

  /** Asks a question. It throws only when nobody answers at all. */
  async question<Q extends keyof Answers>(
    question: Q,
    document: unknown,
    asked: Asked,
  ): Promise<Reply<Answers[Q]>> {
    if (this.here) {
      try {
        return await this.local(question, document, asked);
      } catch {
        // The worker is gone: the server may still answer.
      }
    }
    return this.remote(question, document, asked);
  }

  /** Asks the core in this browser. */
  async local<Q extends keyof Answers>(
    question: Q,
    document: unknown,
    asked: Asked,
  ): Promise<Reply<Answers[Q]>> {
    // By the crew's rules and with its gear: without them no job is worked out here.
    let rules = "";
    if (!plain.includes(question)) {
      const brought = await crew.ready(document);
      if (!brought) throw new Error("the crew's rules are not at hand");
      rules = JSON.stringify(brought);
    }
    const text = await this.inWorker(
      question,
      JSON.stringify(document),
      JSON.stringify(asked),
      rules,
    );
    const { status, body } = JSON.parse(text) as { status: number; body: unknown };
    if (status === 200) return { data: body as Answers[Q] };
    return { faults: (body as { errors?: Fault[] }).errors ?? [] };
  }

  /** Asks the core at the server. */
  async remote<Q extends keyof Answers>(
    question: Q,
    document: unknown,
    asked: Asked,
  ): Promise<Reply<Answers[Q]>> {
    const address = `/api/${question}`;
    const query = Object.entries(asked)
      .filter(([, value]) => value !== undefined && value !== "")
      .map(([name, value]) => `${name}=${encodeURIComponent(value)}`)
      .join("&");
    const answer = await fetchInTime(query ? `${address}?${query}` : address, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(document),
    });
    const body: unknown = await answer.json();
    if (answer.ok) return { data: body as Answers[Q] };
    if (answer.status !== 422) throw new Error(explain(body));
    return { faults: (body as { errors: Fault[] }).errors };
  }

  assess = (job: Job, units: System, pick: string) =>
    this.question("assess", job, { units, pick: pick || undefined });

  /** A spread is hundreds of drops: the server, when it answers, is the quicker. */
  simulate = async (job: Job, units: System, pick: string, runs: number) => {
    const asked = { units, pick, runs: runs || undefined };
    if (runs) {
      try {
        return await this.remote("simulate", job, asked);
      } catch {
        // No signal: the worker takes longer, and answers.
      }
    }
    return this.question("simulate", job, asked);
  };

  propose = async (job: Job, units: System, by: "up" | "sides" | "fells", rig: string) => {
    const asked = { units, by, rig: rig || undefined };
    if (by === "fells") {
      try {
        return await this.remote("propose", job, asked);
      } catch {
        // No signal: many roses take the worker longer, and it answers.
      }
    }
    return this.question("propose", job, asked);
  };

  /** Along which bearings a pick can be felled. */
  rose = (job: Job, units: System, pick: string) => this.question("rose", job, { units, pick });

  /** Which tree first, and the ways of taking one: many roses, which the server asks the quicker. */
  trees = async (job: Job, units: System, tree: string) => {
    const asked = { units, tree: tree || undefined };
    try {
      return await this.remote("trees", job, asked);
    } catch {
      return this.question("trees", job, asked);
    }
  };

  /** What can be typed of a sum as it lies on the bench. */
  layout = (kind: string, request: unknown) => this.question("layout", request, { kind });

  /** A job to go on with, made of a sum. */
  intoJob = (kind: string, request: unknown) => this.question("into-job", request, { kind });

  /** What becomes of the wood once it lies. */
  ground = (job: Job, units: System) => this.question("ground", job, { units });

  /** One sum of the calculation contract, by its kind. */
  sum = async (kind: string, request: unknown): Promise<Reply<Sum>> => {
    if (this.here) {
      try {
        const text = await this.inWorker(`calc-${kind}`, JSON.stringify(request), "{}", "");
        const { status, body } = JSON.parse(text) as { status: number; body: unknown };
        if (status === 200) return { data: body as Sum };
        return { faults: (body as { errors?: Fault[] }).errors ?? [] };
      } catch {
        // The worker is gone: the server may still answer.
      }
    }
    const answer = await fetchInTime(`/api/calc/${kind}`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify(request),
    });
    const body: unknown = await answer.json();
    if (answer.ok) return { data: body as Sum };
    return { faults: (body as { errors?: Fault[] }).errors ?? [] };
  };

  hold = (request: unknown, asked: Asked) => this.question("hold", request, asked);

  sweep = (request: unknown, asked: Asked) => this.question("sweep", request, asked);

  ask = (job: Job, asked: Asked) => this.question("ask", job, asked);

  /** The job with its gear noted as the locker has it now. */
  resolve = (job: Job) => this.question("resolve", job, {});

  /** A height by angles, a lean by a plumb line, a place by bearing and distance. */
  sight = (sight: Sight) => this.question("read-sight", sight, {});

  /** What a briefing says. */
  brief = (job: Job, units: System) => this.question("brief", job, { units });

  mergeItem = (base: Item, mine: Item, theirs: Item) =>
    this.question("merge-item", { base, mine, theirs }, {});
  merge = (base: Job, mine: Job, theirs: Job) => this.question("merge", { base, mine, theirs }, {});

  read = (quantity: Quantity, units: System, text: string) =>
    this.question("read-units", { quantity, units, text }, {});
}

export const core = new Core();
