import type { Job, JobHead, Assessment } from "../../api/client";
import type { Hearing, Saved, Surroundings } from "../surroundings";
import { merge } from "./core";

/** Random numbers that are the same every time. */
export function random(seed: number): () => number {
  let state = seed >>> 0;
  return () => {
    state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
    return state / 2 ** 32;
  };
}

/** A job with two limbs, two picks, readings without ids, and a drop zone. */
export const sample = (): Job =>
  ({
    format: "elkstay-job",
    version: 5,
    name: "sample",
    site: {
      targets: [],
      zones: [
        {
          id: "z1",
          name: "lawn",
          outline: [
            { x: 0, y: 0 },
            { x: 4, y: 0 },
            { x: 4, y: 4 },
          ],
        },
      ],
      sectors: [],
      anchors: [],
      cranes: [],
    },
    trees: [
      {
        id: "1",
        wood: { species: "white-ash" },
        readings: [
          { at_m: 0.4, tape: "girth", tape_m: 2 },
          { at_m: 1.3, tape: "girth", tape_m: 1.8 },
          { at_m: 6, tape: "girth", tape_m: 1.2 },
        ],
        height_m: 14,
        limbs: [
          { id: "l1", at_m: 5, azimuth_deg: 10, angle_deg: 60, diameter_m: 0.14, length_m: 4 },
          { id: "l2", at_m: 8, azimuth_deg: 190, angle_deg: 50, diameter_m: 0.12, length_m: 3 },
        ],
        defects: [],
      },
    ],
    rigs: [
      {
        id: "r1",
        name: "Rig 1",
        tie: {},
        block: {},
        sling: {},
        redirects: [],
        device: {},
        hands: {},
        catch: {},
      },
    ],
    picks: [
      { id: "p1", what: "limb", limb: "l1", way: "free" },
      { id: "p2", what: "limb", limb: "l2", way: "free" },
      { id: "p3", what: "stem", way: "free", cut_m: 9 },
    ],
    limits: {},
  }) as Job;

/** A device of the world: what it keeps of what a server has acknowledged, and whether it keeps anything more. */
export type Device = Surroundings & { copies: JobHead[]; full: boolean };

/**
 * A server and a clock that tests hold in hand: every request is answered, lost on its way
 * there or on its way back, or left hanging for a while, as chance has it.
 */
export class World {
  now = 0;
  private timers: { at: number; then: () => void }[] = [];
  readonly revisions: Job[] = [];
  private kept = new Map<string, { revision: number; body: string }>();
  private hearing = new Set<Hearing>();
  private names = 0;
  /** Share of requests that something happens to. */
  trouble = 0;

  constructor(
    first: Job,
    private readonly chance: () => number = () => 1,
  ) {
    this.revisions.push(structuredClone(first));
  }

  get head(): JobHead {
    return this.headOf(this.revisions.length);
  }

  private headOf(revision: number): JobHead {
    return {
      id: "job",
      revision,
      saved_at: "",
      deleted: false,
      job: structuredClone(this.revisions[revision - 1] as Job),
    } as JobHead;
  }

  after(ms: number, then: () => void): () => void {
    const timer = { at: this.now + ms, then };
    this.timers.push(timer);
    return () => {
      this.timers = this.timers.filter((t) => t !== timer);
    };
  }

  /** Lets time pass until nothing is left to happen within it. */
  async pass(ms: number): Promise<void> {
    const end = this.now + ms;
    for (;;) {
      await settle();
      const next = this.timers.filter((t) => t.at <= end).sort((a, b) => a.at - b.at)[0];
      if (!next) break;
      this.timers = this.timers.filter((t) => t !== next);
      this.now = Math.max(this.now, next.at);
      next.then();
    }
    this.now = end;
  }

  private wait = (ms: number) => new Promise<void>((done) => this.after(ms, done));

  /** The way there or back: now and then it takes long, or leads nowhere. */
  private async line(): Promise<boolean> {
    if (this.chance() < this.trouble) await this.wait(this.chance() * 4000);
    if (this.chance() < this.trouble) {
      await this.wait(5000);
      return false;
    }
    await this.wait(5 + this.chance() * 60);
    return true;
  }

  private gone = false;

  /** Somebody deletes the job; and brings it back. */
  remove(): void {
    this.gone = true;
    this.tell();
  }
  bringBack(): void {
    this.gone = false;
    this.tell();
  }
  private tell(): void {
    const [revision, gone] = [this.revisions.length, this.gone];
    for (const one of this.hearing) this.after(10, () => one.moved(revision, gone));
  }

  private commit(base: number, key: string, job: Job): Saved {
    const body = JSON.stringify(job);
    const before = this.kept.get(key);
    if (this.gone) return { gone: true };
    if (before) return { kept: { revision: before.revision, savedAt: "" } };
    if (base !== this.revisions.length) return { moved: this.head };
    this.revisions.push(structuredClone(job));
    const revision = this.revisions.length;
    this.kept.set(key, { revision, body });
    this.tell();
    return { kept: { revision, savedAt: "" } };
  }

  /** One device: its own notes, which outlive a reload, and of its pages one that saves. */
  device(): Device {
    const notes = new Map<string, string>();
    interface Page {
      gained: () => void;
      lost: () => void;
    }
    const pages: Page[] = [];
    return {
      copies: [],
      full: false,
      read: async () => {
        if (!(await this.line())) throw new Error("no answer");
        return this.head;
      },
      revision: async (_id, number) => this.headOf(number).job,
      save: async (_id, base, key, job) => {
        const sent = structuredClone(job);
        if (!(await this.line())) return { unanswered: "" };
        const answer = this.commit(base, key, sent);
        return (await this.line()) ? answer : { unanswered: "" };
      },
      create: async () => null,
      keep(head) {
        this.copies.push(structuredClone(head));
      },
      own: (_id, told) => {
        pages.push(told);
        this.after(500, () => {
          if (pages.includes(told) && pages[0] !== told) told.lost();
        });
        return {
          take: () => {
            const before = pages[0];
            pages.splice(pages.indexOf(told), 1);
            pages.unshift(told);
            if (before !== told) before?.lost();
            told.gained();
          },
          leave: () => {
            const first = pages[0] === told;
            pages.splice(pages.indexOf(told), 1);
            if (first) pages[0]?.gained();
          },
        };
      },
      restore: async () => false,
      listen: (_id, hearing) => {
        this.hearing.add(hearing);
        return () => void this.hearing.delete(hearing);
      },
      merge,
      assess: async (job) => {
        await this.wait(5 + this.chance() * 40);
        if (this.chance() < this.trouble) return null;
        return { data: assessmentOf(job) };
      },
      simulate: async () => null,
      resolve: async (job) => job,
      ready: () => undefined,
      refresh: async () => undefined,
      recall: (slot) => notes.get(slot) ?? null,
      note(slot, text) {
        if (this.full && text !== null) return false;
        if (text === null) notes.delete(slot);
        else notes.set(slot, text);
        return true;
      },
      newId: () => `key-${++this.names}`,
      now: () => this.now,
      after: (ms, then) => this.after(ms, then),
    };
  }
}

/** What a session needs to know of an assessment, and no more. */
const assessmentOf = (job: Job): Assessment =>
  ({
    state: "",
    verdict: "within",
    picks: job.picks.map((p) => ({ id: p.id })),
    trees: [],
  }) as unknown as Assessment;

/** Lets every promise that can go on do so. */
export async function settle(): Promise<void> {
  for (let i = 0; i < 12; i++) await Promise.resolve();
  await new Promise((done) => setTimeout(done, 0));
}
