import { expect, open, saved, test } from "../support/job";

const drawing = (unit: number, entities: string) =>
  Buffer.from(
    `0 SECTION 2 HEADER 9 $INSUNITS 70 ${unit} 0 ENDSEC 0 SECTION 2 ENTITIES ${entities} 0 ENDSEC 0 EOF`
      .split(" ")
      .join("\n"),
  );

test("a plan comes in from a drawing, seen before it is taken over; and goes out in degrees once it has a place", async ({
  page,
  job,
}) => {
  await open(page, job);
  await page.getByRole("button", { name: "Setup" }).click();
  await page.getByRole("tab", { name: "Site" }).click();
  await page.getByText("Bring in a plan from a file").click();
  const choose = (name: string, buffer: Buffer) =>
    page.getByLabel("Choose a plan").setInputFiles({ name, mimeType: "image/vnd.dxf", buffer });
  await choose("half.dxf", Buffer.from("0\nSECTION\n"));
  await expect(page.getByRole("alert")).toContainText("not all of it came");
  const entities =
    "0 LWPOLYLINE 8 HOUSE 90 4 70 1 10 20000 20 0 10 28000 20 0 10 28000 20 6000 10 20000 20 6000 0 LINE 8 B12 10 0 20 15000 11 9000 21 15000";
  await choose("plan.dxf", drawing(0, entities));
  const what = page.getByRole("region", { name: "What the plan would do" });
  await expect(what).toContainText("does not say its unit");
  await what.getByRole("button", { name: "millimetres" }).click();
  await expect(what).toContainText("30 m are taken");
  await what.getByLabel("“B12” is").selectOption("fence");
  await expect(what.getByRole("checkbox")).toHaveCount(2);
  await what.getByRole("checkbox").nth(1).uncheck();
  await what.getByRole("button", { name: "Take 1 over" }).click();
  await expect(page.getByText("1 taken over.")).toBeVisible();
  await saved(page);
  const kept = async () =>
    (await (await page.request.get(`/api/jobs/${job}`)).json()) as {
      job: { site: { targets: { name: string; outline?: unknown }[] } };
    };
  expect((await kept()).job.site.targets.find((t) => t.name === "HOUSE")?.outline).toHaveLength(4);

  // Metres are no degrees: only with a place on earth there is GeoJSON.
  expect((await page.request.get(`/api/jobs/${job}/site.geojson`)).status()).toBe(422);
  const place = page.getByLabel("Latitude and longitude of the plan's origin");
  await place.fill("somewhere");
  await place.press("Enter");
  await expect(page.getByRole("alert")).toContainText("is no place");
  await place.fill("48.00001, -40.00002");
  await place.press("Enter");
  await expect
    .poll(async () => (await page.request.get(`/api/jobs/${job}/site.geojson`)).status())
    .toBe(200);
  const out = await page.request.get(`/api/jobs/${job}/site.geojson`);
  await page.getByLabel("Choose a plan").setInputFiles({
    name: "site.geojson",
    mimeType: "application/geo+json",
    buffer: await out.body(),
  });
  await expect(what).toContainText("Nothing of it is new here.");
});
