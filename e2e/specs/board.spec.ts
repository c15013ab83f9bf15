import type { Page } from "@playwright/test";
import {
  assess,
  choose,
  expect,
  expectCoresFigures,
  inHand,
  kept,
  open,
  rung,
  saved,
  test,
  picks,
} from "../support/job";

// The demo's 19th pick is the top section of its stem, lowered past its block.
const top = 19;
const topId = "p19";

async function dragCut(page: Page, by: number): Promise<void> {
  const box = await page.getByTestId("cut").boundingBox();
  if (!box) throw new Error("no cut to take hold of");
  const x = box.x + 20;
  const y = box.y + box.height / 2;
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let step = 1; step <= 8; step++) await page.mouse.move(x, y + (by * step) / 8);
  await page.mouse.up();
}

const titles = (page: Page) => picks(page).allTextContents();

test("the cut is dragged, and every figure is the core's own", async ({ page, job }) => {
  await open(page, job);
  await choose(page, top);
  const before = await expectCoresFigures(page, job, topId);
  await dragCut(page, 30);
  await expect(page.getByTestId("cut")).not.toHaveAttribute("aria-valuenow", "14.9");
  const lower = await expectCoresFigures(page, job, topId);
  expect(lower.detail?.piece?.length_m).toBeGreaterThan(
    (before.detail?.piece?.length_m ?? 0) + 0.5,
  );
  await page.keyboard.press("z");
  await dragCut(page, -40);
  const higher = await expectCoresFigures(page, job, topId);
  expect(higher.detail?.piece?.length_m).toBeLessThan(lower.detail?.piece?.length_m ?? 0);
});

test("a limb's cut is dragged along the limb", async ({ page, job }) => {
  await open(page, job);
  await choose(page, 8);
  const box = await page.getByTestId("cut").locator("circle").boundingBox();
  if (!box) throw new Error("no cut to take hold of");
  const x = box.x + box.width / 2;
  const y = box.y + box.height / 2;
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 70, y - 30, { steps: 6 });
  await page.mouse.up();
  await expect(picks(page).nth(7)).toContainText("Slip limb from");
  const a = await expectCoresFigures(page, job, "p8");
  expect(a.picks[7]?.from_m).toBeGreaterThan(1);
});

test("the figures follow while the cut is still in hand", async ({ page, job }) => {
  await open(page, job);
  await choose(page, top);
  await saved(page);
  const before = await page.getByTestId("weight").textContent();
  const box = await page.getByTestId("cut").boundingBox();
  if (!box) throw new Error("no cut to take hold of");
  await page.mouse.move(box.x + 20, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 20, box.y + box.height / 2 + 40, { steps: 5 });
  await expect(page.getByTestId("weight")).not.toHaveText(before ?? "");
  expect((await kept(page, job)).revision).toBe(1);
  await page.mouse.up();
  await saved(page);
  expect((await kept(page, job)).revision).toBe(2);
});

test("the cut is moved with the keys and typed", async ({ page, job }) => {
  await open(page, job);
  await choose(page, top);
  await page.keyboard.press("c");
  const cut = page.getByTestId("cut");
  await expect(cut).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await expect(cut).toHaveAttribute("aria-valuenow", "14.8");
  await page.keyboard.press("Shift+ArrowUp");
  await expect(cut).toHaveAttribute("aria-valuenow", "14.81");
  await page.keyboard.press("PageDown");
  await expect(cut).toHaveAttribute("aria-valuenow", "13.81");
  await page.keyboard.press("2");
  const typed = page.getByLabel("Cut at height", { exact: true });
  await typed.fill("48ft 6in");
  await typed.press("Enter");
  await expect(cut).toHaveAttribute("aria-valuenow", /^14\.782/);
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Loads" }).click();
  await expectCoresFigures(page, job, topId);
});

test("picks are split, joined, moved, taken out and brought back", async ({ page, job }) => {
  await open(page, job);
  await choose(page, 8);
  const before = await titles(page);
  await page.keyboard.press("s");
  await expect(picks(page)).toHaveCount(26);
  await expect(picks(page).nth(7)).toContainText("Slip limb from 3.00 m");
  await expectCoresFigures(page, job, await inHand(page));
  await choose(page, 9);
  await page.keyboard.press("j");
  await expect(picks(page)).toHaveCount(25);
  expect(await titles(page)).toEqual(before);

  await page.getByTestId("order").focus();
  await page.keyboard.press("Alt+ArrowDown");
  await expect(picks(page).nth(8)).toContainText("Slip limb");
  await page.keyboard.press("Shift+ArrowDown");
  await page.keyboard.press("Shift+ArrowDown");
  await expect(picks(page, true)).toHaveCount(3);
  await page.keyboard.press("Delete");
  await expect(picks(page)).toHaveCount(22);
  for (let step = 0; step < 4; step++) await page.keyboard.press("Control+z");
  await expect.poll(() => titles(page)).toEqual(before);
  for (let step = 0; step < 4; step++) await page.keyboard.press("Control+Shift+z");
  await expect(picks(page)).toHaveCount(22);
  await saved(page);
  expect((await kept(page, job)).job.picks).toHaveLength(22);
});

test("an order that cannot happen says why, and stops saying it", async ({ page, job }) => {
  await open(page, job);
  // The stem's top section before the limbs that stand on it.
  const from = picks(page).nth(top - 1);
  await from.scrollIntoViewIfNeeded();
  await choose(page, top);
  for (let step = 0; step < 3; step++) {
    await page.getByRole("button", { name: "Earlier" }).click();
    await expect(picks(page).nth(top - 2 - step)).toContainText("Stem from 14.90");
  }
  const moved = picks(page).nth(top - 4);
  await expect(moved).toContainText("Cannot happen");
  await expect(moved).toContainText("still stands on it, at 15.70 m: take it first");
  await expect(page.getByTestId("state")).toContainText("cannot happen in this order");
  await expectCoresFigures(page, job, topId);
  for (let step = 0; step < 3; step++) await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByTestId("state")).not.toContainText("cannot happen");
});

test("a pick is dragged to another place in the order", async ({ page, job }) => {
  await open(page, job);
  await picks(page).nth(2).dragTo(picks(page).nth(0));
  await expect(picks(page).nth(0)).toContainText("Slip low limb");
  await expectCoresFigures(page, job, "p2");
});

test("the wood itself is pressed: once to choose, twice to cut there", async ({ page, job }) => {
  await open(page, job);
  const limb = page.getByTestId("limb-l7").locator("path").nth(1);
  const box = await limb.boundingBox();
  if (!box) throw new Error("no limb to press");
  const at = { x: box.x + box.width * 0.75, y: box.y + box.height * 0.28 };
  await page.mouse.click(at.x, at.y);
  await expect(picks(page).nth(7)).toHaveAttribute("aria-selected", "true");
  await expect(page.getByTestId("board")).toHaveAttribute("data-pick", "p8");
  await page.mouse.dblclick(at.x, at.y);
  await expect(picks(page)).toHaveCount(26);
  await expect(picks(page).nth(7)).toContainText("Slip limb from");
  await expectCoresFigures(page, job, await inHand(page));
});

test("on the drawing a cut pressed twice joins, and Alt puts the chosen pick before", async ({
  page,
  job,
}) => {
  await open(page, job);
  await choose(page, 20);
  const cut = await page.getByTestId("cut").boundingBox();
  if (!cut) throw new Error("no cut to press");
  await page.mouse.dblclick(cut.x + 20, cut.y + cut.height / 2);
  await expect(picks(page)).toHaveCount(24);
  await expect(picks(page).nth(18)).toContainText("Stem from 13.10 m");
  await expectCoresFigures(page, job, "p20");

  // The slip limb comes off as the eighth pick: before that it stands, to be pressed.
  await choose(page, 2);
  const box = await page.getByTestId("limb-l7").locator("path").nth(1).boundingBox();
  if (!box) throw new Error("no limb to press");
  await page.keyboard.down("Alt");
  await page.mouse.click(box.x + box.width * 0.75, box.y + box.height * 0.28);
  await page.keyboard.up("Alt");
  await expect(picks(page).nth(6)).toContainText("Lawn low limb");
  await expect(picks(page).nth(7)).toContainText("Slip limb");
  await expectCoresFigures(page, job, "p2");
});

test("the order is filled: in part, with its reasons", async ({ page, job }) => {
  await open(page, job);
  await page.keyboard.press("f");
  const fill = page.getByTestId("fill");
  await expect(fill).toContainText("Nothing is left to take.");
  await fill.getByLabel("In place of the picks that are not down yet").check();
  await expect(fill.getByRole("listitem").first()).toBeVisible();
  const proposed = await fill.getByRole("listitem").count();
  expect(proposed).toBeGreaterThan(14);
  await expect(fill.getByText("Goes free into north lawn").first()).toBeVisible();
  // What is left to one's judgement is not ticked beforehand.
  const ticked = await fill.getByRole("listitem").getByRole("checkbox", { checked: true }).count();
  await fill.getByRole("checkbox", { name: /lawn low limb/i }).uncheck();
  await fill.getByRole("button", { name: `Take ${ticked - 1}` }).click();
  await expect(picks(page)).toHaveCount(ticked);
  await saved(page);
  const a = assess((await kept(page, job)).job);
  // What was left out still stands, and the stem says so.
  expect(a.picks.some((p) => p.faults.some((f) => f.message.includes("lawn low limb")))).toBe(true);
  await page.keyboard.press("Control+z");
  await expect(picks(page)).toHaveCount(25);
});

test("what if: hold one thing, ask for the other, take the answer", async ({ page, job }) => {
  await open(page, job);
  await choose(page, top);
  await page.keyboard.press("2");
  const asked = page.getByTestId("what-if");
  await asked.getByLabel("Ask", { exact: true }).selectOption("how many wraps");
  await asked.getByLabel("And hold").selectOption("the line’s peak");
  await asked.getByLabel(/^At,/).fill("a lot");
  await asked.getByRole("button", { name: "Ask" }).click();
  await expect(asked.getByRole("alert")).toContainText("write it like");
  await asked.getByLabel(/^At,/).fill("7 kN");
  await asked.getByRole("button", { name: "Ask" }).click();
  // Two turns keep it to that with a quarter more friction, and do not stop it above the ground.
  await expect(page.getByTestId("answer")).toContainText("No run helps");
  await asked.getByLabel(/^At,/).fill("12 kN");
  await asked.getByRole("button", { name: "Ask" }).click();
  await expect(page.getByTestId("answer")).toContainText("line up to 12.0 kN");
  await page.getByRole("button", { name: "Take it" }).click();
  await page.getByRole("button", { name: "Loads" }).click();
  // By whole and half turns: no more than that, with a quarter more friction.
  await expect(rung(page, "Line")).toContainText("a quarter more friction");
  await expect
    .poll(async () => (await kept(page, job)).job.picks[top - 1]?.catch?.how)
    .toBe("wraps");
  await page.getByRole("button", { name: "Pick", exact: true }).click();
  await asked.getByLabel("Ask", { exact: true }).selectOption("which rope would do");
  await asked.getByLabel("And hold").selectOption("every limit");
  await asked.getByRole("button", { name: "Ask" }).click();
  await expect(page.getByTestId("answer")).toContainText("with the most to spare");
  await page.getByRole("button", { name: "Take Wren line 12 mm" }).click();
  await expect
    .poll(async () => (await kept(page, job)).job.rigs[0]?.rope?.name)
    .toBe("Wren line 12 mm");
});

test("the longest piece within the limits moves the cut there", async ({ page, job }) => {
  await open(page, job);
  await choose(page, top);
  await page.keyboard.press("l");
  await expect(page.getByTestId("said")).toContainText("A longer one is stopped by");
  const a = await expectCoresFigures(page, job, topId);
  expect(a.detail?.ladder.every((r) => r.verdict !== "over")).toBe(true);
  const longer = (await kept(page, job)).job;
  const pick = longer.picks[top - 1];
  if (pick) pick.cut_m = (pick.cut_m ?? 0) - 0.01;
  expect(assess(longer).picks[top - 1]?.verdict).toBe("over");
});

test("a drop is watched: the film, the scrubber, the spread", async ({ page, job }) => {
  await open(page, job);
  await choose(page, top);
  const trace = page.getByTestId("trace");
  await expect(trace.getByRole("img")).toBeVisible();
  await expect(page.getByTestId("film")).toHaveCount(0);
  await trace.getByRole("button", { name: "Run the film" }).click();
  await expect(page.getByTestId("film")).toBeVisible();
  await expect(trace.getByRole("button", { name: "Run the film" })).toBeVisible({
    timeout: 15_000,
  });
  const moment = trace.getByRole("slider", { name: "Moment of the film" });
  await moment.fill("0.5");
  await expect(trace).toContainText("0.50 s tipping");
  const early = await page.getByTestId("film").innerHTML();
  await moment.fill("2.3");
  await expect(trace).toContainText("caught");
  expect(await page.getByTestId("film").innerHTML()).not.toBe(early);
  await trace.getByRole("button", { name: "Spread" }).click();
  await expect(page.getByTestId("p95")).toContainText("p95", { timeout: 20_000 });
  await page.keyboard.press("Home");
  await choose(page, 10);
  await expect(trace).toContainText("first line up to 2.7 kN");
});

test("the tree is turned, and everything found by name", async ({ page, job }) => {
  await open(page, job);
  const looking = page.getByTestId("looking");
  await expect(looking).toHaveText("looking N");
  for (let k = 0; k < 6; k++) await page.keyboard.press("]");
  await expect(looking).toHaveText("looking E");
  const dial = page.getByRole("slider", { name: "Plan: turn the elevation" });
  await dial.focus();
  for (let k = 0; k < 9; k++) await page.keyboard.press("ArrowLeft");
  await expect(dial).toHaveAttribute("aria-valuenow", "45");
  await page.keyboard.press("Control+k");
  await page.keyboard.type("go to pick 12");
  await page.keyboard.press("Enter");
  await expect(picks(page).nth(11)).toHaveAttribute("aria-selected", "true");
  await page.keyboard.press("/");
  await page.keyboard.type("nothing like this");
  await expect(page.getByText("Nothing goes by that name.")).toBeVisible();
  await page.keyboard.press("Escape");
  await page.keyboard.press("?");
  await expect(page.getByText("longest piece within the limits")).toBeVisible();
});

test("a bad reading names the field and the range, and nothing is lost", async ({ page, job }) => {
  await open(page, job);
  await saved(page);
  const state = await page.getByTestId("state").textContent();
  await page.keyboard.press("3");
  const field = page.getByLabel("Girth of reading 1");
  await field.fill("40 m");
  await field.press("Enter");
  const message = page.getByRole("alert").filter({ hasText: "Girth of reading 1" });
  await expect(message).toContainText("40");
  await expect(message).toContainText("at most 30 m");
  await expect(field).toHaveAttribute("aria-invalid", "true");
  await expect(page.getByTestId("state")).toHaveText(state ?? "");
  expect((await kept(page, job)).revision).toBe(1);

  await page.reload();
  await expect(page.getByTestId("state")).toBeVisible();
  await page.getByRole("button", { name: "Setup" }).click();
  await expect(field).toHaveValue("40 m");
  await expect(message).toBeVisible();

  await field.fill("9 elbows");
  await field.press("Enter");
  await expect(message).toContainText("6ft 4in");

  await field.fill("112 in");
  await field.press("Enter");
  await expect(message).toHaveCount(0);
  await saved(page);
  const reading = (await kept(page, job)).job.trees[0]!.readings[0];
  expect(reading?.tape_m).toBeCloseTo(112 * 0.0254, 10);
  expect(reading?.noted).toBe("112 in");
});

test("readings that contradict each other are named at their field", async ({ page, job }) => {
  await open(page, job);
  await page.keyboard.press("3");
  const field = page.getByLabel("Height of reading 2");
  await field.fill("0.2 m");
  await field.press("Enter");
  await expect(
    page.getByRole("alert").filter({ hasText: "not above the one before it" }),
  ).toBeVisible();
  await expect(page.getByTestId("state")).toContainText("contradict");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByTestId("state")).not.toContainText("contradict");
  await page.getByRole("button", { name: "Loads" }).click();
  await expectCoresFigures(page, job, "p2");
});

test("limbs, rigs, site and limits are set, and are there after a reload", async ({
  page,
  job,
}) => {
  await open(page, job);
  await page.keyboard.press("3");
  await page.getByRole("tab", { name: "Limbs" }).click();
  await page.getByRole("button", { name: /^slip limb/ }).click();
  await page.getByLabel("Diameter at base").fill("24 cm");
  await page.getByLabel("Diameter at base").press("Enter");
  await page.getByRole("tab", { name: "Rigs" }).click();
  const rigs = page.getByRole("tabpanel", { name: "Rigs" });
  await rigs.getByRole("button", { name: "Add a turn" }).click();
  await rigs.getByLabel("Is a").selectOption("fork, ring");
  await page.getByRole("tab", { name: "Site" }).click();
  await page.getByRole("button", { name: "Add to what must not be hit" }).click();
  await page.getByRole("tab", { name: "Limits" }).click();
  await page.getByLabel("Heaviest piece", { exact: true }).fill("900 lb");
  await page.getByLabel("Heaviest piece", { exact: true }).press("Enter");
  await expect
    .poll(async () => (await kept(page, job)).job.limits.piece_kg)
    .toBeCloseTo(900 * 0.45359237, 9);
  const document = (await kept(page, job)).job;
  expect(document.trees[0]!.limbs[6]?.diameter_m).toBeCloseTo(0.24, 10);
  expect(document.rigs[0]?.redirects[0]?.friction).toBeGreaterThan(0);
  expect(document.site.targets).toHaveLength(6);
  await page.reload();
  await expect(page.getByTestId("state")).toHaveText(assess(document).state);
});

test("a rung opens its working, with sources", async ({ page, job }) => {
  await open(page, job);
  await choose(page, top);
  await rung(page, "Line").click();
  await expect(rung(page, "Line")).toHaveAttribute("aria-expanded", "true");
  const steps = page.getByRole("listitem").filter({ hasText: "fall until the line is tight" });
  await expect(steps.last()).toContainText("(b+c) + (b+t+s) + |c−t|");
  await expect(page.getByText("the rope's elongation table").first()).toBeVisible();
});
