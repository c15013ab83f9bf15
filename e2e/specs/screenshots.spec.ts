import { choose, demo, expect, lock, open, picks, second, test } from "../support/job";
import { alike, picture } from "../support/picture";
import { PNG } from "pngjs";

// Pictures of each main view, from the demo.

// Before any spec has made a copy of a job.
test("the jobs", async ({ page }) => {
  await page.goto("/");
  await expect(page.getByRole("link", { name: /^Tern Quay .*American/ })).toBeVisible();
  await picture(page, "jobs");
});

test("the policy", async ({ page }) => {
  await page.goto("/policy");
  await page.getByLabel("Ropes").fill("12");
  await page.getByLabel("What one person holds on the line").fill("0.2 kN");
  await page.getByLabel("What one person holds on the line").press("Enter");
  await expect(page.getByText(/open jobs change/)).toBeVisible();
  await picture(page, "policy");
});

for (const theme of ["daylight", "dusk"] as const) {
  test(`the board, ${theme}`, async ({ page }) => {
    await page.addInitScript((name) => localStorage.setItem("elkstay.theme", name), theme);
    await open(page, demo);
    await choose(page, theme === "dusk" ? 5 : 19);
    await expect(page.getByTestId("trace").getByRole("img")).toBeVisible();
    await page.getByRole("slider", { name: "Moment of the film" }).fill("1.2");
    await picture(page, `board-${theme}`);
  });
}

test("a pick by crane, and what if", async ({ page }) => {
  await open(page, second);
  await choose(page, 4);
  await page.keyboard.press("2");
  await page.getByTestId("what-if").getByRole("button", { name: "Ask" }).click();
  await expect(page.getByTestId("answer")).toBeVisible();
  await picture(page, "pick");
});

test("on the ground", async ({ page }) => {
  await page.goto(`/job/${lock}/ground`);
  await expect(page.getByTestId("log-view").getByRole("group")).toBeVisible();
  await expect(page.getByTestId("said").first()).toContainText("load");
  await picture(page, "ground");
});

test("a tree pulled over", async ({ page }) => {
  await open(page, lock);
  await choose(page, 1);
  await expect(page.getByTestId("trace").getByText(/It goes: its tip is down after/)).toBeVisible();
  await page.getByRole("slider", { name: "Moment of the film" }).fill("16");
  await picture(page, "felled");
  await page.keyboard.press("u");
  await expect(page.getByTestId("stump").first()).toBeVisible();
  await picture(page, "stump");
});

test("the bench", async ({ page }) => {
  await page.goto("/bench");
  await page.getByPlaceholder("choker, redirect, how heavy").fill("where do i saw");
  await page.getByPlaceholder("choker, redirect, how heavy").press("Enter");
  await page.getByPlaceholder("choker, redirect, how heavy").fill("");
  await expect(page.getByTestId("picture")).toBeVisible();
  await picture(page, "bench");
});

test("the rose of a fall", async ({ page }) => {
  await open(page, lock);
  await choose(page, 1);
  await page.keyboard.press("p");
  await expect(page.getByTestId("rose-said")).toContainText("It can go");
  await picture(page, "rose");
});

test("the cut card", async ({ page }) => {
  await page.goto(`/job/${lock}/briefing`);
  await picture(page.getByTestId("cut-card").first(), "cut-card");
});

test("the order filled", async ({ page }) => {
  await open(page, demo);
  await page.keyboard.press("f");
  await page.getByLabel("In place of the picks that are not down yet").check();
  await expect(page.getByTestId("fill").getByRole("listitem").first()).toBeVisible();
  await picture(page, "fill");
});

test("a limb carried on two lines, tied and programmed", async ({ page, job }) => {
  await open(page, job);
  await choose(page, 1);
  await page.keyboard.press("2");
  await expect(page.getByTestId("two-lines")).toBeAttached();
  await expect(page.getByRole("slider", { name: "Moment of the film" })).toBeVisible();
  await page.getByText("Line at the butt").scrollIntoViewIfNeeded();
  await picture(page, "carried");
});

test("the weight table", async ({ page }) => {
  await page.goto("/bench/weights");
  await page.getByLabel("Mark what is over").fill("400 kg");
  await page.getByLabel("Mark what is over").press("Enter");
  await expect(page.getByTestId("weights")).toContainText("×");
  await picture(page, "weights");
});

test("the phone", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, demo);
  await page.getByTestId("one-pick").getByRole("button", { name: "The next pick" }).click();
  await expect(page.getByTestId("one-pick")).toContainText("3.5 wraps");
  await picture(page, "phone-pick");
  await page.getByRole("navigation").getByRole("button", { name: "Tree" }).click();
});

test("the locker", async ({ page }) => {
  await page.goto("/locker?item=loft-sling");
  await expect(page.getByRole("form", { name: "Loft sling" })).toBeVisible();
  await page.getByLabel("Standing").selectOption("barred");
  await expect(page.getByRole("list", { name: "Items" }).getByRole("listitem")).toHaveCount(2);
  await page.getByLabel("Standing").selectOption("");
  await page.getByLabel("Kind").first().selectOption("sling");
  await picture(page, "locker");
});

test("the words", async ({ page }) => {
  await page.goto("/words");
  await expect(
    page.getByRole("list", { name: "Words" }).getByRole("listitem").first(),
  ).toBeVisible();
  await picture(page, "words");
});

test("the survey, on a phone", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`/job/${demo}/survey`);
  await page.getByRole("button", { name: /^Defects/ }).click();
  await expect(page.getByText("Sound shell round the cavity")).toBeVisible();
  await picture(page, "phone-survey");
});

test("the briefing", async ({ page }) => {
  await page.goto(`/job/${demo}/briefing`);
  for (const name of [/^Plan of the site/, /^The tree with its/]) {
    await expect(page.getByRole("img", { name })).toHaveJSProperty("complete", true);
  }
  await expect(page.getByRole("table", { name: "Picks" })).toBeVisible();
  await picture(page, "briefing");
});

test("two pictures differ where the eye sees it", () => {
  const plain = new PNG({ width: 100, height: 100, fill: true });
  plain.data.fill(200);
  const faint = new PNG({ width: 100, height: 100, fill: true });
  faint.data.set(plain.data);
  faint.data.fill(203, 0, 4000);
  const drawn = new PNG({ width: 100, height: 100, fill: true });
  drawn.data.set(plain.data);
  drawn.data.fill(20, 0, 400);
  const [a, b, c] = [plain, faint, drawn].map((one) => PNG.sync.write(one)) as [
    Buffer,
    Buffer,
    Buffer,
  ];
  expect(alike(a, b)).toBe(true);
  expect(alike(a, c)).toBe(false);
});
