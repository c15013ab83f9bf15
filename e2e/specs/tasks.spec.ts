import type { Page } from "@playwright/test";
import { demo, expect, lock, picks, rung, saved, second, test } from "../support/job";

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
  await expect(page.getByTestId("piece")).toContainText(/[\d,]+ kg guess/);
  expect(hand.count, "first weight").toBeLessThanOrEqual(3);

  await hand.key("2");
  await hand.choose("Way down", "lowered from above");
  await hand.choose("Or a typical rope", "Typical 16 mm double braid, polyester");
  await hand.key("1");
  await expect(rung(page, "Line")).toContainText("kN");
  expect(hand.count, "first peak").toBeLessThanOrEqual(6);

  await hand.key("f");
  await hand.press(/^Take (all )?\d+/);
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
  await expect(cut).toHaveAttribute("aria-valuetext", /^at the union, [\d,]+ kg, /);
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

test("a holding line beside a pull, and a piece for the crane, counted", async ({ page }) => {
  const made = (await (await page.request.post(`/api/jobs/${lock}/copy`)).json()) as { id: string };
  await page.goto(`/job/${made.id}`);
  await picks(page).first().click();
  const hand = new Hand(page);
  await hand.key("2");
  await hand.press("Add a line that holds");
  const line = page.getByRole("group", { name: "Line that holds 1" });
  hand.count++;
  await line.getByLabel("To", { exact: true }).selectOption({ label: "ash stump" });
  hand.count++;
  await line.getByLabel("Held with").fill("8 kN");
  await line.getByLabel("Held with").press("Enter");
  await hand.press("Loads");
  const ladder = page.getByRole("region", { name: "The load, from the piece to the hand" });
  await expect(ladder).toContainText("ash stump");
  expect(hand.count, "a holding line").toBeLessThanOrEqual(5);
  await page.request.delete(`/api/jobs/${made.id}`);

  // Mill Fold has a crane: what it takes of a piece is one choice away.
  const fold = (await (await page.request.post(`/api/jobs/${second}/copy`)).json()) as {
    id: string;
  };
  await page.goto(`/job/${fold.id}`);
  await picks(page).first().click();
  const other = new Hand(page);
  await other.key("2");
  await other.choose("Way down", "by crane");
  await other.press("Loads");
  await expect(rung(page, "Crane")).toContainText("kN");
  expect(other.count, "by crane").toBeLessThanOrEqual(3);
  await page.request.delete(`/api/jobs/${fold.id}`);
});

// Mill Fold, its garden with another tree beyond the glasshouse.
test("a limb swung past the glasshouse to another tree, counted", async ({ page }) => {
  const made = (await (await page.request.post(`/api/jobs/${second}/copy`)).json()) as {
    id: string;
  };
  const head = (await (await page.request.get(`/api/jobs/${made.id}`)).json()) as {
    revision: number;
    job: { site: { anchors: unknown[] } };
  };
  head.job.site.anchors.push({
    id: "a2",
    name: "garden walnut",
    kind: "tree",
    at: { x: 1, y: 13 },
    height_m: 10,
    diameter_m: 0.55,
  });
  const put = await page.request.put(`/api/jobs/${made.id}`, {
    data: head.job,
    headers: { "If-Match": `"${head.revision}"`, "Idempotency-Key": crypto.randomUUID() },
  });
  expect(put.status()).toBe(200);
  await page.goto(`/job/${made.id}`);
  await picks(page).nth(5).click();
  const hand = new Hand(page);
  await hand.key("2");
  await hand.choose("Way down", "between two points");
  hand.count++;
  await page.getByLabel("Rig", { exact: true }).selectOption({ label: "Yard rig" });
  const carried = page.getByLabel("Carried to");
  await expect(carried).toHaveValue("");
  await expect(page.getByText("Yard rig has no second line").first()).toBeVisible();
  await hand.choose("Carried to", "garden walnut");
  await hand.key("1");
  await expect(rung(page, "Second line")).toContainText("kN");
  await expect(page.getByRole("region", { name: "Passes" })).toContainText("garden glasshouse");
  expect(hand.count, "swung to another tree").toBeLessThanOrEqual(5);
  await saved(page);

  // Beneath: what both lines carry across, as the core has it.
  const kept = (await (await page.request.get(`/api/jobs/${made.id}`)).json()) as { job: object };
  const said = (await (
    await page.request.post("/api/assess?pick=p6", { data: kept.job })
  ).json()) as {
    detail: {
      carried: { out_m: number; first_kn: number; second_kn: number }[];
      ladder: { part: string; resting_kn: number }[];
    };
  };
  const first = Math.max(...said.detail.carried.map((c) => c.first_kn));
  await expect(page.getByTestId("across")).toContainText(`first line up to ${first.toFixed(1)} kN`);
  expect(said.detail.ladder.find((r) => r.part === "line")?.resting_kn).toBeCloseTo(first, 6);
  await page.request.delete(`/api/jobs/${made.id}`);
});

test("what stands beneath the tree belongs to the way down", async ({ page }) => {
  await page.goto(`/job/${second}`);
  // Free: where it lies and what it weighs there.
  await picks(page).first().click();
  const read = async (pick: string) => {
    const { job } = (await (await page.request.get(`/api/jobs/${second}`)).json()) as {
      job: object;
    };
    return (await (await page.request.post(`/api/assess?pick=${pick}`, { data: job })).json()) as {
      detail: {
        piece: { mass_kg: { likely: number } };
        landing?: { far_m: number; near_m: number; reason: string };
        lift?: { radius_m: number; allowed_kg: number; farthest_m: number };
      };
    };
  };
  const free = (await read("p1")).detail;
  const lies = page.getByTestId("lies");
  await expect(lies).toContainText(`${free.piece.mass_kg.likely.toFixed(1)} kg`);
  await expect(lies).toContainText(`up to ${free.landing?.far_m.toFixed(2)} m from the foot`);
  await expect(lies).toContainText(free.landing?.reason ?? "?");
  // By crane: its chart against the radius.
  await picks(page).nth(3).click();
  const hook = page.getByTestId("hook");
  const lift = (await read("p4")).detail.lift;
  await expect(hook).toContainText(`at ${lift?.radius_m.toFixed(2)} m`);
  await expect(hook).toContainText(Math.round(lift?.allowed_kg ?? 0).toLocaleString("en"));
  await expect(hook).toContainText(`by the chart to ${lift?.farthest_m.toFixed(2)} m`);
  // The chart runs along the reader's own unit: in feet its last mark lies near its last row.
  const marks = page.getByTestId("trace").locator("svg text");
  const last = async () =>
    Math.max(...(await marks.allTextContents()).filter((m) => /^\d+$/.test(m)).map(Number));
  await page.getByRole("button", { name: /the units/ }).click();
  await expect(hook).toContainText(
    `by the chart to ${((lift?.farthest_m ?? 0) / 0.3048).toFixed(1)} ft`,
  );
  expect(await last()).toBeGreaterThan((0.8 * (lift?.farthest_m ?? 0)) / 0.3048);
});

test("a rig that is taken out says which picks lose it, and comes back", async ({ page, job }) => {
  await page.goto(`/job/${job}`);
  await picks(page).nth(18).click();
  await page.keyboard.press("3");
  await page.getByRole("tab", { name: "Rigs" }).click();
  const rigs = page.getByRole("button", { name: "Remove Stem rig" });
  await rigs.click();
  const lost = page.getByTestId("lost");
  await expect(lost).toContainText(/^Stem rig is gone: picks [\d, ]+and \d+ lose it\./);
  const { job: before } = (await (await page.request.get(`/api/jobs/${demo}`)).json()) as {
    job: { rigs: { id: string; name: string }[]; picks: { rig?: string; ends?: object }[] };
  };
  const id = before.rigs.find((r) => r.name === "Stem rig")?.id ?? "";
  // As the document has it; the first rig also takes what names none.
  const users = before.picks.flatMap((p, i) => (p.rig === id ? [i + 1] : []));
  for (const n of users) await expect(lost).toContainText(new RegExp(`\\b${n}\\b`));
  await expect(picks(page).nth(18)).toContainText("no rig");
  await lost.getByRole("button", { name: "Bring it back" }).click();
  await expect(picks(page).nth(18)).not.toContainText("no rig");
  await expect(rigs).toBeVisible();
  await saved(page);
});
