import type { Browser, Page } from "@playwright/test";
import { choose, expect, kept, open, saved, test, picks } from "../support/job";

async function another(browser: Browser, job: string): Promise<Page> {
  const page = await (await browser.newContext()).newPage();
  await open(page, job);
  return page;
}

test("a save by one appears at the other, and undo leaves it alone", async ({
  page,
  job,
  browser,
}) => {
  await open(page, job);
  const other = await another(browser, job);
  await choose(page, 20);
  await page.keyboard.press("c");
  await page.keyboard.press("ArrowDown");
  await expect(page.getByTestId("cut")).toHaveAttribute("aria-valuenow", "13");
  await saved(page);
  await expect(picks(other).nth(19)).toContainText("Stem from 13.00 m");
  await expect(other.getByTestId("save-state")).toContainText("with a change from elsewhere");

  await choose(other, 4);
  await other.keyboard.press("d");
  await expect(picks(page).nth(3).locator(".line-through")).toBeVisible();
  // A step back here takes back what was done here, not what came in.
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByTestId("cut")).toHaveAttribute("aria-valuenow", "13.1");
  await expect(picks(page).nth(3).locator(".line-through")).toBeVisible();
  await expect(picks(other).nth(19)).toContainText("Stem from 13.10 m");
  await saved(page);
  const document = (await kept(page, job)).job;
  expect(document.facts?.some((f) => f.pick === document.picks[3]?.id)).toBe(true);
  expect(document.picks[19]?.cut_m).toBe(13.1);
  await other.context().close();
});

test("changes of different parts come together without a question", async ({
  page,
  job,
  browser,
}) => {
  // This side does not hear of the other's save before it makes its own.
  await page.route("**/live", (route) => route.abort());
  await open(page, job);
  const other = await another(browser, job);
  await choose(other, 21);
  await other.keyboard.press("c");
  await other.keyboard.press("ArrowUp");
  await saved(other);
  await choose(page, 20);
  await page.keyboard.press("c");
  await page.keyboard.press("ArrowDown");
  await saved(page);
  await expect(page.getByRole("alert").filter({ hasText: "Both sides" })).toHaveCount(0);
  await expect(picks(page).nth(20)).toContainText("Stem from 11.70 m");
  await expect(picks(other).nth(19)).toContainText("Stem from 13.00 m");
  const { job: document, revision } = await kept(page, job);
  expect([document.picks[19]?.cut_m, document.picks[20]?.cut_m, revision]).toEqual([13, 11.7, 3]);
  await other.context().close();
});

for (const [choice, cut] of [
  ["Keep mine", 13],
  ["Take theirs", 13.2],
  ["Keep both", 13.2],
] as const) {
  test(`the same part on both sides: ${choice.toLowerCase()}`, async ({ page, job, browser }) => {
    await page.route("**/live", (route) => route.abort());
    await open(page, job);
    const other = await another(browser, job);
    await choose(other, 20);
    await other.keyboard.press("c");
    await other.keyboard.press("ArrowUp");
    await saved(other);
    await choose(other, 3);
    await other.keyboard.press("d");
    await expect(picks(other).nth(2).locator(".line-through")).toBeVisible();
    await saved(other);
    await other.context().close();

    await choose(page, 20);
    await page.keyboard.press("c");
    await page.keyboard.press("ArrowDown");
    const alert = page.getByRole("alert").filter({ hasText: "Both sides changed the same" });
    // Both values, and what the piece comes to on either side.
    const row = alert.getByRole("row").filter({ hasText: "Pick 20, " });
    await expect(row.getByRole("cell").nth(0)).toContainText(/, cut$/);
    await expect(row.getByRole("cell").nth(1)).toContainText(/m\s*\d+ kg, line .* kN/);
    await expect(row.getByRole("cell").nth(2)).toContainText(/m\s*\d+ kg, line .* kN/);
    await page.getByRole("button", { name: choice }).click();
    await saved(page);
    await expect(page.getByTestId("cut")).toHaveAttribute("aria-valuenow", String(cut));
    const document = (await kept(page, job)).job;
    expect(document.picks[19]?.cut_m).toBe(cut);
    // What only the other side changed is kept either way.
    expect(document.facts?.some((f) => f.pick === document.picks[2]?.id)).toBe(true);
    if (choice === "Take theirs") {
      await page.getByRole("button", { name: "Undo" }).click();
      await expect(page.getByTestId("cut")).toHaveAttribute("aria-valuenow", "13");
    }
    if (choice === "Keep both") {
      await page.goto("/");
      await expect(
        page.getByRole("link", { name: /^Tern Quay, copy \(mine\)/ }).first(),
      ).toBeVisible();
    }
  });
}
