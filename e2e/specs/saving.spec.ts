import { OwnServer } from "../support/server";
import { choose, demo, expect, kept, open, saved, test, picks } from "../support/job";

test("a killed server loses nothing, and the screen catches up by itself", async ({ page }) => {
  test.setTimeout(90_000);
  const server = new OwnServer(8439, "killed");
  await server.start(true);
  try {
    await page.goto(`${server.url}/job/${demo}`);
    await expect(page.locator("[data-core=here]")).toBeAttached();
    await choose(page, 19);
    const cut = page.getByTestId("cut");
    await cut.focus();
    await page.keyboard.press("ArrowDown");
    await expect(cut).toHaveAttribute("aria-valuenow", "14.8");
    await saved(page);

    await server.kill();
    await cut.focus();
    await page.keyboard.press("ArrowDown");
    await expect(cut).toHaveAttribute("aria-valuenow", "14.7");
    const mark = page.getByTestId("save-state");
    await expect(mark).toHaveAttribute("data-state", "unreachable");
    await expect(mark).toContainText("Not saved");
    // The core runs in the page: the figures go on.
    await expect(picks(page).nth(18)).toContainText("Stem from 14.70 m");
    await expect(page.getByText("Figures are behind")).toHaveCount(0);

    await server.start();
    await saved(page);
    const head = (await (await page.request.get(`${server.url}/api/jobs/${demo}`)).json()) as {
      revision: number;
      job: { picks: { cut_m: number }[] };
    };
    expect(head.job.picks[18]?.cut_m).toBe(14.7);
    expect(head.revision).toBe(3);

    // Closed while the server is down: the work waits on this device.
    await server.kill();
    await cut.focus();
    await page.keyboard.press("ArrowDown");
    await expect(mark).toHaveAttribute("data-state", "unreachable");
    await page.goto("about:blank");
    await server.start();
    await page.goto(`${server.url}/job/${demo}`);
    await choose(page, 19);
    await expect(cut).toHaveAttribute("aria-valuenow", "14.6");
    await saved(page);
  } finally {
    await server.stop();
  }
});

test("a save whose answer is lost is kept once", async ({ page, job }) => {
  await page.route("**/live", (route) => route.abort());
  await open(page, job);
  await choose(page, 19);
  await saved(page);
  const cut = page.getByTestId("cut");
  let lost = 0;
  await page.route(`**/api/jobs/${job}`, async (route) => {
    if (route.request().method() !== "PUT" || lost > 0) return route.continue();
    lost++;
    await route.fetch(); // the server keeps it
    await route.abort(); // the page never hears
  });
  await cut.focus();
  await page.keyboard.press("ArrowDown");
  await expect(page.getByTestId("save-state")).toHaveAttribute("data-state", "unreachable");
  await page.keyboard.press("ArrowDown");
  await saved(page);
  const head = await kept(page, job);
  expect(lost).toBe(1);
  expect(head.revision).toBe(3);
  expect(head.job.picks[18]?.cut_m).toBe(14.7);
});
