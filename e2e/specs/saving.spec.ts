import { OwnServer } from "../support/server";
import { demo, expect, kept, open, saved, test } from "../support/job";

test("a killed server loses nothing, and the screen catches up by itself", async ({ page }) => {
  test.setTimeout(90_000);
  const server = new OwnServer(8432, "killed");
  await server.start(true);
  try {
    await page.goto(`${server.url}/job/${demo}`);
    await saved(page);
    const cut = page.getByTestId("cut-whole");
    await page.getByRole("button", { name: "Cut at height: less" }).click();
    await expect(cut).toHaveAttribute("aria-valuenow", "14.6");
    await saved(page);

    await server.kill();
    await cut.focus();
    await page.keyboard.press("ArrowDown");
    await expect(cut).toHaveAttribute("aria-valuenow", "14.5");
    const mark = page.getByTestId("save-state");
    await expect(mark).toHaveAttribute("data-state", "unreachable");
    await expect(mark).toContainText("Not saved");
    await expect(page.getByText("Figures are behind")).toBeVisible();

    await server.start();
    await saved(page);
    await expect(page.getByText("Figures are behind")).toHaveCount(0);
    const head = (await (await page.request.get(`${server.url}/api/jobs/${demo}`)).json()) as {
      revision: number;
      job: { cut: { at_m: number } };
    };
    expect(head.job.cut.at_m).toBe(14.5);
    expect(head.revision).toBe(3);

    // Closed while the server is down: the work waits on this device.
    await server.kill();
    await cut.focus();
    await page.keyboard.press("ArrowDown");
    await expect(mark).toHaveAttribute("data-state", "unreachable");
    await page.goto("about:blank");
    await server.start();
    await page.goto(`${server.url}/job/${demo}`);
    await expect(cut).toHaveAttribute("aria-valuenow", "14.4");
    await saved(page);
  } finally {
    await server.stop();
  }
});

test("a save whose answer is lost is kept once", async ({ page, job }) => {
  await open(page, job);
  await saved(page);
  let lost = 0;
  await page.route(`**/api/jobs/${job}`, async (route) => {
    if (route.request().method() !== "PUT" || lost > 0) return route.continue();
    lost++;
    await route.fetch(); // the server keeps it
    await route.abort(); // the page never hears
  });
  await page.getByRole("button", { name: "Cut at height: less" }).click();
  await expect(page.getByTestId("save-state")).toHaveAttribute("data-state", "unreachable");
  await page.getByRole("button", { name: "Cut at height: less" }).click();
  await saved(page);
  const head = await kept(page, job);
  expect(lost).toBe(1);
  expect(head.revision).toBe(3);
  expect(head.job.cut.at_m).toBe(14.5);
});

for (const [choice, mine] of [
  ["Save mine on top", true],
  ["Take theirs", false],
  ["Keep both", false],
] as const) {
  test(`changed on both sides: ${choice.toLowerCase()}`, async ({ page, job, context }) => {
    await open(page, job);
    await saved(page);
    const other = await context.newPage();
    await open(other, job);
    await other.getByRole("button", { name: "Cut at height: more" }).click();
    await expect(other.getByTestId("cut-whole")).toHaveAttribute("aria-valuenow", "14.8");
    await saved(other);
    await other.close();

    const cut = page.getByTestId("cut-whole");
    await page.getByRole("button", { name: "Cut at height: less" }).click();
    await expect(page.getByRole("alert").filter({ hasText: "saved elsewhere" })).toBeVisible();
    await expect(cut).toHaveAttribute("aria-valuenow", "14.6");
    await page.getByRole("button", { name: choice }).click();
    await saved(page);
    await expect(cut).toHaveAttribute("aria-valuenow", mine ? "14.6" : "14.8");
    const head = await kept(page, job);
    expect(head.job.cut.at_m).toBe(mine ? 14.6 : 14.8);
    if (choice === "Take theirs") {
      await page.getByRole("button", { name: "Undo" }).click();
      await expect(cut).toHaveAttribute("aria-valuenow", "14.6");
    }
    if (choice === "Keep both") {
      await page.goto("/");
      await expect(page.getByRole("link", { name: /^Tern Quay, copy \(mine\)/ })).toBeVisible();
    }
  });
}
