import { expect, kept, saved, test } from "../support/job";

const step = (name: string) => ({ name: new RegExp(`^${name}`) });
const picture = Buffer.from(
  "iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==",
  "base64",
);

test.use({ viewport: { width: 390, height: 844 } });

test("a walk round a new tree, on a phone, until it stands on the board", async ({
  page,
  request,
}) => {
  const { empty_job } = (await (await request.get("/api/reference")).json()) as {
    empty_job: object;
  };
  const made = await request.post("/api/jobs", { data: { ...empty_job, name: "Walked" } });
  const { id } = (await made.json()) as { id: string };
  await page.goto(`/job/${id}/survey`);
  const steps = page.getByRole("navigation", { name: "Steps of the walk" });
  const next = page.getByRole("navigation", { name: "Walk" }).getByRole("button", { name: "Next" });
  const tree = page.getByTestId("as-measured");
  await expect(tree).toContainText("Choose the species.");

  await page.getByLabel("Search the species").fill("beech");
  await page.getByRole("button", { name: /^American beech/ }).click();
  await expect(steps.getByRole("button", step("Species"))).toContainText("✓");

  // 20 m off, 45° up, 0° to the foot: 20 m.
  await next.click();
  await page.getByLabel("Distance to the stem").fill("20 m");
  await page.getByLabel("Up to the top, °").fill("45");
  await page.getByLabel("To the foot, °").fill("0");
  await page.getByLabel("To the foot, °").press("Enter");
  await expect(page.getByTestId("sighted")).toContainText("20.00 m");
  await page.getByLabel("Up to the top, °").fill("88");
  await page.getByLabel("Up to the top, °").press("Enter");
  await expect(page.getByRole("alert")).toContainText("at most 85");
  await page.getByLabel("Up to the top, °").fill("45");
  await page.getByLabel("Up to the top, °").press("Enter");
  await page.getByRole("button", { name: "Take it" }).click();
  await expect(page.getByLabel("Height of the stem, by tape or as known")).toHaveValue("20 m");

  await next.click();
  await page.getByRole("button", { name: "Add a reading" }).click();
  await page.getByRole("textbox", { name: "Girth" }).fill("251 cm");
  await page.getByRole("textbox", { name: "Girth" }).press("Enter");
  // One reading and a height: there is a tree to look at.
  await expect(tree.getByRole("group", { name: /The tree in elevation/ })).toBeVisible();
  await page.getByRole("button", { name: "Add a reading" }).click();
  await page.getByLabel("Cavity").first().fill("60 cm");
  await page.getByLabel("Cavity").first().press("Enter");
  // 251 cm round is 79.9 cm across: 10 cm of shell of 40.
  await expect(page.getByText(/the shell is 9\.9 cm of a radius of 39\.9 cm, 25 %/)).toBeVisible();
  await expect(page.getByText(/less than a third/)).toBeVisible();

  await next.click();
  await page.getByLabel("Off the foot").fill("0.7 m");
  await page.getByLabel("From a height of").fill("10 m");
  await page.getByLabel("From a height of").press("Enter");
  await expect(page.getByTestId("sighted")).toContainText("4.0°");
  await page.getByRole("button", { name: "Take it" }).click();
  await page.getByRole("group", { name: "It leans towards" }).getByText("SW").click();

  await next.click();
  // Clockwise: the second is at the first one's height, the third begins a new round.
  for (const [azimuth, n] of [
    ["E", 1],
    ["W", 2],
    ["N", 3],
  ] as const) {
    await page
      .getByRole("group", { name: "The next limb grows towards" })
      .getByText(azimuth, { exact: true })
      .click();
    await expect(tree.locator("[data-testid^=limb-]")).toHaveCount(n);
  }
  await expect(steps.getByRole("button", step("Limbs"))).toContainText("✓");

  await next.click();
  await page.getByRole("button", { name: "+ Crack" }).click();
  for (const means of ["Climbing:", "Hinging:", "Anchoring:"]) {
    await expect(page.getByText(means)).toBeVisible();
  }

  await next.click();
  await page.getByLabel("Called").fill("garden wall");
  await page
    .getByRole("group", { name: "Bearing, from the tree" })
    .getByText("E", { exact: true })
    .click();
  await page.getByLabel("Distance").fill("8 m");
  await page.getByLabel("Distance").press("Enter");
  await page.getByRole("button", { name: "Put it on the plan" }).click();
  await expect(page.getByRole("list", { name: "On the plan" })).toContainText("garden wall");
  await page.getByRole("button", { name: "Who stands" }).click();
  await page.getByLabel("Role, such as rope").fill("rope");
  await page.getByLabel("Name", { exact: true }).fill("the second on the crew");
  await page.getByLabel("Bearing, °").fill("200");
  await page.getByLabel("Distance").fill("5 m");
  await page.getByRole("button", { name: "Put it on the plan" }).click();
  await expect(page.getByRole("list", { name: "On the plan" })).toContainText("rope stands there");
  await page.getByRole("button", { name: "Drop zone" }).click();
  await page.getByRole("button", { name: "Put it on the plan" }).click();
  await expect(page.getByRole("alert")).toContainText("0 corners so far");
  for (const [bearing, distance] of [
    ["300", "9"],
    ["20", "9"],
    ["340", "18"],
  ]) {
    await page.getByLabel("Bearing, °").fill(bearing ?? "");
    await page.getByLabel("Distance").fill(distance ?? "");
    await page.getByLabel("Distance").press("Enter");
    await expect(page.getByRole("button", { name: /^Add this corner/ })).toBeEnabled();
    await page.getByRole("button", { name: /^Add this corner/ }).click();
    await expect(page.getByLabel("Distance")).toHaveValue("");
  }
  await page.getByRole("button", { name: "Put it on the plan" }).click();
  await expect(page.getByRole("list", { name: "On the plan" })).toContainText("drop zone");

  await next.click();
  await page.getByLabel("Note").fill("from the lane");
  await page
    .getByLabel("Take or choose a picture")
    .setInputFiles({ name: "tree.png", mimeType: "image/png", buffer: picture });
  await expect(page.getByRole("list", { name: "Photos" }).getByRole("img")).toHaveCount(1);
  await expect(page.getByRole("img", { name: "from the lane" })).toBeVisible();
  await page
    .getByLabel("Take or choose a picture")
    .setInputFiles({ name: "notes.png", mimeType: "image/png", buffer: Buffer.from("hello") });
  await expect(page.getByRole("alert")).toContainText("notes.png is no picture");

  await next.click();
  await saved(page);
  const { job } = await kept(page, id);
  expect(job.trees[0]).toMatchObject({
    height_m: 20,
    height_noted: "20.00 m off, 45° and 0°",
    lean_deg: 4,
    lean_towards_deg: 225,
    wood: { species: "american-beech" },
  });
  expect(job.trees[0]!.limbs.map((l) => [l.azimuth_deg, l.at_m])).toEqual([
    [90, 8],
    [270, 8],
    [0, 8.6],
  ]);
  expect(job.site.posts).toMatchObject([{ role: "rope", name: "the second on the crew" }]);
  expect(job.trees[0]!.readings[0]?.tape_m).toBeCloseTo(2.51, 6);
  // 8 m due east of the tree.
  expect(job.site.targets[0]?.box).toMatchObject({ min: { x: 7, y: -1 }, max: { x: 9, y: 1 } });
  expect(job.site.zones[0]?.outline[0]?.x).toBeCloseTo(-7.79, 2);
  await page.getByRole("link", { name: "To the board" }).click();
  await expect(page.getByTestId("state")).toContainText("Nothing is planned yet");
});

test("pictures wait on the device while there is no signal", async ({ page, context, job }) => {
  await page.goto(`/job/${job}/survey`);
  await page.getByRole("button", step("Photos")).click();
  await context.setOffline(true);
  await page
    .getByLabel("Take or choose a picture")
    .setInputFiles({ name: "tree.png", mimeType: "image/png", buffer: picture });
  await expect(page.getByText("1 picture is kept on this device")).toBeVisible();
  await context.setOffline(false);
  await expect(page.getByRole("list", { name: "Photos" }).getByRole("img")).toHaveCount(1);
  await expect(page.getByText("kept on this device until")).toHaveCount(0);
});

test("what is planned takes nothing off the tree that is walked round", async ({ page, job }) => {
  await page.goto(`/job/${job}/survey`);
  const tree = page.getByTestId("as-measured");
  const limbs = tree.locator("[data-testid^=limb-]");
  await expect(limbs).toHaveCount(16);
  await expect(tree.getByTestId("cut")).toHaveCount(0);
});

test("what seldom is, is asked about once where it stands, and counts all the same", async ({
  page,
  job,
}) => {
  await page.goto(`/job/${job}/survey`);
  await page.getByRole("button", step("Girths")).click();
  const first = page.getByRole("textbox", { name: /Girth|Diameter/ }).first();
  await first.fill("56 m");
  await first.press("Enter");
  // Out of every range: refused.
  await expect(page.getByRole("alert").first()).toBeVisible();
  await first.fill("12 m");
  await first.press("Enter");
  const asked = page.getByRole("status").filter({ hasText: "is that one figure too many" });
  await expect(asked).toBeVisible();
  await asked.getByRole("button", { name: "It is so" }).click();
  await expect(asked).toHaveCount(0);
  await page.reload();
  await page.getByRole("button", step("Girths")).click();
  await expect(page.getByRole("textbox", { name: /Girth|Diameter/ }).first()).toBeVisible();
  await expect(asked).toHaveCount(0);
});
