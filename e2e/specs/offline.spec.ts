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

test("reloaded without a signal, what was saved is there as it was saved", async ({
  page,
  job,
  context,
}) => {
  await open(page, job);
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await page.reload();
  await expect(page.locator("[data-core=here]")).toBeAttached();
  await choose(page, 19);
  await page.getByTestId("cut").focus();
  await page.keyboard.press("ArrowDown");
  await saved(page);
  await context.setOffline(true);
  await page.reload();
  await expect(picks(page).nth(18)).toContainText("Stem from 14.80 m");
  await saved(page);
  await context.setOffline(false);
});

test("of two tabs of one browser one is written in, and the list says what waits", async ({
  page,
  job,
  context,
}) => {
  await open(page, job);
  const other = await context.newPage();
  await open(other, job);
  await expect(other.getByText("in hand in another tab")).toBeVisible();
  await choose(page, 19);
  await page.getByTestId("cut").focus();
  await page.keyboard.press("ArrowDown");
  await saved(page);
  await expect(picks(other).nth(18)).toContainText("Stem from 14.80 m");
  // Here nothing is changed until it is taken over.
  await choose(other, 19);
  await other.getByTestId("cut").focus();
  await other.keyboard.press("ArrowDown");
  await expect(picks(other).nth(18)).toContainText("Stem from 14.80 m");
  await other.getByRole("button", { name: "Change it here" }).click();
  await expect(page.getByText("in hand in another tab")).toBeVisible();
  await other.getByTestId("cut").focus();
  await other.keyboard.press("ArrowDown");
  await saved(other);
  await expect(picks(page).nth(18)).toContainText("Stem from 14.70 m");
  // A tab that closes too early leaves its edit on the device: the list says so, and sends it.
  await page.close();
  await other.route(`**/api/jobs/${job}`, (route) =>
    route.request().method() === "PUT" ? route.abort() : route.continue(),
  );
  await other.getByTestId("cut").focus();
  await other.keyboard.press("ArrowDown");
  await expect(other.getByTestId("save-state")).toHaveAttribute("data-state", "unreachable");
  await other.goto("/");
  await expect(other.getByTestId("leftover")).toContainText("1 change waits on this device");
  await other.unroute(`**/api/jobs/${job}`);
  await other.reload();
  await expect(other.getByTestId("leftover")).toHaveCount(0);
  expect((await kept(other, job)).job.picks[18]?.cut_m).toBe(14.6);
});

test("what waits of a job that the server has no more becomes a job of its own, or is let go", async ({
  page,
  job,
}) => {
  const document = (await kept(page, job)).job;
  await page.goto("/");
  await expect(page.getByRole("list", { name: "Jobs" })).toBeVisible();
  const names = [`Lost reach ${Date.now()}`, `Lost bend ${Date.now()}`];
  await page.evaluate(
    ([document, names]) => {
      for (const name of names) {
        const pending = { base: 3, key: crypto.randomUUID(), job: { ...document, name } };
        const left = { doubt: null, pending, waiting: 2, since: Date.now() };
        localStorage.setItem(`elkstay.unsaved.${crypto.randomUUID()}`, JSON.stringify(left));
      }
    },
    [document, names] as const,
  );
  await page.reload();
  const first = page.getByTestId("leftover").filter({ hasText: names[0] });
  await expect(first).toContainText("The server has no such job any more.");
  await first.getByRole("button", { name: "Keep it as a new job" }).click();
  await expect(
    page
      .getByRole("list", { name: "Jobs" })
      .getByRole("link", { name: new RegExp(`^${names[0]}`) }),
  ).toBeVisible();
  const second = page.getByTestId("leftover").filter({ hasText: names[1] });
  await second.getByRole("button", { name: "Let it go" }).click();
  await second.getByRole("button", { name: "Forget it for good" }).click();
  await expect(page.getByTestId("leftover")).toHaveCount(0);
});
