import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { test as base, expect, type Locator, type Page } from "@playwright/test";
import type { components } from "../../web/src/lib/api/schema";
import { core, firstPort, OwnServer } from "./server";

export type Assessment = components["schemas"]["AssessAssessment"];
export type Crew = components["schemas"]["PolicyCrew"];
export type Job = components["schemas"]["JobJob"];
export type JobHead = components["schemas"]["JobHead"];

export const demo = "7e57a9e0-0001-4c1b-9d4e-7e5109ab0001";
export const lock = "7e57a9e0-0003-4c1b-9d4e-7e5109ab0003";
export const second = "7e57a9e0-0002-4c1b-9d4e-7e5109ab0002";

/** A copy of the demo's job for one spec alone, and what the page complained of. */
export const test = base.extend<{ job: string; complaints: string[] }, { server: OwnServer }>({
  // Each worker has a server and a database of its own.
  server: [
    // eslint-disable-next-line no-empty-pattern
    async ({}, use, worker) => {
      const place = worker.parallelIndex;
      const server = new OwnServer(firstPort + place, `worker-${place}`, true);
      await server.start(true);
      await use(server);
      await server.stop();
    },
    { scope: "worker", timeout: 120_000 },
  ],
  baseURL: async ({ server }, use) => use(server.url),
  job: async ({ request }, use) => {
    const made = await request.post(`/api/jobs/${demo}/copy`);
    expect(made.status()).toBe(201);
    await use(((await made.json()) as JobHead).id);
  },
  complaints: [
    async ({ page }, use) => {
      const complaints: string[] = [];
      page.on("pageerror", (error) => complaints.push(error.message));
      page.on("console", (message) => {
        // A refused request is a spec's own doing; a broken policy or page is not.
        if (message.type() === "error" && !message.text().startsWith("Failed to load resource")) {
          complaints.push(message.text());
        }
      });
      await use(complaints);
      expect(complaints).toEqual([]);
    },
    { auto: true },
  ],
});

export { expect };

/** Opens a job and waits until the core runs in the page. */
export async function open(page: Page, id: string): Promise<void> {
  await page.goto(`/job/${id}`);
  await expect(page.getByTestId("state")).toBeVisible();
  await expect(page.locator("[data-core=here]")).toBeAttached();
}

/** The picks of the order, first to last, or those that are chosen. */
export const picks = (page: Page, selected?: boolean) =>
  page.getByTestId("order").getByRole("option", { selected });

/** Chooses a pick in the order, by its place. */
export async function choose(page: Page, place: number): Promise<Locator> {
  const option = picks(page).nth(place - 1);
  await option.click();
  await expect(option).toHaveAttribute("aria-selected", "true");
  const id = (await option.getAttribute("data-pick")) ?? "";
  await expect(page.getByTestId("board")).toHaveAttribute("data-pick", id);
  return option;
}

/** The id of the pick shown in full. */
export const inHand = async (page: Page): Promise<string> =>
  (await page.getByTestId("board").getAttribute("data-pick")) ?? "";

/** What the server keeps. */
export async function kept(page: Page, id: string): Promise<JobHead> {
  const answer = await page.request.get(`/api/jobs/${id}`);
  expect(answer.ok()).toBe(true);
  return (await answer.json()) as JobHead;
}

export async function saved(page: Page): Promise<void> {
  await expect(page.getByTestId("save-state")).toHaveAttribute("data-state", "saved");
}

export function rung(page: Page, name: string) {
  return page.getByRole("button", { name: new RegExp(`^${name}\\b`), expanded: undefined });
}

/** Ids of the locker that a job refers to. */
function itemsOf(value: unknown): string[] {
  if (Array.isArray(value)) return value.flatMap(itemsOf);
  if (!value || typeof value !== "object") return [];
  return Object.entries(value).flatMap(([key, inner]) =>
    key === "item" && typeof inner === "string" ? [inner] : itemsOf(inner),
  );
}

/** The crew's rules and the gear that a job refers to, as the server keeps them. */
export async function crewOf(page: Page, job: Job): Promise<Crew> {
  const query = new URLSearchParams(itemsOf(job).map((id) => ["items", id]));
  return (await (await page.request.get(`/api/crew?${query}`)).json()) as Crew;
}

/** The core's assessment of a document, by the command line. */
export function assess(job: Job, pick = "", crew?: Crew): Assessment {
  const folder = mkdtempSync(join(tmpdir(), "elkstay-"));
  const asked = pick ? ["--pick", pick] : [];
  try {
    if (crew) {
      writeFileSync(join(folder, "crew.json"), JSON.stringify(crew));
      asked.push("--crew", join(folder, "crew.json"));
    }
    writeFileSync(join(folder, "job.json"), JSON.stringify(job));
    return core(["assess", "--json", ...asked, join(folder, "job.json")]) as Assessment;
  } finally {
    rmSync(folder, { recursive: true });
  }
}

const kn = (value: number) =>
  value.toLocaleString("en", {
    minimumFractionDigits: value < 1 ? 2 : 1,
    maximumFractionDigits: value < 1 ? 2 : 1,
  });
const kg = (value: number) =>
  value.toLocaleString("en", { maximumFractionDigits: value < 10 ? 1 : 0 });

/** Every figure on the screen is the command line's own for the document that is kept. */
export async function expectCoresFigures(
  page: Page,
  id: string,
  pick: string,
): Promise<Assessment> {
  await saved(page);
  // What was undone or brought in last may be on its way still.
  let a = {} as Assessment;
  await expect(async () => {
    const { job } = await kept(page, id);
    a = assess(job, pick, await crewOf(page, job));
    expect((await page.getByTestId("state").innerText()).trim()).toBe(a.state);
  }).toPass({ timeout: 8_000 });
  const mass = a.detail?.piece?.mass_kg;
  await expect(page.getByTestId("weight")).toHaveText(`${kg(mass?.likely ?? 0)} kg`);
  const ladder = page.getByRole("region", { name: "The load, from the piece to the hand" });
  for (const [i, r] of (a.detail?.ladder ?? []).entries()) {
    const shown = ladder.getByRole("heading", { level: 3 }).nth(i);
    await expect(shown).toContainText(new RegExp(r.part, "i"));
    if (r.peak_kn !== null) await expect(shown).toContainText(kn(r.peak_kn));
    await expect(shown).toContainText(kn(r.resting_kn));
    await expect(shown).toContainText(r.verdict);
    if (r.use_pct !== null) await expect(shown).toContainText(`${r.use_pct.toFixed(0)} %`);
  }
  const rows = picks(page);
  for (const [i, p] of a.picks.entries()) {
    await expect(rows.nth(i)).toContainText(p.title);
    if (p.mass_kg)
      await expect(rows.nth(i)).toContainText(`${kg(p.mass_kg.low)}–${kg(p.mass_kg.high)}`);
    for (const fault of p.faults) await expect(rows.nth(i)).toContainText(fault.message);
  }
  return a;
}

/** A copy of the demo's third job. */
export async function reeds(page: Page): Promise<string> {
  const made = await page.request.post(`/api/jobs/${lock}/copy`);
  return ((await made.json()) as JobHead).id;
}
