import {
  assess,
  choose,
  crewOf,
  expect,
  expectCoresFigures,
  kept,
  lock,
  open,
  picks,
  rung,
  saved,
  test,
  type JobHead,
  reeds,
} from "../support/job";
import { core } from "../support/server";
import { whole } from "../support/whole";

test("ways compared and the three in order, each a press away", async ({ page }) => {
  const id = await reeds(page);
  await open(page, id);
  await page.keyboard.press("w");
  const panel = page.getByTestId("whole-trees");
  await expect(panel.getByRole("status")).toHaveText(
    "West poplar, then bent poplar, then hollow poplar (in pieces).",
  );
  await expect(panel.getByRole("region", { name: "Felled whole" })).toContainText("about 45 min");
  await expect(panel.getByRole("region", { name: "Topped, then felled" })).toContainText("2, 0 on");
  await panel.getByLabel("Tree").selectOption({ label: "hollow poplar" });
  await expect(panel.getByRole("region", { name: "Felled whole" })).toContainText(
    "No bearing is open while it is whole",
  );
  await panel.getByRole("button", { name: /^Take this order/ }).click();
  const order = async () =>
    (await kept(page, id)).job.picks.map((p) => `${p.tree} ${p.way}`).join(", ");
  // The west and the bent poplar are felled whole now; the hollow one stays as it was planned.
  await expect.poll(order).toBe("1 felled, 2 felled, 3 felled");
  await page.keyboard.press("Control+z");
  await expect.poll(order).toBe("1 felled, 2 free, 2 felled, 3 felled");
  await page.request.delete(`/api/jobs/${id}`);
});

test("a weight in the line, the wind, and the plumb mark's working", async ({ page }) => {
  const id = await reeds(page);
  await open(page, id);
  await choose(page, 1);
  await page.getByRole("button", { name: "Pick", exact: true }).click();
  const line = page.getByRole("group", { name: "Line that pulls 1" });
  await line.getByLabel("On its middle").selectOption("weight");
  // It is made fast: no winch stays behind it, and nothing is assumed of its weight.
  await expect(line.getByLabel("Pulled by")).toHaveCount(0);
  await expect(picks(page).first()).toContainText("say how heavy the weight in the line");
  await line.getByLabel("Weight hung").fill("250");
  await line.getByLabel("Weight hung").press("Enter");
  const said = line.getByTestId("line-said");
  await expect(said).toContainText("The weight pulls");
  await saved(page);

  // Its first pull is the sum of the kind by itself, on an input made here: the tree's tie and the
  // turn of its line, two halves of a line a twentieth longer than the way.
  const head = await kept(page, id);
  const pull = assess(head.job, "p1", await crewOf(page, head.job)).detail?.pulls[0];
  const at = (i: number) => pull?.points[i] ?? { x: 0, y: 0, z: 0 };
  const [tie, end] = [at(0), at(2)];
  const level = Math.hypot(end.x - tie.x, end.y - tie.y);
  const answer = core(
    ["calc", "midline-weight"],
    JSON.stringify({
      attach_height_m: tie.z,
      anchor_distance_m: level,
      anchor_height_m: end.z,
      line_length_m: 1.05 * Math.hypot(level, end.z - tie.z),
      weight_kg: head.job.picks[0]?.fell?.lines?.[0]?.mid?.weight_kg,
      ground_m: -50,
    }),
  ) as { curve: { pull_kn: number }[] };
  expect(head.job.picks[0]?.fell?.lines?.[0]?.mid).toEqual({ kind: "weight", weight_kg: 250 });
  expect(pull?.gives_kn).toBeCloseTo(answer.curve[0]?.pull_kn ?? 0, 6);
  await expect(said).toContainText(`pulls ${answer.curve[0]?.pull_kn.toFixed(1)} kN at first`);

  // Followed through time it goes down with the tree, and what it swings with is told.
  await page.getByRole("slider", { name: "Moment of the film" }).fill("1");
  await expect(page.getByTestId("hung")).toBeAttached();
  await expect(page.getByText(/The weight swings on .* with up to/).first()).toBeAttached();

  await page.getByRole("button", { name: "Setup", exact: true }).click();
  await page.getByRole("tab", { name: "Site" }).click();
  await page.getByLabel("Gusts, m/s").fill("9");
  await page.getByLabel("Gusts, m/s").press("Enter");
  await saved(page);
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  await expect(page.getByText(/Gusts of 9 m\/s are counted on \d+ m²/).first()).toBeAttached();

  const plumb = page.getByRole("button", { name: "How its balance is worked out" });
  await plumb.focus();
  await page.keyboard.press("Enter");
  const panel = page.getByTestId("balance");
  await expect(panel).toContainText("about the foot at the heavy end");
  await expect(panel).toContainText("low lock limb");
  await page.getByRole("button", { name: "Close the balance" }).click();
  await expect(panel).toHaveCount(0);
  await page.request.delete(`/api/jobs/${id}`);
});

test("ties round a union, bedding logs and crowns tied together are said and drawn", async ({
  page,
}) => {
  const id = await reeds(page);
  await open(page, id);
  await choose(page, 1);
  await page.getByRole("button", { name: "Pick", exact: true }).click();
  await page.getByRole("button", { name: "Tie round a union" }).click();
  await page.getByRole("button", { name: "Lay a bedding log" }).click();
  await expect(page.getByLabel("Log 3, out")).toBeVisible();
  await expect(page.getByTestId("bed")).toHaveCount(3);
  await expect(page.getByTestId("butt-zone")).toBeAttached();
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  await expect(page.getByText(/is by no union or crack of the survey/)).toBeVisible();
  await expect(page.getByText(/crown was tied to bent poplar at 15/)).toBeVisible();
  await saved(page);
  const first = (await kept(page, id)).job.picks[0];
  expect(first?.fell?.straps).toHaveLength(1);
  expect(first?.fell?.beds).toHaveLength(3);
  // Not cut free any more: the pick is over, and says which tree it would pull along.
  await page.goto(`/job/${id}/survey`);
  await page.getByRole("button", { name: /^Defects/ }).click();
  await page.getByLabel("Cut free before either goes").uncheck();
  await expect
    .poll(async () => (await kept(page, id)).job.trees[0]?.tied?.[0]?.free)
    .toBeUndefined();
  await open(page, id);
  await expect(picks(page).first()).toContainText("it would pull that tree along");
  await page.request.delete(`/api/jobs/${id}`);
});

test("the fill pieces what nothing at hand fells", async ({ page }) => {
  const id = await reeds(page);
  await open(page, id);
  await page.getByRole("button", { name: "Fill", exact: true }).click();
  const fill = page.getByTestId("fill");
  await fill.getByLabel("In place of the picks that are not down yet").check();
  await fill.getByLabel("Take it").selectOption("fells");
  // Twenty-metre stems section by section, each followed as it falls beside what is left.
  await expect(fill.getByRole("status")).toContainText(/picks/, { timeout: 60_000 });
  // No wedge lifts these until they go, and the carrier may pull harder than its line takes: none is felled.
  await expect(fill.getByRole("listitem").first()).toContainText(/lowered|free/);
  await page.request.delete(`/api/jobs/${id}`);
});

test("a pulling system is drawn on the bench and put on the line", async ({ page }) => {
  const id = await reeds(page);
  await open(page, id);
  await choose(page, 1);
  await page.getByRole("button", { name: "Pick", exact: true }).click();
  const line = page.getByRole("group", { name: "Line that pulls 1" });
  await line.getByRole("link", { name: "Draw the system" }).click();
  await expect(page.getByTestId("instrument")).toHaveAttribute("data-kind", "haul");
  await expect(page.getByTestId("bench-answer")).toBeVisible();
  // Its pulleys turn worse than the ones that are counted on.
  const turns = page.getByLabel(/^pulley 1, efficiency$/);
  await turns.fill("0.7");
  await turns.press("Enter");
  await expect.poll(() => decodeURIComponent(page.url())).toContain('"efficiency":0.7');
  await page.getByRole("button", { name: "Put it on the line" }).click();
  await expect(page.getByTestId("board")).toBeVisible();
  await choose(page, 1);
  const drawn = (await kept(page, id)).job.picks[0]?.fell?.lines?.[0];
  expect(drawn?.system?.pulleys[0]?.efficiency).toBe(0.7);
  expect(drawn?.parts).toBeUndefined();
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  await expectCoresFigures(page, id, "p1");
  await rung(page, "Pull").first().click();
  await expect(page.getByText(/system as drawn/).first()).toBeVisible();
  await page.request.delete(`/api/jobs/${id}`);
});

test("on a phone the long name of a tree that is felled makes no page wider than it", async ({
  page,
  request,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  const made = await request.post(`/api/jobs/${lock}/copy`);
  await open(page, ((await made.json()) as JobHead).id);
  await expect(page.getByTestId("one-pick")).toBeVisible();
  for (let place = 1; place <= 4; place++) {
    const right = await page
      .getByTestId("one-pick")
      .evaluate((e) => e.getBoundingClientRect().right);
    expect(right, `pick ${place}`).toBeLessThanOrEqual(390);
    if (place < 4) await page.getByRole("button", { name: "The next pick" }).click();
  }
});
