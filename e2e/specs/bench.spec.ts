import { mkdtempSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { Page } from "@playwright/test";
import { core } from "../support/server";
import { expect, kept, open, rung, saved, test, type Assessment, type Job } from "../support/job";

/** The core's assessment of a document, by the command line. */
function assess(job: Job): Assessment {
  const file = join(mkdtempSync(join(tmpdir(), "elkstay-")), "job.json");
  writeFileSync(file, JSON.stringify(job));
  return core(["assess", "--json", file]) as Assessment;
}

const kn = (value: number) => value.toFixed(value < 1 ? 2 : 1);

/** Every figure on the screen is the core's own for the document that is kept. */
async function expectCoresFigures(page: Page, id: string): Promise<Assessment> {
  await saved(page);
  const a = assess((await kept(page, id)).job);
  await expect(page.getByTestId("state")).toHaveText(a.state);
  const mass = a.piece?.mass_kg;
  await expect(page.getByTestId("weight")).toHaveText(
    new RegExp(
      `${mass?.likely.toFixed(0)} kg\\s*${mass?.low.toFixed(0)} kg to ${mass?.high.toFixed(0)} kg`,
    ),
  );
  expect(a.ladder).toHaveLength(5);
  for (const r of a.ladder) {
    const shown = page
      .getByRole("button", { name: new RegExp(`^${r.part}`, "i") })
      .filter({ hasText: "limit" });
    await expect(shown).toContainText(kn(r.peak_kn ?? 0));
    await expect(shown).toContainText(kn(r.resting_kn));
    await expect(shown).toContainText(r.verdict);
    if (r.use_pct !== null) await expect(shown).toContainText(`${r.use_pct.toFixed(0)} %`);
  }
  return a;
}

async function dragCut(page: Page, view: "whole" | "close", by: number): Promise<void> {
  const box = await page.getByTestId(`cut-${view}`).boundingBox();
  if (!box) throw new Error("no cut to take hold of");
  const x = box.x + 20;
  const y = box.y + box.height / 2;
  await page.mouse.move(x, y);
  await page.mouse.down();
  for (let step = 1; step <= 8; step++) await page.mouse.move(x, y + (by * step) / 8);
  await page.mouse.up();
}

test("the cut is dragged, and every figure is the core's own", async ({ page, job }) => {
  await open(page, job);
  const before = await expectCoresFigures(page, job);
  await dragCut(page, "whole", 90);
  await expect(page.getByTestId("state")).not.toHaveText(before.state);
  const lower = await expectCoresFigures(page, job);
  expect(lower.piece?.mass_kg.likely).toBeGreaterThan((before.piece?.mass_kg.likely ?? 0) * 1.3);
  await dragCut(page, "close", -60);
  await expect(page.getByTestId("state")).not.toHaveText(lower.state);
  const higher = await expectCoresFigures(page, job);
  expect(higher.piece?.length_m).toBeLessThan(lower.piece?.length_m ?? 0);
});

test("the figures follow while the cut is still in hand", async ({ page, job }) => {
  await open(page, job);
  await saved(page);
  const before = await page.getByTestId("state").textContent();
  const box = await page.getByTestId("cut-whole").boundingBox();
  if (!box) throw new Error("no cut to take hold of");
  await page.mouse.move(box.x + 20, box.y + box.height / 2);
  await page.mouse.down();
  await page.mouse.move(box.x + 20, box.y + box.height / 2 + 60, { steps: 5 });
  await expect(page.getByTestId("state")).not.toHaveText(before ?? "");
  expect((await kept(page, job)).revision).toBe(1);
  await page.mouse.up();
  await saved(page);
  expect((await kept(page, job)).revision).toBe(2);
});

test("the cut is moved with the keys and typed", async ({ page, job }) => {
  await open(page, job);
  await saved(page);
  await page.keyboard.press("c");
  const cut = page.getByTestId("cut-whole");
  await expect(cut).toBeFocused();
  await page.keyboard.press("ArrowDown");
  await expect(cut).toHaveAttribute("aria-valuenow", "14.6");
  await page.keyboard.press("Shift+ArrowUp");
  await expect(cut).toHaveAttribute("aria-valuenow", "14.61");
  await page.keyboard.press("PageDown");
  await expect(cut).toHaveAttribute("aria-valuenow", "13.61");
  await page.keyboard.press("Home");
  await expect(cut).toHaveAttribute("aria-valuenow", "0.31");
  await expect(page.getByTestId("state")).toContainText("cannot be worked out");
  const typed = page.getByLabel("Cut at height", { exact: true });
  await typed.fill("46ft 6in");
  await typed.press("Enter");
  await expect(cut).toHaveAttribute("aria-valuenow", String(46.5 * 0.3048));
  await expectCoresFigures(page, job);
});

test("what hangs on the stem counts in the piece it rides with", async ({ page, job }) => {
  await open(page, job);
  const before = await expectCoresFigures(page, job);
  const mass = page.getByLabel("Mass of ivy and stubs");
  await expect(mass).toHaveValue("18 kg");
  await mass.fill("48 kg");
  await mass.press("Enter");
  await expect(page.getByTestId("state")).not.toHaveText(before.state);
  const heavier = await expectCoresFigures(page, job);
  expect(heavier.piece?.mass_kg.likely).toBeCloseTo((before.piece?.mass_kg.likely ?? 0) + 30, 6);
  await page.getByRole("button", { name: "Remove ivy and stubs" }).click();
  await expect(mass).toHaveCount(0);
  const bare = await expectCoresFigures(page, job);
  expect(bare.piece?.mass_kg.likely).toBeCloseTo((before.piece?.mass_kg.likely ?? 0) - 18, 6);
});

test("undo and redo go through every change", async ({ page, job }) => {
  await open(page, job);
  const first = await page.getByTestId("state").textContent();
  await page.getByRole("button", { name: "Cut at height: less" }).click();
  await expect(page.getByTestId("cut-whole")).toHaveAttribute("aria-valuenow", "14.6");
  const second = await page.getByTestId("state").textContent();
  await page.getByRole("button", { name: "Cut at height: less" }).click();
  await expect(page.getByTestId("cut-whole")).toHaveAttribute("aria-valuenow", "14.5");
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByTestId("state")).toHaveText(second ?? "");
  await page.keyboard.press("Control+z");
  await expect(page.getByTestId("state")).toHaveText(first ?? "");
  await page.keyboard.press("Control+Shift+z");
  await expect(page.getByTestId("state")).toHaveText(second ?? "");
  await expectCoresFigures(page, job);
});

test("a bad reading names the field and the range, and nothing is lost", async ({ page, job }) => {
  await open(page, job);
  await saved(page);
  const state = await page.getByTestId("state").textContent();
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
  await expect(field).toHaveValue("40 m");
  await expect(message).toBeVisible();

  await field.fill("9 elbows");
  await field.press("Enter");
  await expect(message).toContainText("6ft 4in");

  await field.fill("112 in");
  await field.press("Enter");
  await expect(message).toHaveCount(0);
  await saved(page);
  const reading = (await kept(page, job)).job.tree.readings[0];
  expect(reading?.tape_m).toBeCloseTo(112 * 0.0254, 10);
  expect(reading?.noted).toBe("112 in");
});

test("readings that contradict each other are named at their field", async ({ page, job }) => {
  await open(page, job);
  const field = page.getByLabel("Height of reading 2");
  await field.fill("0.2 m");
  await field.press("Enter");
  await expect(
    page.getByRole("alert").filter({ hasText: "not above the one before it" }),
  ).toBeVisible();
  await expect(page.getByTestId("state")).toContainText("contradict");
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Undo" }).click();
  await expectCoresFigures(page, job);
});

test("what was done is there after a reload", async ({ page, job }) => {
  await open(page, job);
  await page.getByLabel("Species").selectOption({ label: "White ash" });
  await page.getByRole("tab", { name: "Hold" }).click();
  await page.getByText("Call the run").click();
  await page.getByLabel("Let it run", { exact: true }).fill("1.9");
  await page.getByLabel("Let it run", { exact: true }).press("Enter");
  await expect(page.getByTestId("state")).toContainText("Let it run 1.90 m");
  const before = await expectCoresFigures(page, job);
  await page.reload();
  await expect(page.getByTestId("state")).toHaveText(before.state);
  await expectCoresFigures(page, job);
});

test("the longest piece within the limits moves the cut there", async ({ page, job }) => {
  await open(page, job);
  await page.getByRole("button", { name: "Longest piece within the limits" }).click();
  await expect(
    page.getByRole("status").filter({ hasText: "A longer one is stopped by" }),
  ).toBeVisible();
  const a = await expectCoresFigures(page, job);
  expect(a.ladder.every((r) => r.verdict !== "over")).toBe(true);
  expect(a.nearest?.use_pct).toBeGreaterThan(99);
  const job1 = (await kept(page, job)).job;
  job1.cut.at_m = (job1.cut.at_m ?? 0) - 0.01;
  expect(assess(job1).verdict).toBe("over");
});

test("a rung opens its working, with sources", async ({ page, job }) => {
  await open(page, job);
  await rung(page, "Line").click();
  await expect(rung(page, "Line")).toHaveAttribute("aria-expanded", "true");
  const steps = page.getByRole("listitem").filter({ hasText: "fall until the line is tight" });
  await expect(steps.last()).toContainText("(b+c) + (b+t+s) + |c−t|");
  await expect(page.getByText("the rope's elongation table").first()).toBeVisible();
});

test("both unit systems show the same job", async ({ page, job }) => {
  await open(page, job);
  await saved(page);
  const a = assess((await kept(page, job)).job);
  await page.getByRole("button", { name: /^Units/ }).click();
  await expect(page.getByTestId("weight")).toContainText(
    `${Math.round((a.piece?.mass_kg.likely ?? 0) / 0.45359237)} lb`,
  );
  await expect(page.getByTestId("state")).toContainText("lbf");
  await expect(page.getByTestId("state")).toContainText("ft piece");
  await page.reload();
  await expect(page.getByTestId("state")).toContainText("lbf");
  expect((await kept(page, job)).revision).toBe(1);
});

test("a piece that is never stopped says so", async ({ page, job }) => {
  await open(page, job);
  await page.getByRole("tab", { name: "Hold" }).click();
  const wraps = page.getByLabel("Wraps on the device", { exact: true });
  await wraps.fill("1");
  await wraps.press("Enter");
  await expect(page.getByTestId("state")).toContainText("never stopped");
  await expect(page.getByText("The device never stops this piece").first()).toBeVisible();
});

test("an empty job leads by the hand, by keyboard alone", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("Name of the new job").focus();
  await page.keyboard.type("Heron Spinney");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "First, the tree" })).toBeVisible();
  await expect(page.getByText("Choose the species.").first()).toBeVisible();
  await page.getByLabel("Species").focus();
  await page.keyboard.type("White oak");
  await expect(page.getByText("Give a tape reading or two").first()).toBeVisible();
  for (const [i, girth] of ["220 cm", "70 in", "4ft 2in"].entries()) {
    await page.getByRole("button", { name: "Add a reading" }).focus();
    await page.keyboard.press("Enter");
    const field = page.getByLabel(`Girth of reading ${i + 1}`);
    await field.focus();
    await page.keyboard.press("Control+a");
    await page.keyboard.type(girth);
    await page.keyboard.press("Enter");
    await expect(field).toHaveValue(girth);
  }
  await page.getByLabel("Height of the top").focus();
  await page.keyboard.type("14 m");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("cut-whole")).toBeVisible();
  await expect(page.getByTestId("weight")).toContainText("kg");
  await page.getByRole("tab", { name: "Stem" }).focus();
  await page.keyboard.press("ArrowRight");
  await page.getByRole("tabpanel", { name: "Rig" }).getByRole("combobox").focus();
  await page.keyboard.type("Typical 16 mm double");
  await expect(rung(page, "Line")).toBeVisible();
  await expect(rung(page, "Block")).toContainText("not known");
  await saved(page);
});
