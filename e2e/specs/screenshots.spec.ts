import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { demo, expect, open, rung, test } from "../support/job";

// Pictures of each main view, from the demo. `make screenshots` writes them to
// docs/screenshots; in a test run they only prove that every view draws.
const folder = process.env.ELKSTAY_SCREENSHOTS ?? "test-results/screenshots";
mkdirSync(folder, { recursive: true });
const into = (name: string) => ({
  path: join(folder, `${name}.png`),
  animations: "disabled" as const,
});

for (const theme of ["daylight", "dusk"] as const) {
  test(`the bench, ${theme}`, async ({ page }) => {
    await page.addInitScript((name) => localStorage.setItem("elkstay.theme", name), theme);
    await open(page, demo);
    await expect(page.getByTestId("cut-close")).toBeVisible();
    await page.screenshot(into(`bench-${theme}`));
  });
}

test("a rung's working, in US units", async ({ page }) => {
  await page.addInitScript(() => localStorage.setItem("elkstay.units", "us"));
  await open(page, demo);
  await page.getByRole("tab", { name: "Hold" }).click();
  await rung(page, "Line").click();
  await page.screenshot(into("working-us"));
});

test("a field refused", async ({ page, job }) => {
  await open(page, job);
  const field = page.getByLabel("Girth of reading 1");
  await field.fill("40 m");
  await field.press("Enter");
  await expect(page.getByRole("alert")).toBeVisible();
  await page.screenshot(into("refused"));
});

test("the phone", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, demo);
  await expect(page.getByTestId("cut-close")).toBeVisible();
  await page.screenshot(into("phone-piece"));
  await page.getByRole("navigation").getByRole("button", { name: "Loads" }).click();
  await page.screenshot(into("phone-loads"));
});

test("the jobs", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Tern Quay American/ })).toBeVisible();
  await page.screenshot(into("jobs"));
});
