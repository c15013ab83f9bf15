import { readFileSync } from "node:fs";
import { expect, kept, open, saved, test } from "../support/job";

const named = (name: string) => `${name} ${Date.now().toString(36)}`;

test("create, rename, copy, delete with undo", async ({ page }) => {
  const name = named("Otter Steps");
  await page.goto("/");
  await page.getByLabel("Name of the new job").fill(name);
  await page.getByRole("button", { name: "Start a job" }).click();
  await expect(page.getByLabel("Name of the job")).toHaveValue(name);
  await page.getByRole("link", { name: "Elk Stay: all jobs" }).click();

  const renamed = named("Otter Landing");
  await page.getByRole("button", { name: `Rename ${name}` }).click();
  await page.getByLabel("New name").fill(renamed);
  await page.getByRole("button", { name: "Rename", exact: true }).click();
  await expect(page.getByRole("link", { name: new RegExp(`^${renamed}`) })).toContainText(
    "revision 2",
  );

  await page.getByRole("button", { name: `Copy ${renamed}` }).click();
  const copy = page.getByRole("link", { name: new RegExp(`^${renamed}, copy`) });
  await expect(copy).toContainText("revision 1");

  await page.getByRole("button", { name: `Delete ${renamed}, copy` }).click();
  await expect(copy).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(copy).toBeVisible();
});

test("a long list is searched and read on, and what was deleted is brought back", async ({
  page,
}) => {
  const mark = named("Heron Weir");
  const empty = (await (await page.request.get("/api/reference")).json()).empty_job as object;
  for (let i = 0; i < 103; i++) {
    await page.request.post("/api/jobs", { data: { ...empty, name: `${mark} ${i}` } });
  }
  await page.goto("/");
  const rows = page.getByRole("list", { name: "Jobs" }).getByRole("listitem");
  await page.getByLabel("Search the jobs").fill(mark.toUpperCase());
  await expect(page.getByText("103 jobs")).toBeVisible();
  await expect(rows).toHaveCount(100);
  await page.getByRole("button", { name: "More: 3 older" }).click();
  await expect(rows).toHaveCount(103);
  await expect(rows.last()).toContainText(`${mark} 0`);
  // By name from its first letter on, and the address keeps it.
  await page.getByLabel("Sorted").selectOption("name");
  await expect(rows.first()).toContainText(`${mark} 0`);
  await expect(rows).toHaveCount(100);
  await page.getByRole("button", { name: "More: 3" }).click();
  await expect(rows.last()).toContainText(`${mark} 99`);
  await page.reload();
  await expect(rows.first()).toContainText(`${mark} 0`);
  await page.getByLabel("Sorted").selectOption("saved");
  await page.getByLabel("Search the jobs").fill(`${mark} 102`);
  await expect(rows).toHaveCount(1);
  await page.getByRole("button", { name: `Delete ${mark} 102` }).click();
  await expect(page.getByText("No job has that in its name.")).toBeVisible();
  await page.getByRole("button", { name: "Close" }).click();
  await page.getByRole("button", { name: "Deleted jobs" }).click();
  await expect(page.getByRole("heading", { name: "Deleted jobs" })).toBeVisible();
  await page.getByRole("button", { name: "Bring back" }).click();
  await page.getByRole("button", { name: "Back to the jobs" }).click();
  await expect(rows.first()).toContainText(`${mark} 102`);
  for (const row of (
    (await (await page.request.get(`/api/jobs?limit=1000&search=${mark}`)).json()) as {
      jobs: { id: string }[];
    }
  ).jobs) {
    await page.request.delete(`/api/jobs/${row.id}`);
  }
});

test("a job without a name is not started", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "Start a job" }).click();
  await expect(page.getByRole("alert")).toContainText("name first");
});

test("a job goes out as a file and comes in again", async ({ page, job }) => {
  await open(page, job);
  const name = named("Crane Fen");
  await page.getByLabel("Name of the job").fill(name);
  await page.getByLabel("Name of the job").press("Enter");
  await page.getByLabel("Name of the job").blur();
  await expect(page).toHaveTitle(new RegExp(`^${name}`));
  await saved(page);
  const state = await page.getByTestId("state").textContent();
  await page.getByRole("link", { name: "Elk Stay: all jobs" }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: `Download ${name}` }).click();
  const file = await (await download).path();
  expect(JSON.parse(readFileSync(file, "utf8"))).toMatchObject({
    format: "elkstay-job",
    version: 5,
    name,
  });

  await page.getByLabel("Upload a job file").setInputFiles(file);
  await expect(page.getByRole("link", { name: new RegExp(`^${name}`) })).toHaveCount(2);
  await page
    .getByRole("link", { name: new RegExp(`^${name}`) })
    .first()
    .click();
  await expect(page.getByTestId("state")).toHaveText(state ?? "");
});

test("a job goes out whole and comes in again, with what this locker does not have", async ({
  page,
  job,
}) => {
  const download = await page.request.get(`/api/jobs/${job}/archive`);
  expect(download.headers()["content-type"]).toBe("application/zip");
  await page.goto("/");
  const rows = page.getByRole("list", { name: "Jobs" }).getByRole("listitem");
  await expect(rows.first()).toBeVisible();
  const before = await rows.count();
  await page.getByLabel("Upload a job file").setInputFiles({
    name: "whole.elkstay.zip",
    mimeType: "application/zip",
    buffer: await download.body(),
  });
  await expect(page.getByTestId("came")).toContainText("with 0 pictures and 0 briefings");
  await expect(rows).toHaveCount(before + 1);
  await page.getByLabel("Upload a job file").setInputFiles({
    name: "half.zip",
    mimeType: "application/zip",
    buffer: (await download.body()).subarray(0, 900),
  });
  await expect(page.getByRole("alert")).toContainText("not all of it came");
  expect(await rows.count()).toBe(before + 1);
});

test("a bad file is refused by name and changes nothing", async ({ page, job }) => {
  const good = await (await page.request.get(`/api/jobs/${job}/file`)).text();
  await page.goto("/");
  const rows = page.getByRole("list", { name: "Jobs" }).getByRole("listitem");
  await expect(rows.first()).toBeVisible();
  const before = await rows.count();
  const alert = page.getByRole("alert");
  for (const [content, says] of [
    ["no json at all", "no readable JSON"],
    [good.replace('"version": 5', '"version": 7'), "version 7"],
    [good.replace('"at_m": 4', '"at_m": 4000'), "body.trees[0].readings[2].at_m"],
    [good.replace('"slack_m"', '"slak_m"'), "body.rigs[0].slak_m"],
    [good.replace('"id": "p2"', '"id": "p1"'), "body.picks[1].id"],
    ["[]", "must be an object"],
  ] as const) {
    await page.getByLabel("Upload a job file").setInputFiles({
      name: "bad.json",
      mimeType: "application/json",
      buffer: Buffer.from(content),
    });
    await expect(alert).toContainText(says);
    expect(await rows.count()).toBe(before);
  }
});

test("an address without a job says so", async ({ page }) => {
  await page.goto("/job/00000000-0000-4000-8000-000000000000");
  await expect(page.getByRole("heading", { name: "There is nothing here" })).toBeVisible();
  await page.getByRole("link", { name: "All jobs" }).click();
  await expect(page.getByRole("heading", { name: "Jobs" })).toBeVisible();
});

test("from a sentence to a first weight: one entry, one press; a slip is asked about", async ({
  page,
}) => {
  await page.goto("/");
  const sentence = page.getByLabel("Or begin with a whole tree, guessed");
  await sentence.fill("ash 19 m girth 560 m");
  await sentence.press("Enter");
  await expect(page.getByRole("alert")).toContainText("is not likely: is it in other units?");
  await sentence.fill("larch 24 m, 60 cm through");
  await page.getByRole("button", { name: "leaning" }).click();
  await sentence.press("Enter");
  await expect(page.getByTestId("weight")).toBeVisible();
  await expect(page.getByLabel("Name of the job")).toHaveValue("European larch");
  const id = page.url().split("/").at(-1) ?? "";
  const { job } = await kept(page, id);
  const tree = job.trees[0];
  // What was measured is kept as it was read, all else is marked as a guess.
  expect(tree?.readings.filter((r) => !r.offered).map((r) => r.tape_m)).toEqual([0.6 * Math.PI]);
  expect(tree?.limbs.every((l) => l.guess)).toBe(true);
  expect(tree?.lean_deg).toBe(12);
  await expect(page.getByText(/limbs are a guess/).first()).toBeAttached();
  await page.request.delete(`/api/jobs/${id}`);
});

test("the list shows how far the work of each job is", async ({ page, job }) => {
  // A copy of the demo, at the head of the list.
  const { name } = (await (await page.request.get(`/api/jobs/${job}`)).json()).job as {
    name: string;
  };
  await page.goto("/");
  const row = page
    .getByRole("list", { name: "Jobs" })
    .getByRole("listitem")
    .filter({ has: page.locator(`a[href$="${job}"]`) });
  await row.scrollIntoViewIfNeeded();
  await expect(row).toContainText(name);
  await expect(row.getByTestId("stage")).toContainText(/begun: 1 of \d+ down/);
  await expect(row.locator("svg path")).not.toHaveCount(1);
});

test("a sample job can be had again", async ({ page }) => {
  await page.goto("/");
  await page.getByRole("button", { name: "three to pull over" }).click();
  await expect(page).toHaveURL(/\/job\//);
  await expect(page.getByTestId("state")).toContainText("4 picks");
  await page.goto("/");
  const first = page.getByRole("list", { name: "Jobs" }).getByRole("listitem").first();
  await first.scrollIntoViewIfNeeded();
  await expect(first).toContainText("Reed Lock");
  await expect(first.getByTestId("stage")).toContainText("planned: 4 picks");
});
