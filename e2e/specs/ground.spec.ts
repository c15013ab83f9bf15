import { expect, kept, lock, saved, test, type JobHead } from "../support/job";

/** A copy of the demo's third job, and what the server says of its wood. */
async function reeds(page: import("@playwright/test").Page): Promise<string> {
  const made = await page.request.post(`/api/jobs/${lock}/copy`);
  return ((await made.json()) as JobHead).id;
}

interface Lies {
  said: string;
  pieces: { id: string; said: string; parts: { logs: unknown[]; cuts: { said: string }[] }[] }[];
  moves: { said: string; need_kn: number; verdict: string }[];
  trucks: { said: string; logs_left?: number; gone_kg: number }[];
}

async function lies(page: import("@playwright/test").Page, id: string): Promise<Lies> {
  const { job } = (await kept(page, id)) as unknown as { job: unknown };
  const answer = await page.request.post("/api/ground", { data: job ?? (await kept(page, id)) });
  expect(answer.ok()).toBe(true);
  return (await answer.json()) as Lies;
}

test("a stem that lies is sawn: supports by keyboard, lengths, for hands", async ({ page }) => {
  const id = await reeds(page);
  await page.goto(`/job/${id}/ground`);
  const was = await lies(page, id);
  await expect(page.getByTestId("ground-said")).toHaveText(was.said);
  await expect(page.getByTestId("sawn-said")).toHaveText(was.pieces[0]?.said ?? "");
  const cuts = page.getByTestId("cuts").getByRole("listitem");
  await expect(cuts.first()).toHaveText(was.pieces[0]?.parts[0]?.cuts[0]?.said ?? "");

  // The outer support moves out under the cut: other cuts are pressed from above.
  const outer = page.getByRole("slider", { name: "What carries it further out" });
  await outer.focus();
  for (let i = 0; i < 12; i++) await page.keyboard.press("ArrowRight");
  await expect(outer).toHaveAttribute("aria-valuenow", "10.9");
  await expect
    .poll(async () => (await lies(page, id)).pieces[0]?.parts[0]?.cuts)
    .not.toEqual(was.pieces[0]?.parts[0]?.cuts);
  const now = await lies(page, id);
  await expect(cuts.first()).toHaveText(now.pieces[0]?.parts[0]?.cuts[0]?.said ?? "");

  // Nobody lifts more than a hand's worth; what lies flat is told so.
  await page.getByRole("button", { name: "For hands" }).click();
  await page.getByRole("button", { name: "flat on the ground" }).click();
  await expect
    .poll(async () => (await lies(page, id)).pieces[0]?.parts[0]?.logs.length)
    .toBeGreaterThan(20);
  await expect(cuts.first()).toContainText("roll it");
  await saved(page);
  const short = await lies(page, id);
  await expect(page.getByTestId("sawn-said")).toHaveText(short.pieces[0]?.said ?? "");
  // A length that is none is refused in words, and what was there stands.
  await page.getByRole("button", { name: "By length" }).click();
  await page.getByLabel("Length", { exact: true }).fill("20 m");
  await page.getByLabel("Length", { exact: true }).press("Enter");
  await expect(page.getByText("a log of 20 m is not sawn here").first()).toBeVisible();
  await page.request.delete(`/api/jobs/${id}`);
});

test("logs are dragged along a way and taken away, and the tally follows", async ({ page }) => {
  const id = await reeds(page);
  await page.goto(`/job/${id}/ground`);
  const way = page.getByRole("group", { name: "to the landing" });
  await expect(way.getByTestId("said")).toHaveText((await lies(page, id)).moves[0]?.said ?? "");
  // Its end by keyboard, its system by a press.
  const end = page.getByRole("slider", { name: "End of to the landing" });
  await end.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press("ArrowUp");
  await way.getByRole("button", { expanded: false }).click();
  await way.getByLabel("System").selectOption("3");
  await saved(page);
  await expect
    .poll(async () => (await way.getByTestId("said").textContent()) ?? "")
    .toContain("through 3 parts");
  await expect
    .poll(async () => (await lies(page, id)).moves[0]?.said)
    .toBe(await way.getByTestId("said").textContent());

  const carrier = page.getByRole("group", { name: "reed carrier", exact: true });
  const before = (await lies(page, id)).trucks[0];
  await expect(carrier.getByTestId("said")).toHaveText(before?.said ?? "");
  await carrier.getByRole("button", { expanded: false }).first().click();
  await carrier.getByLabel("Weighed").fill("1400 kg");
  await carrier.getByLabel("Weighed").press("Enter");
  await carrier.getByRole("button", { name: "Gone", exact: true }).click();
  await expect(carrier.getByTestId("said")).toContainText("It has taken 1,400 kg");
  await expect.poll(async () => (await lies(page, id)).trucks[0]?.gone_kg).toBe(1400);
  const after = (await lies(page, id)).trucks[0];
  expect(after?.logs_left).toBeLessThan(before?.logs_left ?? 0);
  const note = await (await page.request.get(`/api/jobs/${id}/waste.csv`)).text();
  expect(note).toContain("gone,");
  expect(note).toContain("1400.000");
  await page.request.delete(`/api/jobs/${id}`);
});

test("a vehicle and a way of one's own, on a phone", async ({ browser }) => {
  const page = await browser.newPage({ viewport: { width: 390, height: 844 }, hasTouch: true });
  const made = await page.request.post(`/api/jobs/${lock}/copy`);
  const id = ((await made.json()) as JobHead).id;
  await page.goto(`/job/${id}`);
  await page.getByRole("link", { name: "On the ground" }).tap();
  await page.getByRole("button", { name: "Loads" }).tap();
  await page.getByRole("button", { name: "Add a vehicle" }).tap();
  const mine = page.getByRole("group", { name: "vehicle 3", exact: true });
  await mine.getByLabel("May carry").fill("800 kg");
  await mine.getByLabel("May carry").press("Enter");
  await mine.getByLabel("Room").fill("7 yd3");
  await mine.getByLabel("Room").press("Enter");
  await expect(mine.getByTestId("said")).toContainText("loads of logs, full by");
  await page.getByRole("button", { name: "Moving", exact: true }).tap();
  await page.getByRole("button", { name: "Add a way" }).tap();
  const way = page.getByRole("group", { name: "way 3", exact: true });
  await way.getByLabel("Pulled by").selectOption("vehicle");
  await way.getByLabel("Vehicle", { exact: true }).selectOption({ label: "reed carrier" });
  await expect(way.getByTestId("said")).toContainText("reed carrier:");
  await saved(page);
  await page.request.delete(`/api/jobs/${id}`);
  await page.close();
});
