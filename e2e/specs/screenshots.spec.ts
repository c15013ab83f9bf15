import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { choose, demo, expect, open, rung, second, test, picks } from "../support/job";

// Pictures of each main view, from the demo. `make screenshots` writes them to
// docs/screenshots; in a test run they only prove that every view draws.
const folder = process.env.ELKSTAY_SCREENSHOTS ?? "test-results/screenshots";
mkdirSync(folder, { recursive: true });
const into = (name: string) => ({
  path: join(folder, `${name}.png`),
  animations: "disabled" as const,
});

for (const theme of ["daylight", "dusk"] as const) {
  test(`the board, ${theme}`, async ({ page }) => {
    await page.addInitScript((name) => localStorage.setItem("elkstay.theme", name), theme);
    await open(page, demo);
    await choose(page, theme === "dusk" ? 5 : 19);
    await expect(page.getByTestId("trace").getByRole("img")).toBeVisible();
    await page.getByRole("slider", { name: "Moment of the film" }).fill("1.2");
    await page.screenshot(into(`board-${theme}`));
  });
}

test("a pick by crane, and what if", async ({ page }) => {
  await open(page, second);
  await choose(page, 4);
  await page.keyboard.press("2");
  await page.getByTestId("what-if").getByRole("button", { name: "Ask" }).click();
  await expect(page.getByTestId("answer")).toBeVisible();
  await page.screenshot(into("pick"));
});

test("the order filled", async ({ page }) => {
  await open(page, demo);
  await page.keyboard.press("f");
  await page.getByLabel("In place of the picks that are not down yet").check();
  await expect(page.getByTestId("fill").getByRole("listitem").first()).toBeVisible();
  await page.screenshot(into("fill"));
});

test("a rung's working, in US units", async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem("elkstay.units", "us"));
  await open(page, demo);
  await choose(page, 19);
  await rung(page, "Line").click();
  await page.screenshot(into("working-us"));
});

test("an order that cannot happen", async ({ page, job }) => {
  await open(page, job);
  await choose(page, 19);
  for (let step = 0; step < 3; step++) {
    await page.getByRole("button", { name: "Earlier" }).click();
    await expect(picks(page).nth(17 - step)).toContainText("Stem from 14.90");
  }
  await page.screenshot(into("impossible"));
});

test("a field refused", async ({ page, job }) => {
  await open(page, job);
  await page.keyboard.press("3");
  const field = page.getByLabel("Girth of reading 1");
  await field.fill("40 m");
  await field.press("Enter");
  await expect(page.getByRole("alert")).toBeVisible();
  await page.screenshot(into("refused"));
});

test("the phone", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, demo);
  await page.getByTestId("one-pick").getByRole("button", { name: "The next pick" }).click();
  await expect(page.getByTestId("one-pick")).toContainText("2.5 wraps");
  await page.screenshot(into("phone-pick"));
  await page.getByRole("navigation").getByRole("button", { name: "Tree" }).click();
  await page.screenshot(into("phone-tree"));
});

test("the jobs", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Tern Quay American/ })).toBeVisible();
  await page.screenshot(into("jobs"));
});
