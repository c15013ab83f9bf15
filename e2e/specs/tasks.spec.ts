import type { Page } from "@playwright/test";
import { expect, picks, rung, saved, test } from "../support/job";

// The first minute, counted: every press of a key command or a button and every field that is
// filled or chosen is one. docs/tasks.md has these figures.
class Hand {
  count = 0;
  constructor(private readonly page: Page) {}
  async press(name: string | RegExp, role: "button" | "tab" = "button") {
    this.count++;
    await this.page
      .getByRole(role, { name, exact: typeof name === "string" })
      .first()
      .click();
  }
  async key(key: string) {
    this.count++;
    await this.page.keyboard.press(key);
  }
  async enter(label: string, text: string) {
    this.count++;
    await this.page.getByLabel(label).fill(text);
  }
  async choose(label: string, option: string) {
    this.count++;
    await this.page.getByLabel(label).selectOption({ label: option });
  }
}

test("from an empty page: a first weight, a first peak, a filled order", async ({ page }) => {
  await page.goto("/");
  const hand = new Hand(page);
  await hand.enter("Or begin with a whole tree, guessed", "ash 19 m girth 6ft 4in");
  await hand.key("Enter");
  await expect(page.getByTestId("weight")).toBeVisible();
  expect(hand.count, "first weight").toBeLessThanOrEqual(3);

  await hand.key("2");
  await hand.choose("Way down", "lowered from above");
  await hand.choose("Or a typical rope", "Typical 16 mm double braid, polyester");
  await hand.key("1");
  await expect(rung(page, "Line")).toContainText("kN");
  expect(hand.count, "first peak").toBeLessThanOrEqual(6);

  await hand.key("f");
  await hand.press(/^Take all/);
  await expect.poll(() => picks(page).count()).toBeGreaterThan(5);
  expect(hand.count, "a filled order").toBeLessThanOrEqual(8);
  await saved(page);
  await page.request.delete(`/api/jobs/${page.url().split("/").at(-1) ?? ""}`);
});

// What a screen reader says for five tasks: docs/tasks.md has the words.
test("the board makes sense by roles and names alone", async ({ page, job }) => {
  await page.goto(`/job/${job}`);
  // 1 What comes next, and does it stand within its limits?
  const next = picks(page).nth(1);
  await expect(next).toHaveAccessibleName(
    /^2: Lawn low limb, [\d,]+ kg to [\d,]+ kg, .*(within|close|over|not known)/,
  );
  // 2 What is down already?
  await expect(picks(page).first()).toHaveAccessibleName(/^1: Boathouse limb, down, /);
  // 3 What does the cut do to weight and verdict?
  const cut = page.getByRole("slider", { name: "Place of the cut" });
  await expect(cut).toHaveAttribute("aria-valuetext", /^\d+\.\d+ m, [\d,]+ kg, /);
  const was = await cut.getAttribute("aria-valuetext");
  await cut.focus();
  await page.keyboard.press("ArrowUp");
  await expect(cut).not.toHaveAttribute("aria-valuetext", was ?? "");
  // 4 What changed? The pick in hand, not the whole job.
  await expect(page.getByTestId("changed")).toHaveText(/^Pick 2, Lawn low limb.* [\d,]+ kg, /);
  // 5 What loads what: every rung by part, name, share and verdict.
  await picks(page).nth(18).click();
  await page.keyboard.press("1");
  await expect(rung(page, "Line")).toHaveAccessibleName(
    /^Line Heron line 16 mm .*\d+ % (within|close|over) .*limit [\d.]+ kN/,
  );
});
