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
    .poll(async () => (await kept(page, made.id)).job.picks[0]?.ends?.program?.length)
    .toBe(2);
  await saved(page);
  const { job } = await kept(page, made.id);
  const a = assess(job, "p1", await crewOf(page, job));
  expect(a.picks[0]?.call).toBe("butt: hold; tip: let out 9.00 m, then both: let out 12.00 m");
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  await expectCoresFigures(page, made.id, "p1");

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

  // On the phone each hand has its own words.
  await page.setViewportSize({ width: 390, height: 844 });
  await expect(page.getByTestId("one-pick")).toContainText("butt: hold; tip: let out 9.00 m");
  await page.request.delete(`/api/jobs/${made.id}`);
});
