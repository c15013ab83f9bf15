import { readFileSync } from "node:fs";
import { choose, expect, kept, open, rung, saved, second, test } from "../support/job";

const mark = () => Date.now().toString(36);
const rows = (text: string) => ({
  name: "gear.csv",
  mimeType: "text/csv",
  buffer: Buffer.from(text),
});

test("thirty items, one overdue, one set aside; search and filter", async ({ page }) => {
  await page.goto("/locker");
  const list = page.getByRole("list", { name: "Items" });
  await expect(list.getByRole("link", { name: /Heron line 16 mm L?/ }).first()).toBeVisible();
  await page.getByLabel("Standing").selectOption("overdue");
  await expect(list.getByRole("listitem")).toHaveCount(1);
  await expect(list).toContainText("Loft sling");
  await page.getByLabel("Standing").selectOption("set aside");
  await expect(list.getByRole("listitem")).toHaveCount(1);
  await expect(list).toContainText("Stilt line 14 mm");
  await page.getByLabel("Standing").selectOption("");
  await page.getByLabel("Search").fill("L-019");
  await expect(list.getByRole("listitem")).toHaveCount(1);
  // Marked nowhere: 112 kN over the policy's ten.
  await expect(list).toContainText("11.2 kN");
  await expect(list).toContainText("by policy");
  await page.getByLabel("Search").fill("nothing of that name");
  await expect(page.getByText("Nothing in the locker fits all of that.")).toBeVisible();
});

test("an item is made, refused by name, inspected, set aside, deleted and brought back", async ({
  page,
}) => {
  const name = `Test block ${mark()}`;
  await page.goto("/locker");
  await page.getByRole("link", { name: "Add an item" }).click();
  const form = page.getByRole("form", { name: "New item" });
  await form.getByLabel("Kind").selectOption("block");
  await form.getByLabel("Name", { exact: true }).fill(name);
  await form.getByLabel("Marked working load").fill("80 kN");
  await form.getByLabel("Breaking strength").fill("3600 lbf");
  await form.getByLabel("Bend diameter").fill("120 mm");
  await form.getByRole("button", { name: "Put it in the locker" }).click();
  await expect(form.getByRole("alert")).toContainText("are they swapped");
  await form.getByLabel("Marked working load").fill("3.2");
  await form.getByRole("button", { name: "Put it in the locker" }).click();
  const item = page.getByRole("form", { name });
  await expect(item.getByText("no inspection is on record")).toBeVisible();
  await item.getByRole("button", { name: "Add an inspection" }).click();
  await item.getByLabel("By", { exact: true }).fill("yard lead");
  await item.getByLabel("Next due").fill("2020-01-01");
  await item.getByRole("button", { name: "Save" }).click();
  await expect(item.getByRole("alert")).toContainText("is due (2020-01-01) before this one");
  await item.getByLabel("Next due").fill("2099-01-01");
  await item.getByRole("button", { name: "Save" }).click();
  await expect(item.getByText("ready")).toBeVisible();
  await item.getByRole("button", { name: "Set it aside" }).click();
  await item.getByLabel("Why").fill("cheek bent");
  // What is not saved is still there when the page comes back.
  await page.reload();
  await expect(item.getByLabel("Why")).toHaveValue("cheek bent");
  await item.getByRole("button", { name: "Save" }).click();
  await expect(item.getByText(/set aside on .*: cheek bent/)).toBeVisible();
  await item.getByRole("button", { name: `Delete ${name}` }).click();
  await page.getByRole("button", { name: "Undo" }).click();
  await page.getByLabel("Search").fill(name);
  await expect(page.getByRole("list", { name: "Items" })).toContainText("set aside");
  await page.getByRole("link", { name: new RegExp(name) }).click();
  await item.getByRole("button", { name: `Delete ${name}` }).click();
  await expect(page.getByText("Nothing in the locker fits")).toBeVisible();
});

test("two people change one item: what they do not share comes together, what they do is asked", async ({
  page,
  context,
}) => {
  const id = crypto.randomUUID();
  const name = `Shared sling ${mark()}`;
  const at = `/api/locker/items/${id}`;
  await page.request.put(at, {
    headers: { "If-Match": '"0"' },
    data: { id, kind: "sling", name, marked_kn: 20, breaking_kn: 140, length_m: 3 },
  });
  const other = await context.newPage();
  for (const one of [page, other]) await one.goto(`/locker?item=${id}`);
  const mine = page.getByRole("form", { name: /Shared sling/ });
  const theirs = other.getByRole("form", { name: /Shared sling/ });
  await theirs.getByLabel("Serial").fill("S-77");
  await theirs.getByLabel("Note").fill("spliced anew");
  await theirs.getByLabel("Note").blur();
  await theirs.getByRole("button", { name: "Save" }).click();
  await expect(theirs.getByRole("button", { name: "Save" })).toBeDisabled();
  await mine.getByLabel("Length").fill("6 m");
  await mine.getByLabel("Length").blur();
  await mine.getByRole("button", { name: "Save" }).click();
  await expect(mine.getByText("both changes are here together")).toBeVisible();
  await expect(mine.getByLabel("Serial")).toHaveValue("S-77");
  const kept = async () => ((await (await page.request.get(at)).json()) as { item: object }).item;
  expect(await kept()).toMatchObject({ serial: "S-77", note: "spliced anew", length_m: 6 });
  // The same field, each otherwise; the second to save is asked, with both values.
  await theirs.getByLabel("Length").fill("5 m");
  await theirs.getByLabel("Length").blur();
  await theirs.getByRole("button", { name: "Save" }).click();
  await expect(theirs.getByTestId("apart")).toContainText("Both changed the length");
  // The question outlives the page: nothing is written over unasked.
  await other.reload();
  await expect(theirs.getByTestId("apart")).toContainText("Both changed the length");
  await expect(theirs.getByRole("button", { name: "Save" })).toBeDisabled();
  expect(await kept()).toMatchObject({ length_m: 6 });
  await theirs.getByRole("button", { name: "5.00 m, mine" }).click();
  await theirs.getByRole("button", { name: "Save" }).click();
  await expect.poll(kept).toMatchObject({ length_m: 5, serial: "S-77" });
  await page.request.delete(at);
});

test("a crane's chart pasted from a spreadsheet", async ({ page }) => {
  await page.goto("/locker?item=lane-crane");
  const form = page.getByRole("form", { name: "Lane crane" });
  const paste = form.getByLabel("Paste it from a spreadsheet");
  await paste.fill("m\t18\t24\n6\t5.0\t4.2\n8\t=B2\t3.3\n10\t3.1\t2,65");
  await form.getByRole("button", { name: "Read it" }).click();
  await expect(form.getByRole("alert")).toContainText("Row 3, column 2 holds a formula");
  await expect(form.getByRole("alert")).toContainText("Row 4, column 3");
  await paste.fill("m\t18\t24\n6\t5.0\t4.2\n8\t3.9\t3.3\n10\t3.1\t2.65");
  await form.getByRole("button", { name: "Read it" }).click();
  const chart = form.getByRole("table", { name: "Load chart" });
  await expect(chart.getByRole("row", { name: /^8\.00/ })).toHaveText(/3,900\s*3,300/);
  await form.getByRole("button", { name: "Discard" }).click();
  await expect(chart.getByRole("row")).toHaveCount(8);
});

test("an import says row by row what it would do, and takes all or nothing", async ({ page }) => {
  const serial = mark();
  await page.goto("/locker/import");
  const choose = (text: string) => page.locator("input[type=file]").setInputFiles(rows(text));
  const good = `kind,name,serial,marked_kn,length_m\nsling,Test sling,T-${serial},20,3\nrope,,L-016-1,,60\nblock,Quay block,B-30-1,30,\n`;
  await choose(good.replace("T-", "T-").replace(",20,3", ",20 lbf,3"));
  const table = page.getByRole("region", { name: "What the file would do" });
  await expect(table.locator("tr[data-does=wrong]")).toContainText(
    "D2 marked_kn: 20 lbf is in lbf, and the column is in kn: two units are mixed",
  );
  await expect(page.getByRole("button", { name: "Take it over" })).toBeDisabled();
  await choose(good.replace("60", "61"));
  await expect(page.getByText("1 new, 1 changed, 1 the same.")).toBeVisible();
  await expect(table.locator("tr[data-does=change]")).toContainText(/length_m: 60\s*→ 61/);
  await choose(good);
  await expect(page.getByText("1 new, 0 changed, 2 the same.")).toBeVisible();
  await page.getByRole("button", { name: "Take it over" }).click();
  await expect(page.getByText("Taken over: 1 new, 0 changed.")).toBeVisible();
  await choose(good);
  await expect(page.getByText("0 new, 0 changed, 3 the same.")).toBeVisible();
  const items = (await (await page.request.get("/api/locker?limit=1000")).json()) as {
    items: { id: string; serial: string }[];
  };
  const made = items.items.find((item) => item.serial === `T-${serial}`);
  expect(made).toBeDefined();
  await page.request.delete(`/api/locker/items/${made?.id}`);
});

test("a file of another place is read as it writes, and what can be read in two ways is asked", async ({
  page,
}) => {
  await page.goto("/locker/import");
  const serial = mark();
  const choose = (text: string) => page.locator("input[type=file]").setInputFiles(rows(text));
  const what = page.getByRole("region", { name: "What the file would do" });
  await choose(
    `kind;name;serial;marked_kn;in_service\nsling;Schlinge;S-${serial};1,200;3/4/2026\n`,
  );
  const asked = what.getByTestId("asked");
  await expect(asked).toHaveCount(2);
  await expect(asked.first()).toContainText("D2 says 1,200.");
  await expect(page.getByRole("button", { name: "Take it over" })).toBeDisabled();
  await page.getByRole("button", { name: "It is 1.200" }).click();
  await expect(asked).toHaveCount(1);
  await page.getByRole("button", { name: "It is 2026-04-03" }).click();
  await expect(asked).toHaveCount(0);
  await expect(what.getByTestId("dialect")).toContainText("UTF-8, semicolons between cells");
  await expect(what.locator("tr[data-does=new]")).toBeVisible();
  await expect(page.getByRole("button", { name: "Take it over" })).toBeEnabled();
  // One press reads it the other way.
  await what.getByRole("button", { name: "decimal comma" }).click();
  await expect(what.getByRole("button", { name: "decimal point" })).toBeVisible();
});

test("bad files are refused in words and change nothing", async ({ page }) => {
  const held = async () => await (await page.request.get("/api/locker?limit=1000")).text();
  const before = await held();
  await page.goto("/locker/import");
  for (const [says, text] of [
    ["is none of a locker's", "sort;name;serial\nrope;a;b\n"],
    ["hold formulas (C2)", "kind,name,breaking_kn\nrope,a,=40*2\n"],
    ["does not say its unit", "kind,name,breaking\nrope,a,80\n"],
    ["in two units", "kind,breaking_kn,breaking_lbf\nrope,80,18000\n"],
    ["is empty", " "],
    ["this is a packed file", "PK\u0003\u0004 nothing"],
  ] as const) {
    await page.locator("input[type=file]").setInputFiles(rows(text));
    const alert = page.getByRole("alert");
    if (says === "this is a packed file") await expect(alert).toContainText("damaged");
    else await expect(alert).toContainText(says);
    await expect(alert).toContainText("nothing was changed");
    await expect(page.getByRole("button", { name: "Take it over" })).toHaveCount(0);
  }
  await page.locator("input[type=file]").setInputFiles({
    name: "large.csv",
    mimeType: "text/csv",
    buffer: Buffer.alloc(45 * 1024 * 1024, "a"),
  });
  await expect(page.getByRole("alert")).toContainText("45.0 MB, and a table has at most 10 MB");
  expect(await held()).toBe(before);
});

test("the locker goes out as CSV and XLSX", async ({ page }) => {
  await page.goto("/locker");
  for (const [name, begins] of [
    ["XLSX", "PK"],
    ["CSV", "id,kind,name,serial,marked_kn"],
  ] as const) {
    const download = page.waitForEvent("download");
    await page.getByRole("link", { name, exact: true }).click();
    const file = readFileSync(await (await download).path());
    expect(file.subarray(0, begins.length).toString()).toBe(begins);
  }
});

test("a rig takes its gear from the locker, and the ladder says what decided", async ({
  page,
  job,
}) => {
  await open(page, job);
  await choose(page, 19);
  await rung(page, "Line").click();
  await expect(page.getByTestId("decided")).toHaveText(
    "Decided by marking: working load as marked",
  );
  await page.keyboard.press("3");
  await page.getByRole("tab", { name: "Rigs" }).click();
  await page.getByRole("button", { name: /^Rope Heron/ }).click();
  await page.getByLabel("Search the locker for rope").fill("curlew");
  await page.getByRole("button", { name: /^Curlew line 19 mm/ }).click();
  await expect(page.getByRole("button", { name: /^Rope Curlew/ })).toBeVisible();
  await saved(page);
  await expect
    .poll(async () => (await kept(page, job)).job.rigs[0]?.rope)
    .toMatchObject({ item: "curlew-19-80", mbs_kn: 112, diameter_m: 0.019 });
  await page.keyboard.press("1");
  await rung(page, "Line").click();
  // 112 kN, bent round the bollard of 120 mm, 6.3 to 1; tied, 65 % of it.
  await expect(page.getByTestId("decided")).toContainText("Decided by bend: 112 kN breaking ×");
  await rung(page, "Tie").click();
  await expect(page.getByTestId("decided")).toContainText(
    "Decided by knot: 112 kN breaking × 65 % running-bowline, design factor 10",
  );
});

test("gear that is overdue is not planned with until a reason is recorded", async ({
  page,
  job,
}) => {
  await open(page, job);
  await choose(page, 19);
  await page.keyboard.press("3");
  await page.getByRole("tab", { name: "Rigs" }).click();
  await page.getByRole("button", { name: /^Sling Dock/ }).click();
  await page.getByLabel("Search the locker for sling", { exact: true }).fill("loft");
  await page.getByRole("button", { name: /^Loft sling/ }).click();
  await expect(page.getByTestId("state")).toContainText("cannot happen in this order");
  await page.keyboard.press("1");
  await expect(page.getByRole("alert").first()).toContainText(
    /Loft sling is not to be planned with: its inspection was due on/,
  );
  await page.keyboard.press("3");
  await page.getByRole("tab", { name: "Gear" }).click();
  await page.getByLabel("Why Loft sling is used all the same").fill("fine");
  await page.getByRole("button", { name: "Record" }).click();
  await expect(page.getByRole("alert")).toContainText("at least 8");
  await page.getByLabel("Why Loft sling is used all the same").fill("looked over on site, sound");
  await page.getByLabel("Who answers for it").fill("site lead");
  await page.getByRole("button", { name: "Record" }).click();
  await expect(page.getByText(/says site lead: looked over on site, sound/)).toBeVisible();
  await expect(page.getByTestId("state")).not.toContainText("cannot happen");
  await saved(page);
  expect((await kept(page, job)).job.exceptions).toMatchObject([
    { id: "loft-sling", state: "overdue", by: "site lead" },
  ]);
  // The reason stands beside the figure, and can be taken back.
  await page.keyboard.press("1");
  await rung(page, "Sling").click();
  await expect(page.getByText(/Used all the same, says site lead/)).toBeVisible();
  await page.keyboard.press("3");
  await page.getByRole("tab", { name: "Gear" }).click();
  await page.getByRole("button", { name: "Withdraw the reason for Loft sling" }).click();
  await expect(page.getByTestId("state")).toContainText("cannot happen");
});

test("the slings of a lift come from the locker too", async ({ page, request }) => {
  const copy = await request.post(`/api/jobs/${second}/copy`);
  const { id } = (await copy.json()) as { id: string };
  await open(page, id);
  await choose(page, 2);
  await page.keyboard.press("2");
  await page.getByRole("button", { name: /^Gear of butt sling Butt sling/ }).click();
  await page.getByLabel("Search the locker for gear of butt sling").fill("loft");
  await page.getByRole("button", { name: /^Loft sling/ }).click();
  await expect(page.getByTestId("state")).toContainText("cannot happen");
  await page.keyboard.press("1");
  await expect(page.getByRole("alert").first()).toContainText(
    "Loft sling is not to be planned with",
  );
  await saved(page);
  // 210 kN over the policy's ten.
  expect((await kept(page, id)).job.picks[1]?.lift?.slings[0]).toMatchObject({
    item: "loft-sling",
    wll_kn: 21,
  });
});
