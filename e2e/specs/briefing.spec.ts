import { execFileSync } from "node:child_process";
import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import { assess, choose, crewOf, expect, kept, open, picks, saved, test } from "../support/job";

const joined = (text: string) => text.replace(/\s+/g, " ");

/** The text of a PDF, read by a program that is not ours. */
const textOf = (pdf: Buffer) =>
  execFileSync("pdftotext", ["-layout", "-", "-"], { input: pdf }).toString();

async function made(page: Page, job: string): Promise<string> {
  const answer = await page.request.get(`/api/jobs/${job}/briefings`);
  const [newest] = ((await answer.json()) as { briefings: { id: string }[] }).briefings;
  const pdf = await page.request.get(`/api/jobs/${job}/briefings/${newest?.id}/pdf`);
  expect(pdf.headers()["content-type"]).toBe("application/pdf");
  return textOf(await pdf.body());
}

async function brief(page: Page, job: string): Promise<void> {
  await page.goto(`/job/${job}/briefing`);
  await expect(page.getByTestId("paper")).toBeVisible();
  const before = await page
    .getByRole("list", { name: "Briefings made" })
    .getByRole("listitem")
    .count();
  const popup = page.waitForEvent("popup");
  await page.getByRole("button", { name: "Make the PDF" }).click();
  await (await popup).close();
  await expect(page.getByText(`Made so far: ${before + 1}`)).toBeVisible();
}

test("every figure on paper is the screen's", async ({ page, job }) => {
  await brief(page, job);
  const pdf = await made(page, job);
  const paper = page.getByRole("table", { name: "Picks" });
  const { job: document } = await kept(page, job);
  const a = assess(document, "", await crewOf(page, document));
  const lines = pdf.split("\n").map(joined);
  for (const p of a.picks) {
    const row = paper.locator(`tr[data-pick="${p.id}"]`);
    const line = lines.find((l) => l.trim().startsWith(`${p.number} ${p.title.slice(0, 8)}`)) ?? "";
    const cells = (await row.getByRole("cell").allTextContents()).map((text) =>
      joined(text).trim(),
    );
    // weight, tie, wraps, run, peak, the worst, verdict: on the page and in the PDF.
    for (const k of [5, 7, 8, 9, 10, 11]) expect(line, `pick ${p.number}`).toContain(cells[k]);
    if (p.mass_kg) {
      // What a weight rests on stands beside it on the page, beneath it on paper.
      const [weight = "", basis] = (cells[2] ?? "").split(/ (?=[a-z]+$)/);
      expect(line, `pick ${p.number}`).toContain(weight);
      expect(weight).toContain(Math.round(p.mass_kg.high).toLocaleString("en"));
      expect(basis).toBe(p.basis);
      const beneath = lines.slice(lines.indexOf(line) - 1, lines.indexOf(line) + 3).join(" ");
      expect(beneath).toContain(p.basis);
    }
  }
  // And on the board.
  await open(page, job);
  for (const [i, p] of a.picks.entries()) {
    const row = picks(page).nth(i);
    const line = lines.find((l) => l.trim().startsWith(`${p.number} ${p.title.slice(0, 8)}`)) ?? "";
    const weight = /[\d,.]+–[\d,.]+ kg/.exec((await row.textContent()) ?? "")?.[0] ?? "no weight";
    expect(line).toContain(weight);
    if (p.worst) {
      await expect(row).toContainText(p.worst);
      expect(line).toContain(p.worst);
    }
  }
  await choose(page, 19);
  const peak = /%[^\d]*([\d.]+)\s*kN/.exec(
    (await page.getByRole("button", { name: /^Line/ }).textContent()) ?? "",
  )?.[1];
  expect(lines.find((l) => l.trim().startsWith("19 "))).toContain(`${peak} kN`);
});

test("revision and time on each page; an older one says that the job has moved on", async ({
  page,
  job,
}) => {
  await brief(page, job);
  const pages = (await made(page, job)).split("\f").filter((text) => text.trim());
  expect(pages.length).toBeGreaterThan(1);
  expect(pages.length).toBeLessThan(5);
  for (const text of pages) {
    expect(text).toMatch(/revision 1, saved .* UTC · made .* UTC/);
    expect(text).not.toContain("moved on");
  }
  await page.getByLabel("When the first way does not work").fill("Send for the platform.");
  await page.getByLabel("When the first way does not work").blur();
  await saved(page);
  await expect(page.getByRole("list", { name: "Briefings made" })).toContainText(
    "The job has moved on to revision 2",
  );
  for (const text of (await made(page, job)).split("\f").filter((one) => one.trim())) {
    expect(joined(text)).toContain("Made from revision 1. The job has moved on to revision 2");
  }
  await brief(page, job);
  expect(joined(await made(page, job))).toContain("Send for the platform.");
});

test("the page prints with everything on it and nothing of the screen", async ({ page, job }) => {
  await page.goto(`/job/${job}/briefing`);
  await expect(page.getByRole("img", { name: "Plan of the site, north up" })).toBeVisible();
  await page.emulateMedia({ media: "print" });
  await expect(page.getByRole("button", { name: "Make the PDF" })).toBeHidden();
  const text = joined(textOf(await page.pdf({ preferCSSPageSize: true })));
  for (const says of [
    "Tern Quay",
    "Who stands where",
    "Plan B",
    "Plan C",
    "What is not known",
    "Read and understood",
    "revision 1",
  ]) {
    expect(text).toContain(says);
  }
  expect(text).not.toContain("Make the PDF");
  for (let number = 1; number <= 25; number++) expect(text).toContain(` ${number} `);
});

test("the files that other programs read", async ({ page, job }) => {
  await page.goto(`/job/${job}/briefing`);
  for (const [name, begins] of [
    ["Picks, CSV", "number,piece,way,low_kg"],
    ["Picks, XLSX", "PK"],
    ["Site, DXF", "  0\r\nSECTION"],
    ["Site, JSON", "{"],
    ["Tree, SVG", "<svg "],
    ["Plan, SVG", "<svg "],
  ] as const) {
    const download = page.waitForEvent("download");
    await page.getByRole("link", { name }).click();
    const file = readFileSync(await (await download).path());
    expect(file.subarray(0, begins.length).toString()).toBe(begins);
    if (name === "Site, JSON") {
      const site = JSON.parse(file.toString()) as { metres: string };
      expect(site.metres).toContain("x east, y north");
    }
  }
  // In degrees there is nothing without a place on earth.
  await expect(page.getByRole("link", { name: "Site, GeoJSON" })).toHaveCount(0);
});
