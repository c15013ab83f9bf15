import AxeBuilder from "@axe-core/playwright";
import { expect, type Page } from "@playwright/test";

/** Nothing on the page that somebody could not see, hear or reach. */
export async function expectNoSeriousViolations(page: Page): Promise<void> {
  // A colour on its way to another is none that anybody reads.
  await page.evaluate(() =>
    Promise.race([
      Promise.allSettled(document.getAnimations().map((one) => one.finished)),
      new Promise((done) => setTimeout(done, 1000)),
    ]),
  );
  const { violations, passes } = await new AxeBuilder({ page })
    .withTags(["wcag2a", "wcag2aa", "wcag21a", "wcag21aa", "wcag22aa"])
    .analyze();
  expect(passes.length).toBeGreaterThan(10);
  const grave = violations.filter((v) => v.impact === "serious" || v.impact === "critical");
  expect(grave.map((v) => `${v.id}: ${v.nodes.map((n) => n.target.join(" ")).join(", ")}`)).toEqual(
    [],
  );
}
