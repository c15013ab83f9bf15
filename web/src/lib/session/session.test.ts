import { beforeAll, expect, test } from "vitest";
import type { Pick } from "../api/client";
import { keepWeight, markDown, weighedKg } from "../order/marks";
import { Session } from "./session.svelte";
import { theCore } from "./testing/core";
import { sample, World } from "./testing/world";

beforeAll(() => theCore());

/** Two people at one job. */
function two(world: World) {
  return [world.device(), world.device()].map((device) => ({
    device,
    session: new Session(world.head, device),
  }));
}

test("a colleague's save that comes in while a weighing is under way does not move it", async () => {
  const world = new World(sample());
  const [mine, theirs] = two(world).map((one) => one.session) as [Session, Session];
  // Seen by me as the second pick; a new first one is saved by my colleague meanwhile.
  const weighing = keepWeight(mine, "p2", 180);
  void theirs.change((j) => j.picks.unshift({ id: "new", what: "stem", way: "free" }));
  await world.pass(5000);
  expect(await weighing).toEqual([]);
  await world.pass(5000);
  for (const one of [mine, theirs]) {
    expect(one.job.picks.map((p) => p.id)).toEqual(["new", "p1", "p2", "p3"]);
    expect(weighedKg(one, "p2")).toBe(180);
  }
  expect(world.head.job).toEqual(mine.job);
});

test("what happened is stepped back by another row, and forth again", async () => {
  const world = new World(sample());
  const [mine, theirs] = two(world).map((one) => one.session) as [Session, Session];
  const step = async (work: Promise<unknown>) => {
    await world.pass(3000);
    await work;
  };
  await step(markDown(mine, ["p1", "p2"], true));
  await step(keepWeight(theirs, "p1", 90));
  expect([...mine.down].sort()).toEqual(["p1", "p2"]);
  await step(mine.undo());
  expect([[...mine.down], weighedKg(mine, "p1")]).toEqual([[], 90]);
  await step(mine.redo());
  expect([...theirs.down].sort()).toEqual(["p1", "p2"]);
  await step(markDown(mine, ["p2"], false));
  expect([...theirs.down]).toEqual(["p1"]);
  await step(mine.undo());
  expect([...theirs.down].sort()).toEqual(["p1", "p2"]);
  // Whatever was taken back, no row is gone: two down, one weighed, two backs, two backs of those, one more and its own.
  expect(theirs.job.facts).toHaveLength(9);
  expect(theirs.job).toEqual(mine.job);
});

test("two who mark the same pick apart come together, and nothing is asked", async () => {
  const world = new World(sample());
  const [mine, theirs] = two(world).map((one) => one.session) as [Session, Session];
  void markDown(mine, ["p1"], true);
  void markDown(theirs, ["p1"], true);
  await world.pass(8000);
  for (const one of [mine, theirs]) {
    expect(one.saver.state).toBe("saved");
    expect([...one.down]).toEqual(["p1"]);
    expect(one.job.facts).toHaveLength(2);
  }
});

test("what is in hand stays in hand when something comes in", async () => {
  const world = new World(sample());
  const [mine, theirs] = two(world).map((one) => one.session) as [Session, Session];
  mine.drag((j) => ((j.picks[2] as Pick).cut_m = 8.4));
  void theirs.change((j) => (j.note = "theirs"));
  await world.pass(3000);
  expect([mine.job.picks[2]?.cut_m, mine.job.note]).toEqual([8.4, "theirs"]);
  mine.release();
  await world.pass(3000);
  expect(world.head.job.picks[2]?.cut_m).toBe(8.4);
  // A step back takes back the cut and leaves what came in.
  const back = mine.undo();
  await world.pass(3000);
  await back;
  expect([mine.job.picks[2]?.cut_m, mine.job.note]).toEqual([9, "theirs"]);
});

test("a change of what was taken away elsewhere is refused in words", async () => {
  const world = new World(sample());
  const [mine, theirs] = two(world).map((one) => one.session) as [Session, Session];
  void theirs.change((j) => (j.picks = j.picks.filter((p) => p.id !== "p2")));
  await world.pass(3000);
  const seen = sample();
  const late = mine.change((j) => ((j.picks[1] as Pick).cut_m = 1), undefined, seen);
  await world.pass(1000);
  expect((await late)[0]?.message).toContain("taken away elsewhere");
  expect(mine.job.picks.map((p) => p.id)).toEqual(["p1", "p3"]);
});

test("a core that does not answer holds up no edit", async () => {
  const world = new World(sample());
  const device = world.device();
  const answering = device.assess;
  device.assess = () => new Promise((done) => world.after(6000, () => done(null)));
  const session = new Session(world.head, device);
  const edits = [1, 2, 3].map((n) => session.change((j) => (j.note = `edit ${n}`)));
  await world.pass(20_000);
  await Promise.all(edits);
  expect(session.job.note).toBe("edit 3");
  expect(session.behind).toBe(true);
  device.assess = answering;
  await world.pass(20_000);
  expect(session.behind).toBe(false);
  expect(world.head.job.note).toBe("edit 3");
});

test("an answer of before a change never stands for the document after it", async () => {
  const world = new World(sample());
  const device = world.device();
  const answering = device.assess;
  let calls = 0;
  device.assess = async (job, pick) => {
    const late = calls++ === 0;
    const reply = await answering(job, pick);
    if (late) await new Promise((done) => world.after(2000, () => done(undefined)));
    return reply;
  };
  const session = new Session(world.head, device);
  const slow = session.assess();
  const change = session.change((j) => (j.picks = j.picks.filter((p) => p.id !== "p2")));
  await world.pass(1000);
  expect(await change).toEqual([]);
  await world.pass(10_000);
  await slow;
  expect(session.assessment?.picks.map((p) => p.id)).toEqual(["p1", "p3"]);
});

test("figures that came with the job are shown, those of another revision are not", async () => {
  const world = new World(sample());
  const asked = world.device().assess(sample(), "p1");
  await world.pass(1000);
  const assessment = (await asked)?.data;
  if (!assessment) throw new Error("the core does not answer");
  const came = new Session(world.head, world.device(), { revision: 1, assessment });
  expect(came.assessment).toBe(assessment);
  const late = new Session(world.head, world.device(), { revision: 2, assessment });
  expect(late.assessment).toBe(null);
  // Nor do they stand for what the device kept and has not sent.
  const device = world.device();
  device.save = () => Promise.resolve({ unanswered: "" });
  const session = new Session(world.head, device);
  void session.change((j) => (j.note = "kept"));
  await world.pass(1500);
  session.close();
  const again = new Session(world.head, device, { revision: 1, assessment });
  expect([again.job.note, again.assessment]).toEqual(["kept", null]);
});

test("a save whose answer is lost is kept once, and a closed page loses nothing", async () => {
  const world = new World(sample());
  const device = world.device();
  const saving = device.save;
  // Nor does it hear from elsewhere that its save has arrived.
  device.listen = () => () => undefined;
  let lost = 0;
  device.save = async (...sent) => {
    const answer = await saving(...sent);
    return lost++ < 2 ? { unanswered: "The disk is full." } : answer;
  };
  const session = new Session(world.head, device);
  void session.change((j) => (j.note = "first"));
  await world.pass(1500);
  expect(session.saver.state).toBe("unreachable");
  expect(session.saver.reason).toBe("The disk is full.");
  // Closed before it was acknowledged, opened again from what the device kept.
  session.close();
  const again = new Session({ ...world.head, revision: 1, job: sample() }, device);
  expect(again.job.note).toBe("first");
  void again.change((j) => (j.name = "second"));
  await world.pass(20_000);
  expect([again.saver.state, world.head.job.note, world.head.job.name]).toEqual([
    "saved",
    "first",
    "second",
  ]);
  expect(
    world.revisions.filter((job) => job.note === "first" && job.name === "sample"),
  ).toHaveLength(1);
});
