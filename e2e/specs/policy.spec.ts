import { choose, demo, expect, open, rung, test } from "../support/job";

test.afterEach(async ({ request }) => {
  // The crew's rules are for every spec: back to the defaults.
  const head = (await (await request.get("/api/policy")).json()) as { number: number };
  const put = await request.put("/api/policy", {
    headers: { "If-Match": `"${head.number}"` },
    data: { design_factors: {} },
  });
  expect(put.ok()).toBe(true);
});

test("every rule says where it stands by default and why", async ({ page }) => {
  await page.goto("/policy");
  const rules = page.locator("[data-rule]");
  await expect(rules).toHaveCount(34);
  for (const rule of await rules.all()) await expect(rule).toContainText("This is the default.");
  await expect(page.getByLabel("Ropes")).toHaveValue("10");
  await expect(page.getByRole("button", { name: "Save the policy" })).toBeDisabled();
});

test("a change says what it does to the open jobs before it is saved, and does it then", async ({
  page,
}) => {
  await page.goto("/policy");
  const job = page.locator(`[data-job="${demo}"]`);
  await expect(job).toContainText("close 99 %");
  await page.getByLabel("What one person holds on the line").fill("0.15");
  await page.getByLabel("What one person holds on the line").press("Enter");
  await expect(page.getByRole("status").first()).toContainText("open jobs change");
  // 0.23 kN in the hand as a limb comes onto two points with a quarter less friction, of 0.15.
  await expect(job).toContainText(/over\s+153 %/);
  await expect(job.getByRole("listitem").first()).toContainText(/→ over/);
  await page.getByRole("button", { name: "Save the policy" }).click();
  await expect(page.getByText("every job counts by these rules now")).toBeVisible();
  await open(page, demo);
  // The first of the gravest, by name.
  await expect(page.getByTestId("state")).toContainText(/pick \d+: hand 1\d\d %/);
});

test("an open board follows the crew's rules as they change", async ({ page, context, job }) => {
  await open(page, job);
  await choose(page, 19);
  await expect(rung(page, "Hand")).toContainText("limit 0.25 kN");
  const other = await context.newPage();
  await other.goto("/policy");
  await other.getByLabel("What one person holds on the line").fill("0.5 kN");
  await other.getByLabel("What one person holds on the line").press("Enter");
  await other.getByRole("button", { name: "Save the policy" }).click();
  await expect(other.getByText("every job counts by these rules now")).toBeVisible();
  await expect(rung(page, "Hand")).toContainText("limit 0.50 kN");
});

test("the second school holds the load at rest and the peak apart", async ({ page, job }) => {
  await page.goto("/policy");
  await page.getByLabel("Which limit counts in a shock").selectOption("static-within-working-load");
  await page.getByRole("button", { name: "Save the policy" }).click();
  await expect(page.getByText("every job counts by these rules now")).toBeVisible();
  await open(page, job);
  await choose(page, 19);
  await rung(page, "Block").click();
  // 40 % of 150 kN; at rest the marked 30.
  await expect(page.getByTestId("decided")).toContainText(
    /share of the strength: 40 % of 150 kN breaking.*at rest at most 30\.0 kN/s,
  );
});

test("what was changed before is told, and taken back by a press", async ({ page }) => {
  await page.goto("/policy");
  for (const held of ["0.3 kN", "0.35 kN"]) {
    await page.getByLabel("What one person holds on the line").fill(held);
    await page.getByLabel("What one person holds on the line").press("Enter");
    await page.getByRole("button", { name: "Save the policy" }).click();
    await expect(page.getByText("every job counts by these rules now")).toBeVisible();
    await expect(page.getByRole("button", { name: "Save the policy" })).toBeDisabled();
  }
  const last = page.locator("[data-save]").first();
  await expect(last).toContainText(/What one person holds on the line: 0\.30 kN → 0\.35 kN/);
  await last.getByRole("button", { name: /^Take it back/ }).click();
  await expect(page.getByLabel("What one person holds on the line")).toHaveValue(/^0\.30? kN$/);
  await page.getByRole("button", { name: "Save the policy" }).click();
  await expect(page.locator("[data-save]").first()).toContainText(/0\.35 kN → 0\.30 kN/);
});

test("a rule out of its range is refused by name, and theirs are not overwritten", async ({
  page,
  request,
}) => {
  await page.goto("/policy");
  await page.getByLabel("Close begins at, %").fill("800");
  await page.getByLabel("Close begins at, %").press("Enter");
  await expect(page.getByRole("alert")).toContainText("at most 100");
  await expect(page.getByRole("button", { name: "Save the policy" })).toBeDisabled();
  await page.getByLabel("Close begins at, %").fill("70");
  await page.getByLabel("Close begins at, %").press("Enter");
  const head = (await (await request.get("/api/policy")).json()) as { number: number };
  await request.put("/api/policy", {
    headers: { "If-Match": `"${head.number}"` },
    data: { design_factors: { rope: 7 } },
  });
  await page.getByRole("button", { name: "Save the policy" }).click();
  await expect(page.getByRole("alert")).toContainText("changed by somebody else");
});
