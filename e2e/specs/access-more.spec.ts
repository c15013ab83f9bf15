import { expectNoSeriousViolations } from "../support/access";
import { choose, expect, lock, open, test } from "../support/job";

// Apart from the rest, so that two workers share the long looks at every page.
for (const theme of ["daylight", "dusk"]) {
  test.describe(theme, () => {
    test.beforeEach(async ({ page }) => {
      await page.addInitScript((name) => localStorage.setItem("elkstay.theme", name), theme);
    });

    test("pulling over, whole trees, and the bench", async ({ page }) => {
      test.setTimeout(300_000);
      await open(page, lock);
      await choose(page, 1);
      await expect(page.getByTestId("trace").getByRole("img")).toBeVisible();
      await page.keyboard.press("2");
      await expect(page.getByTestId("stump").first()).toBeVisible();
      await expectNoSeriousViolations(page);
      await page.keyboard.press("u");
      await expectNoSeriousViolations(page);
      await page.keyboard.press("p");
      await expect(page.getByTestId("rose-said")).toContainText("It can go");
      await expectNoSeriousViolations(page);
      await page.keyboard.press("w");
      await expect(page.getByTestId("whole-trees").getByRole("status")).toBeVisible();
      await expectNoSeriousViolations(page);
      await page.goto(`/job/${lock}/ground`);
      await expect(page.getByTestId("log-view").getByRole("group")).toBeVisible();
      await page.getByRole("group", { name: "to the landing" }).getByRole("button").first().click();
      await page
        .getByRole("group", { name: "marsh tipper", exact: true })
        .getByRole("button")
        .first()
        .click();
      await page.getByText("What counts here").click();
      await expectNoSeriousViolations(page);
      await page.goto("/bench?sum=bind");
      await expect(page.getByTestId("picture")).toBeVisible();
      await page.getByRole("button", { name: "Over a range" }).click();
      await expect(page.getByTestId("sweep")).toBeVisible();
      await expectNoSeriousViolations(page);
      await page.goto("/bench/weights");
      await expect(page.getByTestId("weights")).toBeVisible();
      await expectNoSeriousViolations(page);
    });
  });
}
