import { beforeAll, expect, test } from "vitest";
import type { Job, Pick } from "../api/client";
import { markDown } from "../order/marks";
import { Session } from "./session.svelte";
import { merge, theCore } from "./testing/core";
import { sample, World, type Device } from "./testing/world";

beforeAll(() => theCore());

interface Person {
  device: Device;
  session: Session;
}

function people(world: World, n = 2): Person[] {
  return Array.from({ length: n }, () => {
    const device = world.device();
    return { device, session: new Session(world.head, device) };
  });
}

/** Two people, of whom the second saves first while the first hears nothing. */
async function apart(mine: (job: Job) => void, theirs: (job: Job) => void, first: Job = sample()) {
  const world = new World(first);
  const [one, other] = people(world) as [Person, Person];
  const save = one.device.save;
  one.device.save = async () => ({ unanswered: "" });
  void one.session.change(mine);
  await world.pass(600);
  void other.session.change(theirs);
  await world.pass(3000);
  one.device.save = save;
  await world.pass(6000);
  return { world, one: one.session, other: other.session, device: one.device };
}

const cut = (at: number) => (j: Job) => ((j.picks[2] as Pick).cut_m = at);
const cutOf = (s: Session | Job) =>
  ("job" in s ? s.job : s).picks.find((p) => p.id === "p3")?.cut_m;

test("two orders that contradict each other are asked about by name, and either answer saves", async () => {
  for (const answer of ["keepMine", "takeTheirs"] as const) {
    const { world, one, other } = await apart(
      (j) => j.picks.push(j.picks.shift() as Pick),
      (j) => j.picks.splice(1, 0, j.picks.shift() as Pick),
    );
    expect(one.saver.state).toBe("stale");
    expect(one.saver.conflicts.map((c) => JSON.parse(c.mine) as string[])).toEqual([
      ["2", "3", "1"].map((n) => one.job.picks[Number(n) - 1]?.label ?? expect.any(String)),
    ]);
    void one.saver[answer]();
    await world.pass(6000);
    expect([one.saver.state, other.saver.state]).toEqual(["saved", "saved"]);
    expect(one.job.picks.map((p) => p.id)).toEqual(
      answer === "keepMine" ? ["p2", "p3", "p1"] : ["p2", "p1", "p3"],
    );
    expect(other.job).toEqual(one.job);
  }
});

test("what others save while a question stands is there once it is answered", async () => {
  const named = (name: string) => (j: Job) => (j.name = name);
  // As a merge writes it: so that nothing is left to save once theirs is taken.
  const first = (await merge(sample(), sample(), sample()))?.job;
  const { world, one, other } = await apart(named("mine"), named("theirs"), first);
  expect(one.saver.state).toBe("stale");
  void other.change((j) => (j.note = "since"));
  await world.pass(3000);
  void one.saver.takeTheirs();
  await world.pass(6000);
  expect([one.job.name, one.job.note, one.saver.state]).toEqual(["theirs", "since", "saved"]);
});

test("what is acknowledged is the device's own copy at once", async () => {
  const world = new World(sample());
  const [one] = people(world) as [Person];
  void one.session.change((j) => (j.note = "kept"));
  await world.pass(3000);
  const copy = one.device.copies.at(-1);
  expect([copy?.revision, copy?.job.note]).toEqual([2, "kept"]);
  // Opened again without a signal, on that copy: what is shown as saved is what was saved.
  one.session.close();
  const again = new Session(copy ?? world.head, one.device);
  expect([again.job.note, again.saver.state]).toEqual(["kept", "saved"]);
});

test("what is done while a question stands goes on, whatever is answered", async () => {
  for (const answer of ["keepMine", "takeTheirs"] as const) {
    const { world, one, other } = await apart(cut(8), cut(7));
    expect(one.saver.state).toBe("stale");
    void one.change((j) => (j.note = "after the question"));
    void one.change((j) => (j.name = "renamed"));
    await world.pass(2000);
    void one.saver[answer]();
    await world.pass(6000);
    for (const s of [one, other]) {
      expect([cutOf(s), s.job.note, s.job.name, s.saver.state]).toEqual([
        answer === "keepMine" ? 8 : 7,
        "after the question",
        "renamed",
        "saved",
      ]);
    }
  }
});

test("of two pages of one device one saves, the other follows, and takes over with what waits", async () => {
  const world = new World(sample());
  const device = world.device();
  const first = new Session(world.head, device);
  const second = new Session(world.head, device);
  await world.pass(2000);
  expect([first.saver.follows, second.saver.follows]).toEqual([false, true]);
  const refused = second.change((j) => (j.note = "from the second"));
  void first.change((j) => (j.note = "from the first"));
  await world.pass(3000);
  expect((await refused)[0]?.message).toContain("another tab");
  expect([second.job.note, world.head.job.note]).toEqual(["from the first", "from the first"]);
  // Without a signal something waits in the first; the second takes it along.
  const save = device.save;
  device.save = async () => ({ unanswered: "" });
  void first.change((j) => (j.name = "waits"));
  await world.pass(1500);
  second.saver.takeOver();
  await world.pass(1500);
  expect([first.saver.follows, second.saver.follows, second.job.name]).toEqual([
    true,
    false,
    "waits",
  ]);
  device.save = save;
  void second.change(cut(8));
  await world.pass(8000);
  expect([world.head.job.name, cutOf(world.head.job)]).toEqual(["waits", 8]);
  expect(first.job).toEqual(second.job);
  second.close();
  await world.pass(1000);
  expect(first.saver.follows).toBe(false);
});

test("a step back leaves what a colleague changed since, and says what stands there", async () => {
  const world = new World(sample());
  const [one, other] = people(world).map((p) => p.session) as [Session, Session];
  const step = async (work: Promise<unknown>) => {
    await world.pass(3000);
    await work;
  };
  await step(one.change((j) => (cut(8)(j), (j.note = "mine"))));
  await step(other.change(cut(7)));
  await step(one.undo());
  expect([cutOf(one), one.job.note]).toEqual([7, undefined]);
  expect(one.contest?.conflicts.map((c) => [c.title, c.theirs, c.mine])).toEqual([
    ["pick 3, cut", "7", "9"],
  ]);
  await step(one.stepAllTheSame());
  expect([cutOf(one), cutOf(other), one.contest]).toEqual([9, 9, null]);
  // A pick that was added, and that a colleague works on, is not taken out by a step back.
  await step(one.change((j) => j.picks.push({ id: "new", what: "stem", way: "free" })));
  await step(
    other.change((j) => ((j.picks.find((p) => p.id === "new") as Pick).note = "mind the wire")),
  );
  await step(one.undo());
  expect(other.job.picks.at(-1)).toMatchObject({ id: "new", note: "mind the wire" });
});

test("a cut in hand does not go over a colleague's", async () => {
  const world = new World(sample());
  const [one, other] = people(world).map((p) => p.session) as [Session, Session];
  one.drag(cut(8.4));
  void other.change(cut(7));
  await world.pass(3000);
  one.drag(cut(8.5));
  expect([cutOf(one), one.taken]).toEqual([7, true]);
  one.release();
  await world.pass(3000);
  expect([cutOf(other), cutOf(world.head.job)]).toEqual([7, 7]);
  one.drag(cut(6));
  one.release();
  await world.pass(3000);
  expect(cutOf(other)).toBe(6);
});

test("a server or a core that does not answer just now is asked again, never taken for a contradiction", async () => {
  for (const trouble of ["revision", "merge"] as const) {
    const world = new World(sample());
    const [one, other] = people(world) as [Person, Person];
    const ask = one.device[trouble] as (...given: never[]) => Promise<unknown>;
    let failed = 0;
    Object.assign(one.device, {
      [trouble]: (...given: never[]) => {
        if (failed++ < 2) {
          if (trouble === "revision") throw new Error("503");
          return Promise.resolve(null);
        }
        return ask(...given);
      },
    });
    // Of the first revision it has no copy any more once it has heard of a second.
    const save = one.device.save;
    one.device.save = async () => ({ unanswered: "" });
    void one.session.change((j) => (j.note = "mine"));
    await world.pass(600);
    void other.session.change(cut(7));
    await world.pass(2500);
    one.session.close();
    one.session = new Session(world.head, one.device);
    one.device.save = save;
    for (let n = 0; n < 12; n++) {
      await world.pass(1000);
      expect(one.session.saver.state).not.toBe("stale");
    }
    expect(failed).toBeGreaterThan(2);
    expect([world.head.job.note, cutOf(world.head.job), one.session.saver.state]).toEqual([
      "mine",
      7,
      "saved",
    ]);
  }
});

test("a save whose answer was lost does not contradict what was done after it", async () => {
  const world = new World(sample());
  const [one] = people(world) as [Person];
  const save = one.device.save;
  let lost = 0;
  one.device.save = async (...sent) => {
    const answer = await save(...sent);
    return lost++ === 0 ? { unanswered: "" } : answer;
  };
  void one.session.change(cut(8));
  await world.pass(500);
  void one.session.change(cut(7));
  for (let n = 0; n < 20; n++) {
    await world.pass(500);
    expect(one.session.saver.state).not.toBe("stale");
  }
  expect([cutOf(world.head.job), one.session.saver.state]).toEqual([7, "saved"]);
});

test("what is said of saving is true: how much waits, since when, and where", async () => {
  const world = new World(sample());
  const [one] = people(world) as [Person];
  const { session, device } = one;
  const save = device.save;
  device.save = async () => ({ unanswered: "" });
  await world.pass(1000);
  const began = world.now;
  void session.change(cut(8));
  await world.pass(100);
  void session.change(cut(7));
  await world.pass(4000);
  expect([session.saver.state, session.saver.waiting, session.saver.here]).toEqual([
    "unreachable",
    2,
    true,
  ]);
  expect(session.saver.since - began).toBeLessThan(100);
  device.full = true;
  void session.change(cut(6));
  await world.pass(1000);
  expect([session.saver.waiting, session.saver.here]).toEqual([3, false]);
  device.save = save;
  await world.pass(8000);
  expect([session.saver.state, session.saver.waiting, session.saver.here]).toEqual([
    "saved",
    0,
    true,
  ]);
  expect(cutOf(world.head.job)).toBe(6);
});

test("a job that is brought back elsewhere takes what waited, without another edit", async () => {
  const world = new World(sample());
  const [one, other] = people(world) as [Person, Person];
  void one.session.change(cut(8));
  world.remove();
  await world.pass(3000);
  expect(one.session.saver.state).toBe("gone");
  world.bringBack();
  await world.pass(5000);
  expect([cutOf(world.head.job), one.session.saver.state, cutOf(other.session)]).toEqual([
    8,
    "saved",
    8,
  ]);
});

test("a save that will never be kept stands before nothing", async () => {
  const world = new World(sample());
  const [one] = people(world) as [Person];
  const { session, device } = one;
  const save = device.save;
  // Its answer is lost; asked again the server refuses it for good.
  let calls = 0;
  device.save = async (...sent) => {
    if (sent[3].note !== "too much") return save(...sent);
    return calls++ === 0 ? { unanswered: "" } : { refused: "It is too much." };
  };
  void session.change((j) => (j.note = "too much"));
  await world.pass(800);
  void session.change((j) => (j.note = "less"));
  await world.pass(8000);
  expect([world.head.job.note, session.saver.state]).toEqual(["less", "saved"]);
});

test("both are kept once, however often that is pressed", async () => {
  const { world, one, device } = await apart(cut(8), cut(7));
  const made: [string, number | undefined][] = [];
  device.create = async (job, key) => {
    made.push([key, cutOf(job)]);
    await new Promise<void>((done) => world.after(300, done));
    return { ...world.head, id: "copy" };
  };
  const pressed = [one.saver.keepBoth(), one.saver.keepBoth()];
  await world.pass(5000);
  expect(await Promise.all(pressed)).toEqual(["copy", "copy"]);
  expect(new Set(made.map(([key]) => key)).size).toBe(1);
  expect(made.every(([, at]) => at === 8)).toBe(true);
  expect([cutOf(one), one.saver.state]).toEqual([7, "saved"]);
});

test("what a device kept is of the revision it was made from, however new the one it is opened on", async () => {
  const world = new World(sample());
  const [one, other] = people(world) as [Person, Person];
  const save = one.device.save;
  one.device.save = async () => ({ unanswered: "" });
  void one.session.change((j) => (j.note = "mine"));
  await world.pass(800);
  one.session.close();
  void other.session.change(cut(7));
  void markDown(other.session, ["p1"], true);
  await world.pass(2000);
  // Opened on what the colleague saved, and edited before what waited has gone out.
  one.device.save = save;
  const again = new Session(world.head, one.device);
  void again.change((j) => (j.name = "more"));
  await world.pass(8000);
  expect([cutOf(again), again.job.note, again.job.name, [...again.down]]).toEqual([
    7,
    "mine",
    "more",
    ["p1"],
  ]);
  expect(world.head.job).toEqual(again.job);
});
