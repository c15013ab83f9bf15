import { choose, expect, kept, open, picks, saved, test } from "../support/job";

test("with no signal the job opens, is worked on, and is saved when it is back", async ({
  page,
  job,
  context,
}) => {
  await open(page, job);
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  // Once more under its eyes: what it fetches now it keeps.
  await page.reload();
  await expect(page.locator("[data-core=here]")).toBeAttached();
  await saved(page);

  await context.setOffline(true);
  await page.reload();
  await expect(page.getByTestId("state")).toContainText("25 picks");
  await expect(page.locator("[data-core=here]")).toBeAttached();
  await choose(page, 19);
  await page.getByTestId("cut").focus();
  await page.keyboard.press("ArrowDown");
  await expect(picks(page).nth(18)).toContainText("Stem from 14.80 m");
  await expect(page.getByTestId("save-state")).toContainText("Not saved");
  await page.reload();
  await expect(picks(page).nth(18)).toContainText("Stem from 14.80 m");

  await context.setOffline(false);
  await saved(page);
  expect((await kept(page, job)).job.picks[18]?.cut_m).toBe(14.8);
});
