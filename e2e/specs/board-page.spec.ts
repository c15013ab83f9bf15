import {
  assess,
  choose,
  expect,
  expectCoresFigures,
  kept,
  open,
  rung,
  saved,
  test,
  picks,
} from "../support/job";

// The demo's 19th pick is the top section of its stem, lowered past its block.
const top = 19;
const topId = "p19";

test("both unit systems show the same job", async ({ page, job }) => {
  await open(page, job);
  await choose(page, top);
  await saved(page);
  const a = assess((await kept(page, job)).job, topId);
  await page.getByRole("button", { name: /the units/ }).click();
  await expect(page.getByTestId("weight")).toContainText(
    `${Math.round((a.detail?.piece?.mass_kg.likely ?? 0) / 0.45359237)} lb`,
  );
  await expect(page.getByTestId("state")).toContainText("lb (");
  await expect(picks(page).nth(top - 1)).toContainText("ft");
  await page.reload();
  await expect(page.getByTestId("state")).toContainText("lb (");
  expect((await kept(page, job)).revision).toBe(1);
});

test("an empty page becomes a small job, by keyboard alone", async ({ page }) => {
  await page.goto("/");
  await page.getByLabel("Name of the new job").focus();
  await page.keyboard.type("Heron Spinney");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "First, the tree" })).toBeVisible();
  await expect(page.getByText("Choose the species.").first()).toBeVisible();
  await page.getByLabel("Species").focus();
  await page.keyboard.type("White oak");
  await expect(page.getByText("Give a tape reading or two").first()).toBeVisible();
  for (const [i, girth] of ["220 cm", "70 in", "4ft 2in"].entries()) {
    await page.getByRole("button", { name: "Add a reading" }).focus();
    await page.keyboard.press("Enter");
    const field = page.getByLabel(`Girth of reading ${i + 1}`);
    await field.focus();
    await page.keyboard.press("Control+a");
    await page.keyboard.type(girth);
    await page.keyboard.press("Enter");
    await expect(field).toHaveValue(girth);
  }
  await page.getByLabel("Height of the top").focus();
  await page.keyboard.type("14 m");
  await page.keyboard.press("Enter");
  await expect(page.getByTestId("stem")).toBeVisible();
  await page.getByRole("tab", { name: "Stem" }).focus();
  await page.keyboard.press("ArrowRight");
  await expect(page.getByRole("tab", { name: "Limbs" })).toBeFocused();
  await page.getByRole("button", { name: "Add a limb" }).focus();
  await page.keyboard.press("Enter");
  await expect(page.locator('[data-testid^="limb-"]')).toBeAttached();
  await page.getByRole("tab", { name: "Limbs" }).focus();
  await page.keyboard.press("ArrowRight");
  await page.getByRole("tabpanel", { name: "Rigs" }).getByLabel("Or a typical rope").focus();
  await page.keyboard.type("Typical 16 mm double");
  await page.getByRole("tab", { name: "Rigs" }).focus();
  await page.keyboard.press("a");
  await expect(picks(page)).toHaveCount(1);
  await page.keyboard.press("a");
  await expect(picks(page)).toHaveCount(2);
  await expect(picks(page).nth(0)).toContainText("lowered from above");
  await expect(picks(page).nth(1)).toContainText("Stem from");
  await page.keyboard.press("1");
  await expect(rung(page, "Line")).toBeVisible();
  await expect(rung(page, "Block")).toContainText("not known");
  await page.keyboard.press("c");
  await page.keyboard.press("ArrowUp");
  await saved(page);
  await page.keyboard.press("Escape");
  const id = new URL(page.url()).pathname.split("/").at(-1) ?? "";
  const planned = (await kept(page, id)).job.picks;
  expect(planned.map((p) => p.what)).toEqual(["limb", "stem"]);
  await expectCoresFigures(page, id, planned[1]?.id ?? "");
});

test("on a phone: one pick at a time, done and weighed", async ({ page, job }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await open(page, job);
  const one = page.getByTestId("one-pick");
  await expect(one).toContainText("2 of 25");
  await one.getByRole("button", { name: "The next pick" }).click();
  await expect(one).toContainText("Slip low limb");
  await expect(one).toContainText("3.5 wraps");
  await expect(one).toContainText("no run");
  const before = assess((await kept(page, job)).job);
  await one.getByRole("button", { name: "Weighed" }).click();
  // A slip on the scale is asked about.
  await one.getByLabel(/The scale says/).fill("1900");
  await one.getByRole("button", { name: "Keep" }).click();
  await expect(one.getByRole("alert")).toContainText("It was reckoned at");
  await one.getByLabel(/The scale says/).fill("190");
  await one.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByTestId("pick-weight")).toHaveText("190 kg");
  // Tapped twice it is one order: the piece is down, and stays in hand.
  await one.getByRole("button", { name: "Done" }).dblclick();
  await expect(one).toContainText("3 is down.");
  await expect(one).toContainText("3 of 25");
  await page.waitForTimeout(800);
  await one.getByRole("button", { name: "Next", exact: true }).click();
  await expect(one).toContainText("4 of 25");
  await saved(page);
  const after = (await kept(page, job)).job;
  const [third, fourth] = [after.picks[2]?.id, after.picks[3]?.id];
  const of = (pick: string | undefined) => (after.facts ?? []).filter((f) => f.pick === pick);
  expect(of(third).map((f) => [f.what, f.kg])).toEqual([
    ["weighed", 190],
    ["down", undefined],
  ]);
  expect(of(fourth)).toEqual([]);
  // What the scale said moves what is like it.
  const likely = assess(after).picks[3]?.mass_kg?.likely ?? 0;
  expect(likely).toBeGreaterThan(before.picks[3]?.mass_kg?.likely ?? 0);
  await expect(page.getByTestId("pick-weight")).toHaveText(`${likely.toFixed(0)} kg`);
  await page.context().setOffline(true);
  await one.getByRole("button", { name: "The next pick" }).click();
  await expect(one).toContainText("5 of 25");
  await expect(page.getByText("Figures are behind")).toHaveCount(0);
  await page.context().setOffline(false);
});

test("a word says what it means where it stands, in the list of words and by name", async ({
  page,
  job,
}) => {
  await open(page, job);
  await choose(page, top);
  const ladder = page.getByRole("region", { name: "The load, from the piece to the hand" });
  await rung(page, "Spar").click();
  await ladder.getByRole("button", { name: "What “spar” means" }).click();
  await expect(ladder.getByRole("note")).toContainText("It bends under every catch");
  await page.keyboard.press("Control+k");
  await page.getByRole("combobox").fill("holding wood");
  await page.getByRole("option", { name: /^hinge .*what it means/ }).click();
  await expect(page).toHaveURL(/\/words\?find=hinge/);
  await expect(page.getByRole("list", { name: "Words" })).toContainText("It steers the piece");
  await page.getByPlaceholder("Find a word").fill("xyzzy");
  await expect(page.getByRole("main")).toContainText("No word has that in it");
});
