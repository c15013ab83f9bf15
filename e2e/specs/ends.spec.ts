import {
  assess,
  crewOf,
  expect,
  expectCoresFigures,
  kept,
  open,
  saved,
  test,
} from "../support/job";
import { core } from "../support/server";
import { carried } from "../support/whole";

test("a limb is held at both ends and carried clear of a roof by the program of two hands", async ({
  page,
}) => {
  const made = (await (await page.request.post("/api/jobs", { data: carried() })).json()) as {
    id: string;
  };
  await open(page, made.id);
  await page.keyboard.press("2");
  await page.getByLabel("Way down").selectOption({ label: "held at both ends" });
  // Straight down it comes onto the roof.
  await page.getByLabel("Tied, butt, from the cut").fill("1 m");
  await page.getByLabel("Tied, butt, from the cut").press("Enter");
  await page.getByLabel("Tied, tip, from the cut").fill("5 m");
  await page.getByLabel("Tied, tip, from the cut").press("Enter");
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  await expect(page.getByText("strikes boathouse").first()).toBeVisible();
  await expectCoresFigures(page, made.id, "p1");

  // The tip taken off its line by and by: it hangs on the butt's, beside the roof.
  await page.getByRole("button", { name: "Pick", exact: true }).click();
  await page.getByRole("button", { name: "Add a step" }).click();
  await page.getByLabel("Step 1: let out, − taken in").fill("9 m");
  await page.getByLabel("Step 1: let out, − taken in").press("Enter");
  await page.getByRole("button", { name: "Add a step" }).click();
  await page.getByLabel("Step 2: let out, − taken in").fill("12 m");
  await page.getByLabel("Step 2: let out, − taken in").press("Enter");
  await expect(page.getByTestId("order")).toContainText(/boathouse limb/i);
  await expect
    .poll(async () => JSON.stringify((await kept(page, made.id)).job.picks[0]?.ends?.program))
    .toMatch(/\b9\b.*\b12\b/);
  await saved(page);
  const { job } = await kept(page, made.id);
  const a = assess(job, "p1", await crewOf(page, job));
  // What stands against it is said in place of the call; the program stays as it is.
  expect(a.picks[0]?.call).toMatch(/^Not like this: /);
  expect(a.detail?.ends?.steps).toEqual([
    "butt: hold; tip: let out 9.00 m",
    "both: let out 12.00 m",
  ]);
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  await expectCoresFigures(page, made.id, "p1");
  await expect(page.getByText(/How far it turns on its hinge is not said/).first()).toBeAttached();

  // A tie is moved along the piece by the keyboard on the drawing, and by hand.
  const tip = page.getByRole("slider", { name: "Tie of the line at the tip" });
  await tip.focus();
  await page.keyboard.press("ArrowDown");
  await expect
    .poll(async () => (await kept(page, made.id)).job.picks[0]?.ends?.tip.tie_m)
    .toBe(4.75);
  await page.keyboard.press("ArrowUp");
  await expect.poll(async () => (await kept(page, made.id)).job.picks[0]?.ends?.tip.tie_m).toBe(5);

  // Where the film stands the two lines carry what the sum two-tie says of the same place.
  const ghosts = a.detail?.ends?.ghosts ?? [];
  const hang = ghosts[1];
  const piece = a.detail?.piece;
  if (!hang || !piece) throw new Error("it is not worked out");
  const long = (x: number, z: number, px: number) => Math.hypot(px - x, 16 - z);
  const tie = core(
    ["calc", "two-tie"],
    JSON.stringify({
      mass_kg: piece.mass_kg.high,
      length_m: piece.length_m,
      cog_m: piece.cog_m,
      ties: [
        {
          name: "butt",
          at_m: 1,
          point: { x: 1, z: 16 },
          line_m: long(hang.butt_at.x, hang.butt_at.z, 1),
        },
        {
          name: "tip",
          at_m: 5,
          point: { x: 5, z: 16 },
          line_m: hang.tip_kn > 0 ? long(hang.tip_at.x, hang.tip_at.z, 5) : 30,
        },
      ],
    }),
  ) as { lowest_m: number; ties: { tension_kn: number }[] };
  expect(tie.ties[0]?.tension_kn).toBeCloseTo(hang.butt_kn, 6);
  expect(tie.ties[1]?.tension_kn).toBeCloseTo(hang.tip_kn, 6);
  expect(tie.lowest_m).toBeCloseTo(Math.min(hang.butt.z, hang.tip.z), 6);
  const film = page.getByRole("slider", { name: "Moment of the film" });
  await film.fill("0.5");
  await expect(page.getByTestId("phase")).toHaveText("off its cut");
  await expect(page.getByTestId("film")).toBeVisible();
  await film.fill("20");
  await expect(page.getByTestId("phase")).toContainText("tip: let out 9.00 m");

  // Over a hinge that is told of, drawn aside by a tag line: what is said is the core's.
  await page.keyboard.press("2");
  await page.getByLabel("Its face closes after, °").fill("75");
  await page.getByLabel("Its face closes after, °").press("Enter");
  await expect.poll(async () => (await kept(page, made.id)).job.picks[0]?.ends?.face_deg).toBe(75);
  await page.getByLabel("Tag line").check();
  await page.getByLabel("Pulled with").fill("0.1 kN");
  await page.getByLabel("Pulled with").press("Enter");
  await expect(
    page.getByText(/at the tag line draw it .* aside where it first hangs/).first(),
  ).toBeVisible();
  await expect(page.getByTestId("tag-line")).toBeAttached();
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  await expectCoresFigures(page, made.id, "p1");

  // On the phone each hand has its own words.
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(page.getByTestId("one-pick")).toContainText("butt: hold; tip: let out 9.00 m");
  await page.request.delete(`/api/jobs/${made.id}`);
});

test("a swing is drawn aside, doubled and stopped; a ring aloft leaves the rest to the hand", async ({
  page,
}) => {
  const job = carried() as unknown as Awaited<ReturnType<typeof kept>>["job"];
  // Its block stands off to the side: it swings.
  const mast = job.site.anchors[0];
  if (mast) mast.at = { x: 3, y: 3 };
  const pick = job.picks[0];
  if (!pick) throw new Error("no pick");
  pick.way = "swung";
  delete pick.ends;
  pick.tie_m = 3;
  const made = (await (await page.request.post("/api/jobs", { data: job })).json()) as {
    id: string;
  };
  await open(page, made.id);
  await page.keyboard.press("2");
  await expect(page.getByTestId("face-said")).toContainText(/^Face \d+° from straight down/);
  await page.getByLabel("Tag line").check();
  await page.getByLabel("Pulled with").fill("0.2 kN");
  await page.getByLabel("Pulled with").press("Enter");
  await expect(page.getByText(/at the tag line draw it/).first()).toBeVisible();
  await expect(page.getByTestId("tag-line")).toBeAttached();
  await page.getByLabel("Twin line beside it").check();
  await page.getByLabel("One let out more by").fill("0.2 m");
  await page.getByLabel("One let out more by").press("Enter");
  await expect
    .poll(async () => (await kept(page, made.id)).job.picks[0]?.twin?.faster_m)
    .toBeCloseTo(0.2);
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  const a = await expectCoresFigures(page, made.id, "p1");
  expect(a.detail?.ladder.filter((r) => r.part === "line")).toHaveLength(2);
  await expect(page.getByText(/All of it on the first line/)).toBeVisible();
  // A line that is tight at the bottom of the swing stops it: what it takes stands on the ladder.
  await page.keyboard.press("2");
  await page.getByLabel("Something stops its swing").check();
  await page.getByLabel("Stopped by").selectOption({ label: "a line to mast m2" });
  await expect(page.getByText(/^It meets the line to mast m2/).first()).toBeVisible();
  await expect(page.getByTestId("stop-mark")).toBeAttached();
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  const stopped = await expectCoresFigures(page, made.id, "p1");
  expect(stopped.detail?.ladder.some((r) => r.part === "stop")).toBe(true);
  // No device: a ring aloft, and hands.
  await page.getByRole("button", { name: "Setup", exact: true }).click();
  await page.getByRole("tab", { name: "Rigs" }).click();
  const rig = page.getByRole("group", { name: "Block", exact: true }).first();
  await rig.getByLabel("It turns the rope by").selectOption("friction");
  await rig.getByRole("textbox", { name: "Turns round it" }).fill("1");
  await rig.getByRole("textbox", { name: "Turns round it" }).press("Enter");
  await page.getByLabel("None: hands hold the line as it comes from aloft").first().check();
  await expect.poll(async () => (await kept(page, made.id)).job.rigs[0]?.device.none).toBe(true);
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  const aloft = await expectCoresFigures(page, made.id, "p1");
  expect(aloft.detail?.ladder.some((r) => r.part === "device")).toBe(false);
  await page.request.delete(`/api/jobs/${made.id}`);
});
