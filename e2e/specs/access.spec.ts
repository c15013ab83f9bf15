import { expectNoSeriousViolations } from "../support/access";
import { choose, expect, open, rung, test } from "../support/job";

for (const theme of ["daylight", "dusk"]) {
  test.describe(theme, () => {
    test.beforeEach(async ({ page }) => {
      await page.addInitScript((name) => localStorage.setItem("elkstay.theme", name), theme);
    });

    test("the jobs", async ({ page }) => {
      await page.goto("/");
      await expect(page.getByRole("link", { name: /^Tern Quay .*American/ })).toBeVisible();
      await expectNoSeriousViolations(page);
    });

    test("the board, each side, a working and an error", async ({ page, job }) => {
      // Each look at every part of the page takes seconds, and there are many.
      test.setTimeout(300_000);
      await open(page, job);
      await choose(page, 19);
      await expect(page.getByTestId("trace").getByRole("img")).toBeVisible();
      await rung(page, "Hand").click();
      await expectNoSeriousViolations(page);
      await page.keyboard.press("2");
      await page.getByLabel("Cut at height", { exact: true }).fill("high");
      await page.getByLabel("Cut at height", { exact: true }).press("Enter");
      await expect(page.getByRole("alert")).toBeVisible();
      await expectNoSeriousViolations(page);
      await page.getByRole("button", { name: "Setup" }).click();
      for (const tab of ["Stem", "Limbs", "Rigs", "Gear", "Site", "Limits"]) {
        await page.getByRole("tab", { name: tab }).click();
        await expectNoSeriousViolations(page);
      }
      await page.getByRole("button", { name: "Keys" }).click();
      await page.getByRole("button", { name: "Everything by name" }).click();
      await expect(page.getByRole("dialog")).toBeVisible();
      await expectNoSeriousViolations(page);
      await page.keyboard.press("Escape");
      await page.getByRole("button", { name: "Fill", exact: true }).click();
      await page.getByLabel("In place of the picks that are not down yet").check();
      await expect(page.getByTestId("fill").getByRole("listitem").first()).toBeVisible();
      await expectNoSeriousViolations(page);
    });

    test("locker, import, policy and briefing", async ({ page, job }) => {
      await page.goto("/locker?item=loft-sling");
      await expect(page.getByRole("form", { name: "Loft sling" })).toBeVisible();
      await expect(page.getByRole("list", { name: "Items" })).toBeVisible();
      await expectNoSeriousViolations(page);
      await page.goto("/locker?item=lane-crane");
      await expect(page.getByRole("table", { name: "Load chart" })).toBeVisible();
      await expectNoSeriousViolations(page);
      await page.goto("/locker/import");
      await page.locator("input[type=file]").setInputFiles({
        name: "gear.csv",
        mimeType: "text/csv",
        buffer: Buffer.from("kind,name,length_m\nsling,A sling,3\nblock,B,4\nrope,C,\n"),
      });
      await expect(page.locator("tr[data-does=wrong]").first()).toBeVisible();
      await expectNoSeriousViolations(page);
      await page.goto("/policy");
      await page.getByLabel("Close begins at, %").fill("30");
      await page.getByLabel("Close begins at, %").press("Enter");
      await expect(page.getByText(/open jobs change/)).toBeVisible();
      await expectNoSeriousViolations(page);
      await page.goto(`/job/${job}/briefing`);
      await expect(page.getByTestId("paper")).toBeVisible();
      await expectNoSeriousViolations(page);
    });

    test("the survey on a phone", async ({ page, job }) => {
      await page.setViewportSize({ width: 390, height: 844 });
      await page.goto(`/job/${job}/survey`);
      for (const step of [
        "Species",
        "Height",
        "Girths",
        "Lean",
        "Limbs",
        "Defects",
        "Around it",
        "Photos",
        "Done",
      ]) {
        await page
          .getByRole("button", { name: new RegExp(`^${step}`) })
          .first()
          .click();
        await expect(page.getByRole("heading", { level: 1, name: step })).toBeVisible();
        await expectNoSeriousViolations(page);
      }
    });

    test("the board on a phone", async ({ page, job }) => {
      await page.setViewportSize({ width: 390, height: 844 });
      await open(page, job);
      for (const view of ["Pick", "Tree", "Order", "Setup"]) {
        await page.getByRole("navigation").getByRole("button", { name: view }).click();
        await expectNoSeriousViolations(page);
      }
    });
  });
}

for (const [width, height] of [
  [1280, 800],
  [390, 844],
] as const) {
  test(`at ${width}x${height} the page itself does not scroll`, async ({ page, job }) => {
    await page.setViewportSize({ width, height });
    await open(page, job);
    const over = await page.evaluate(() => {
      const root = document.documentElement;
      return [root.scrollWidth - root.clientWidth, root.scrollHeight - root.clientHeight];
    });
    expect(over).toEqual([0, 0]);
    // What a hand in a glove must hit.
    const small = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>("button, a, select, input:not(.sr-only)")]
        .filter(
          (e) => e.checkVisibility() && !e.matches("[type=radio], [type=checkbox], [type=range]"),
        )
        .map((e) => ({
          name: e.getAttribute("aria-label") ?? e.textContent,
          box: e.getBoundingClientRect(),
        }))
        .filter(({ box }) => box.height < 43.5 || box.width < 43.5)
        .map(({ name, box }) => `${name?.trim()}: ${box.width}x${box.height}`),
    );
    expect(small).toEqual([]);
  });
}
