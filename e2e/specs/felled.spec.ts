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
  reeds,
} from "../support/job";
import { core } from "../support/server";
import { whole } from "../support/whole";

test("a tree is pulled over: no line, a line, its effort, its fall followed", async ({ page }) => {
  const made = (await (await page.request.post("/api/jobs", { data: whole({}) })).json()) as {
    id: string;
  };
  await page.goto(`/job/${made.id}`);
  // It stands behind its hinge, and nothing pulls: said in words.
  await expect(page.getByText("its own weight does not bend its hinge").first()).toBeVisible();

  await page.getByRole("button", { name: "Pick", exact: true }).click();
  await page.getByRole("button", { name: "Add a line that pulls" }).click();
  const line = page.getByRole("group", { name: "Line that pulls 1" });
  await line.getByLabel("To", { exact: true }).selectOption({ label: "oak stump" });
  await line.getByLabel("System").selectOption("3");
  await expect(page.getByText("Nobody has said what pulls").first()).toBeVisible();
  await line.getByLabel("Pulled by").selectOption({ label: "capstan winch" });
  await line.getByLabel("Pulled with").fill("8 kN");
  await line.getByLabel("Pulled with").press("Enter");
  await page.getByLabel("Wedges in the back cut").check();
  await expect(page.getByTestId("trace").getByText(/It goes: its tip is down after/)).toBeVisible();

  // The figures on the screen are the core's own.
  await saved(page);
  await page.getByRole("button", { name: "Loads", exact: true }).click();
  await expectCoresFigures(page, made.id, "p1");
  await page.request.delete(`/api/jobs/${made.id}`);
});

test("the rose: a bearing is turned out of its window and back by a press", async ({ page }) => {
  const id = await reeds(page);
  await open(page, id);
  await choose(page, 1);
  await page.keyboard.press("p");
  await expect(page.getByTestId("rose-said")).toContainText("It can go from 270° to 25°");
  const bearing = page.getByTestId("bearing");
  await bearing.focus();
  // East, into its neighbours.
  for (let i = 0; i < 30; i++) await page.keyboard.press("ArrowRight");
  await expect(page.getByTestId("rose-said")).toContainText("90°: hangs up");
  await expect(picks(page).first()).toContainText("it does not pull forward");
  // A press on the ring takes an open bearing.
  const rose = page.getByTestId("rose");
  await rose
    .locator("circle")
    .filter({ has: page.locator("title", { hasText: /^310°/ }) })
    .click();
  await expect(page.getByTestId("rose-said")).toContainText(/310°: (open|close)/);
  await saved(page);
  expect((await kept(page, id)).job.picks[0]?.fall_towards_deg).toBe(310);
  // The one the rose is against.
  await choose(page, 4);
  await expect(page.getByTestId("rose-said")).toContainText("No bearing is open");
  await page.request.delete(`/api/jobs/${id}`);
});

test("an anchor is dragged until the hinge holds", async ({ page }) => {
  const id = await reeds(page);
  await open(page, id);
  await choose(page, 1);
  const line = (await kept(page, id)).job;
  expect(line.picks[0]?.fell?.lines?.[0]?.anchor).toBe("a2");
  await page.keyboard.press("p");
  const stump = page.getByRole("slider", { name: "Place of willow stump" });
  const use = async () => {
    await saved(page);
    const { job } = await kept(page, id);
    const side = assess(job, "p1", await crewOf(page, job)).detail?.fell?.side_use_pct ?? 0;
    await expect(rung(page, "Hinge")).toBeVisible();
    return side;
  };
  const before = await use();
  const box = await stump.boundingBox();
  const x = (box?.x ?? 0) + (box?.width ?? 0) / 2;
  const y = (box?.y ?? 0) + 14;
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.mouse.move(x + 8, y - 20, { steps: 6 });
  await page.mouse.move(x + 16, y - 40, { steps: 6 });
  await page.mouse.up();
  await expect.poll(use).not.toBe(before);
  const after = await use();
  // Further round than the fall the line pulls the balance back over the hinge.
  expect(after).toBeLessThan(before);
  await expectCoresFigures(page, id, "p1");
  await page.request.delete(`/api/jobs/${id}`);
});

test("stretch is taken out before the cut, and the sentence says how far the pull follows", async ({
  page,
}) => {
  const id = await reeds(page);
  await open(page, id);
  await choose(page, 1);
  await page.keyboard.press("2");
  const line = page.getByRole("group", { name: "Line that pulls 1" });
  const said = line.getByTestId("line-said");
  await expect(said).toContainText("Made tight with 3.0 kN");
  await expect(said).toContainText(/used up at \d+\.\d°, the tree needs it to \d+\.\d°: haul on/);
  const was = await said.textContent();
  await line.getByLabel("Made tight with").fill("5 kN");
  await line.getByLabel("Made tight with").press("Enter");
  await expect(said).toContainText("Made tight with 5.0 kN");
  const spent = (text: string | null) => Number(/used up at ([\d.]+)°/.exec(text ?? "")?.[1]);
  expect(spent(await said.textContent())).toBeGreaterThan(spent(was));
  await page.request.delete(`/api/jobs/${id}`);
});

test("a line is tied lower by the keyboard, and pulls harder", async ({ page }) => {
  const id = await reeds(page);
  await open(page, id);
  await choose(page, 1);
  const tie = page.getByRole("slider", { name: "Height of the line to field oak" });
  await expect(tie).toHaveAttribute("aria-valuetext", "13.00 m");
  const need = async () => {
    const { job } = await kept(page, id);
    return assess(job, "p1", await crewOf(page, job)).detail?.pulls[0]?.need_kn ?? 0;
  };
  const before = await need();
  await tie.focus();
  for (let i = 0; i < 8; i++) await page.keyboard.press("ArrowDown");
  await expect(tie).toHaveAttribute("aria-valuetext", "9.00 m");
  await expect.poll(need).toBeGreaterThan(1.2 * before);
  await page.request.delete(`/api/jobs/${id}`);
});

test("the stump is dragged and cut by the keyboard; the card says what to cut", async ({
  page,
}) => {
  const id = await reeds(page);
  await open(page, id);
  await choose(page, 1);
  await page.keyboard.press("u");
  const face = page.getByRole("slider", { name: "Depth of the face" }).first();
  await face.focus();
  for (let i = 0; i < 4; i++) await page.keyboard.press("ArrowDown");
  await expect(page.getByText(/Face: 18\.0 cm deep/).first()).toBeVisible();
  await page.getByRole("slider", { name: "Hinge at its left" }).first().focus();
  for (let i = 0; i < 2; i++) await page.keyboard.press("ArrowDown");
  await expect(
    page.getByText(/6\.5 cm at its left and 5\.5 cm at its right/).first(),
  ).toBeVisible();
  await saved(page);
  const { job } = await kept(page, id);
  expect(job.picks[0]?.fell?.face_depth_m).toBe(0.18);
  expect(job.picks[0]?.fell?.left_m).toBe(0.065);

  await page.goto(`/job/${id}/briefing`);
  const card = page.getByTestId("cut-card").first();
  await expect(card).toContainText("18.0 cm");
  await expect(card).toContainText("7.1 in"); // 0.18 m
  await expect(card).toContainText("Back cut at 0.53 m");
  await expect(page.getByTestId("cut-card")).toHaveCount(3);
  await page.request.delete(`/api/jobs/${id}`);
});

test("the fall on the screen is the sum fell-sim's for the same figures", async ({ page }) => {
  const id = await reeds(page);
  await open(page, id);
  await choose(page, 1);
  const { job } = await kept(page, id);
  const d = assess(job, "p1", await crewOf(page, job)).detail;
  const f = d?.fell;
  const pull = d?.pulls[0];
  if (!d?.piece || !f || !pull) throw new Error("the pick is not worked out");
  const rope = job.rigs[0]?.rope;
  const line = job.picks[0]?.fell?.lines?.[0];
  // From where things stand: forward along the fall, right of it, up, from the hinge's middle.
  const deg = (job.picks[0]?.fall_towards_deg ?? 0) * (Math.PI / 180);
  const ahead = f.hinge.ahead_of_centre_m;
  const cut = d.piece.cut;
  const seen = (p?: { x: number; y: number; z: number }) => {
    const [x, y] = [(p?.x ?? 0) - cut.x, (p?.y ?? 0) - cut.y];
    return {
      x: x * Math.sin(deg) + y * Math.cos(deg) - ahead,
      y: x * Math.cos(deg) - y * Math.sin(deg),
      z: (p?.z ?? 0) - cut.z,
    };
  };
  const [tied, turn, end] = pull.points.map(seen);
  if (!tied || !turn || !end) throw new Error("the line has no turn");
  const away = (a: typeof tied, b: typeof tied) =>
    ({ x: b.x - a.x, y: b.y - a.y, z: b.z - a.z }) as const;
  const long = (v: { x: number; y: number; z: number }) => Math.hypot(v.x, v.y, v.z);
  const [one, two] = [away(tied, turn), away(turn, end)];
  const cos = (one.x * two.x + one.y * two.y + one.z * two.z) / (long(one) * long(two));
  const kept95 = 1 - 0.05 * Math.sin(Math.acos(cos) / 2);
  const run = core(
    ["calc", "fell-sim"],
    JSON.stringify({
      tree: {
        mass_kg: d.piece.mass_kg.high,
        cog_height_m: f.height_m,
        cog_forward_m: f.forward_m - f.within_m,
        cog_side_m: f.side_m + Math.sign(f.side_m) * f.within_m,
        top_height_m: d.piece.length_m,
      },
      hinge: {
        bending_knm: f.hinge.bending_knm,
        to_left_knm: f.hinge.side_capacity_knm.to_left,
        to_right_knm: f.hinge.side_capacity_knm.to_right,
        thickness_over_width: f.hinge.thickness_over_width,
        closes_deg: 70,
      },
      back: { cut_m: f.hinge.back_cut_m, kerf_m: 0.009, wedged: true },
      ground: { hinge_height_m: cut.z },
      lines: [
        {
          name: pull.name,
          attach_height_m: tied.z,
          attach_forward_m: tied.x,
          attach_side_m: tied.y,
          anchor_distance_m: Math.hypot(turn.x, turn.y),
          bearing_deg: (Math.atan2(turn.y, turn.x) * 180) / Math.PI,
          anchor_height_m: turn.z,
          lead_m: long(two),
          efficiency: kept95,
          rope: { mbs_kn: rope?.mbs_kn, elongation: rope?.elongation },
          pretension_kn: line?.pretension_kn,
          haul: { speed_m_s: 0.15, stall_kn: line?.effort_kn },
        },
      ],
      until_s: 180,
    }),
  ) as { outcome: string; time_s: number; goes_alone_deg: number; lines: { peak_kn: number }[] };
  expect(run.outcome).toBe("goes");
  const trace = page.getByTestId("trace");
  await expect(trace).toContainText(`It goes: its tip is down after ${run.time_s.toFixed(1)} s.`);
  await expect(trace).toContainText(`From ${run.goes_alone_deg.toFixed(1)}° its own weight`);
  await expect(trace).toContainText(`${run.lines[0]?.peak_kn.toFixed(1)} kN`);
  // The film stands where the scrubber does.
  await page.getByRole("slider", { name: "Moment of the film" }).fill("12");
  await expect(page.getByTestId("film")).toBeVisible();
  await page.request.delete(`/api/jobs/${id}`);
});

test("the phone at the stump", async ({ page }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto(`/job/${lock}`);
  const pick = page.getByTestId("one-pick");
  await expect(pick).toContainText("NW 300°");
  await expect(pick.getByTestId("at-stump")).toContainText("16.0");
  await expect(pick).toContainText("take up, cut, pull to NW");
  await expect(pick).toContainText("If that does not do");
});
