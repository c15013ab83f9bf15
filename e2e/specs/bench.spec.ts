import { readFileSync } from "node:fs";
import { assess, choose, crewOf, demo, expect, kept, open, rung, test } from "../support/job";
import { core } from "../support/server";
import { carried } from "../support/whole";

interface Instrument {
  kind: string;
  title: string;
  begin: Record<string, unknown>;
  answer: string;
}
const instruments = JSON.parse(
  readFileSync(new URL("../../web/src/lib/bench/instruments.json", import.meta.url), "utf8"),
) as Instrument[];

const figureAt = (document: unknown, path: string): number =>
  path
    .split(/[.[\]]+/)
    .filter(Boolean)
    .reduce<unknown>((one, step) => (one as Record<string, unknown>)[step], document) as number;

test("every instrument shows what the sum says by the command line", async ({ page }) => {
  await page.goto("/bench");
  const search = page.getByPlaceholder("choker, redirect, how heavy");
  for (const one of instruments) {
    await search.fill("");
    await page.getByRole("button", { name: one.title, exact: true }).last().click();
    const shown = page.getByTestId("instrument");
    await expect(shown).toHaveAttribute("data-kind", one.kind);
    const answer = core(["calc", one.kind], JSON.stringify(one.begin));
    if (one.answer === "") {
      await expect(shown.getByText(/./).first()).toBeVisible();
      continue;
    }
    const want = figureAt(answer, one.answer);
    const text = page.getByTestId("bench-answer");
    await expect
      .poll(async () => {
        const words = (await text.textContent()) ?? "";
        const figure = /(-?[\d,]+(?:\.\d+)?)\s*(cm)?[^\d]*$/.exec(words);
        const value = Number(figure?.[1]?.replaceAll(",", "")) / (figure?.[2] ? 100 : 1);
        return Math.abs(value - want) <= 0.02 * Math.max(1, Math.abs(want));
      }, `${one.kind}: ${want}`)
      .toBe(true);
  }
});

test("a log is weighed in two presses and three entries, on a phone, and its address opens it again", async ({
  page,
}) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await page.goto("/");
  await page.getByRole("link", { name: "Bench" }).click();
  await page.getByRole("button", { name: "What does this log weigh?" }).click();
  const enter = async (label: string, text: string) => {
    await page.getByLabel(label, { exact: true }).fill(text);
    await page.getByLabel(label, { exact: true }).press("Enter");
  };
  await enter("station 1, diameter", "22in");
  await enter("station 2, diameter", "22in");
  await enter("station 2, at", "8ft");
  // A cylinder of 22 inches and 8 feet of red oak.
  const kg = (
    core(
      ["calc", "piece"],
      JSON.stringify({
        wood: { species: "northern-red-oak" },
        stations: [
          { at_m: 0, diameter_m: 0.5588 },
          { at_m: 2.4384, diameter_m: 0.5588 },
        ],
        method: "frustum",
      }),
    ) as { mass_kg: { likely: number } }
  ).mass_kg.likely;
  await expect(page.getByTestId("bench-answer")).toContainText(String(Math.round(kg)));
  await page.goto(page.url());
  await expect(page.getByTestId("bench-answer")).toContainText(String(Math.round(kg)));
  // What cannot be is named at its field, and nothing is lost.
  await enter("station 2, at", "-3");
  await expect(page.getByRole("alert").first()).toBeVisible();
  await enter("station 2, at", "3 m");
  await expect(page.getByTestId("bench-answer")).toContainText("kg");
});

test("hold a figure and ask for an input; the same over a range", async ({ page }) => {
  await page.goto("/bench");
  await page.getByPlaceholder("choker, redirect, how heavy").fill("how many wr");
  await page.getByPlaceholder("choker, redirect, how heavy").press("Enter");
  const panel = page.getByRole("region", { name: "Hold and ask" });
  await panel.getByLabel("Ask for").selectOption({ label: "friction" });
  await panel.getByLabel("at", { exact: true }).fill("3");
  await panel.getByLabel("at", { exact: true }).press("Enter");
  await panel.getByRole("button", { name: "Ask", exact: true }).click();
  // ln 45 over 6π.
  await expect(page.getByTestId("asked")).toContainText((Math.log(45) / (6 * Math.PI)).toFixed(4));
  await page.getByRole("button", { name: "Take it" }).click();
  await expect(page.getByTestId("bench-answer")).toContainText("3");
  await panel.getByRole("button", { name: "Over a range" }).click();
  const curve = page.getByTestId("sweep");
  await expect(curve).toBeVisible();
  await curve.focus();
  await page.keyboard.press("ArrowRight");
  await expect(curve).toHaveAttribute("aria-valuetext", /0\.\d+: \d/);
});

test("the bench goes on with no signal", async ({ page, context }) => {
  await page.goto("/bench?sum=hinge");
  await expect(page.getByTestId("stump")).toBeVisible();
  await page.evaluate(() => navigator.serviceWorker.ready);
  await page.reload();
  await expect(page.getByTestId("stump")).toBeVisible();
  await page.waitForTimeout(1500);
  await context.setOffline(true);
  await page.getByLabel("face depth").fill("20 cm");
  await page.getByLabel("face depth").press("Enter");
  const bending = (
    core(
      ["calc", "hinge"],
      JSON.stringify({
        stump: { diameter_m: 0.6 },
        face_depth_m: 0.2,
        thickness_m: { left: 0.06, right: 0.06 },
        strength_mpa: 50,
      }),
    ) as { bending_knm: number }
  ).bending_knm;
  await expect(page.getByTestId("bench-answer")).toContainText(String(+bending.toPrecision(4)));
  await context.setOffline(false);
});

test("the weight table for the truck: on screen as calc says, as CSV, on one page", async ({
  page,
}) => {
  await page.goto("/bench");
  await page.getByRole("link", { name: "Weight table, for the truck" }).click();
  await page.getByLabel("Wood").selectOption({ label: "White oak" });
  await page.getByLabel("Gets thinner").selectOption("0.02");
  await page.getByLabel("Mark what is over").fill("300 kg");
  await page.getByLabel("Mark what is over").press("Enter");
  const table = page.getByTestId("weights");
  await expect(table).toContainText("× ");
  const answer = core(
    ["calc", "piece"],
    JSON.stringify({
      wood: { species: "white-oak" },
      stations: [
        { at_m: 0, diameter_m: 0.5 },
        { at_m: 2, diameter_m: 0.46 },
      ],
    }),
  ) as { mass_kg: { high: number } };
  const row = table.getByRole("row", { name: /^50.0 cm/ });
  // The fourth length is two metres.
  await expect(row.getByRole("cell").nth(3)).toHaveText(
    `× ${Math.round(answer.mass_kg.high).toLocaleString("en")} kg`,
  );
  const coming = page.waitForEvent("download");
  await page.getByRole("button", { name: "CSV" }).click();
  const csv = await (await coming).createReadStream().then((s) => s.toArray());
  expect(Buffer.concat(csv as Buffer[]).toString()).toContain(
    `"${Math.round(answer.mass_kg.high)}"`,
  );
  const link = await page
    .getByRole("link", { name: "One page for the truck" })
    .getAttribute("href");
  const pdf = await page.request.get(link ?? "");
  expect([pdf.status(), pdf.headers()["content-type"]]).toEqual([200, "application/pdf"]);
  // What the scale taught a job of this wood is taken, where it is heavier.
  const oak = carried() as unknown as Awaited<ReturnType<typeof kept>>["job"];
  oak.name = "Weighed oak";
  const stem = oak.trees[0];
  if (!stem) throw new Error("no tree");
  stem.wood = { species: "white-oak" };
  stem.limbs = [];
  oak.picks = [{ id: "p1", what: "stem", cut_m: 12, way: "free" }];
  const [top] = assess(oak, "p1", await crewOf(page, oak)).picks;
  oak.facts = [{ id: "w", what: "weighed", pick: "p1", kg: 1.5 * (top?.mass_kg?.likely ?? 0) }];
  const made = (await (await page.request.post("/api/jobs", { data: oak })).json()) as {
    id: string;
  };
  await page.reload();
  await page.getByLabel("Wood").selectOption({ label: "White oak" });
  await page.getByLabel("Taught by the scale of").selectOption({ label: "Weighed oak" });
  await expect(page.getByTestId("taught")).toContainText(
    /^\s*Raised by \d+ % for what the scale taught: one weighing, Weighed oak\./,
  );
  const taughtPage = await page
    .getByRole("link", { name: "One page for the truck" })
    .getAttribute("href");
  expect(taughtPage).toContain("taught_by=Weighed%20oak");
  expect((await page.request.get(taughtPage ?? "")).status()).toBe(200);
  await page.getByLabel("Wood").selectOption({ label: "English oak" });
  await expect(page.getByTestId("taught")).toContainText("No stem of this wood was weighed there");
  await page.request.delete(`/api/jobs/${made.id}`);
  await page.getByLabel("Mark what is over").fill("heavy");
  await page.getByLabel("Mark what is over").press("Enter");
  await expect(page.getByRole("alert")).toBeVisible();
});

test("the wraps card: the crew's own bollard and rope, turn by turn, on one page", async ({
  page,
}) => {
  await page.goto("/bench");
  await page.getByRole("link", { name: "Wraps card, by the bollard" }).click();
  await page.getByLabel("Device", { exact: true }).selectOption({ label: "Harbour bollard" });
  await page.getByLabel("Rope", { exact: true }).selectOption({ label: "Heron line 16 mm" });
  await page.getByLabel("The hand holds").fill("0.25 kN");
  await page.getByLabel("The hand holds").press("Enter");
  await page.getByLabel("Drum, long").fill("6 cm");
  await page.getByLabel("Drum, long").press("Enter");
  const table = page.getByTestId("wraps-card");
  await expect(page.getByText("3 turns fit on the drum.")).toBeVisible();
  // Three turns at three quarters of its friction of 0.2.
  const holds = 0.25 * Math.exp(2 * Math.PI * 0.15 * 3);
  await expect(table.getByRole("row", { name: /^3 / })).toContainText(`${holds.toFixed(1)} kN`);
  await expect(table.getByRole("row", { name: /4 does not fit/ })).toBeVisible();
  const link = await page
    .getByRole("link", { name: "One page to hang by it" })
    .getAttribute("href");
  const pdf = await page.request.get(link ?? "");
  expect(pdf.headers()["content-type"]).toContain("application/pdf");
});

test("a log gets a third station, and becomes a stem in a job", async ({ page }) => {
  await page.goto("/bench?sum=piece");
  await page.getByRole("button", { name: "Add a station" }).click();
  const third = page.getByLabel("station 3, diameter", { exact: true });
  await third.fill("30 cm");
  await third.press("Enter");
  const at = page.getByLabel("station 3, at", { exact: true });
  await at.fill("5 m");
  await at.press("Enter");
  const request = () =>
    JSON.parse(new URL(page.url()).searchParams.get("with") ?? "{}") as Record<string, unknown>;
  await expect.poll(() => JSON.stringify(request().stations)).toContain('"at_m":5');
  const want = figureAt(core(["calc", "piece"], JSON.stringify(request())), "mass_kg.likely");
  await expect
    .poll(async () =>
      Number(((await page.getByTestId("bench-answer").textContent()) ?? "").replace(/[^\d.]/g, "")),
    )
    .toBe(Math.round(want));
  await page.getByRole("button", { name: "Put it in a job" }).click();
  await page.waitForURL(/\/job\//);
  await expect(page.getByTestId("state")).toBeVisible();
  await expect(page.locator("[data-core=here]")).toBeAttached();
  const id = page.url().split("/").at(-1) ?? "";
  const { job } = (await (await page.request.get(`/api/jobs/${id}`)).json()) as {
    job: { trees: { readings: { at_m: number; tape_m: number }[]; height_m: number }[] };
  };
  expect(job.trees[0]?.readings.map((r) => [r.at_m, r.tape_m])).toEqual([
    [0, 0.56],
    [2.44, 0.5],
    [5, 0.3],
  ]);
  expect(job.trees[0]?.height_m).toBe(5);
  await page.request.delete(`/api/jobs/${id}`);
});

test("a rung's working opens the same sum on the bench", async ({ page }) => {
  await open(page, demo);
  await choose(page, 19);
  await rung(page, "Line").click();
  await page.getByRole("link", { name: "On the bench" }).click();
  await expect(page.getByTestId("instrument")).toHaveAttribute("data-kind", /drop|catch/);
  const request = new URL(page.url()).searchParams.get("with") ?? "";
  const kind = new URL(page.url()).searchParams.get("sum") ?? "";
  const answer = core(["calc", kind], request) as { line_peak_kn: number };
  await expect(page.getByTestId("bench-answer")).toContainText(answer.line_peak_kn.toFixed(1));
});

test("every instrument but the stump's has its picture, whose parts move by the keyboard", async ({
  page,
}) => {
  test.setTimeout(120_000);
  for (const one of instruments) {
    await page.goto(`/bench?sum=${one.kind}`);
    const shown = page.getByTestId("instrument");
    await expect(shown).toHaveAttribute("data-kind", one.kind);
    if (one.kind === "hinge") {
      await expect(page.getByTestId("stump")).toBeVisible();
      continue;
    }
    const picture = page.getByTestId("picture");
    await expect(picture).toBeVisible();
    // How a system is led, and what the turns leave, is asked for and not dragged.
    if (["haul", "wraps"].includes(one.kind)) continue;
    await expect(picture.getByRole("slider").first()).toBeAttached();
    const grips = await picture.getByRole("slider").count();
    for (let i = 0; i < Math.min(grips, 4); i++) {
      const grip = picture.getByRole("slider").nth(i);
      const before = await grip.getAttribute("aria-valuetext");
      await grip.focus();
      for (const key of ["ArrowDown", "ArrowLeft", "ArrowUp", "ArrowRight"]) {
        await page.keyboard.press(key);
        if ((await grip.getAttribute("aria-valuetext")) !== before) break;
      }
      await expect(
        grip,
        `${one.kind}: ${(await grip.getAttribute("aria-label")) ?? ""}`,
      ).not.toHaveAttribute("aria-valuetext", before ?? "");
    }
  }
});

test("an anchor and the saw are dragged: the figures are the sum's of where they are let go", async ({
  page,
}) => {
  await page.goto("/bench?sum=fell");
  const drag = async (name: string, dx: number, dy: number) => {
    const grip = page.getByTestId("picture").getByRole("slider", { name });
    const box = await grip.boundingBox();
    if (!box) throw new Error(`${name} is not drawn`);
    await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2);
    await page.mouse.down();
    await page.mouse.move(box.x + box.width / 2 + dx / 2, box.y + box.height / 2 + dy / 2);
    await page.mouse.move(box.x + box.width / 2 + dx, box.y + box.height / 2 + dy);
    await page.mouse.up();
  };
  const begin = instruments.find((one) => one.kind === "fell")?.begin as {
    pull: { anchor_distance_m: number; anchor_height_m?: number };
  };
  await drag("The anchor", -60, 0);
  const out = page.getByLabel("pull, anchor distance", { exact: true });
  await expect
    .poll(async () => parseFloat(await out.inputValue()))
    .toBeLessThan(begin.pull.anchor_distance_m - 1);
  const near = structuredClone(begin);
  near.pull.anchor_distance_m = parseFloat(await out.inputValue());
  near.pull.anchor_height_m = 0;
  const pull = (core(["calc", "fell"], JSON.stringify(near)) as { pull_kn: number }).pull_kn;
  await expect(page.getByTestId("bench-answer")).toContainText(pull.toFixed(1));

  await page.goto("/bench?sum=bind");
  await drag("The saw", 40, 0);
  await expect(page.getByLabel("cut at", { exact: true })).not.toHaveValue(/^3(\.00)? m$/);
  await expect(page.getByTestId("picture")).toContainText("begin here, shallow");
});
