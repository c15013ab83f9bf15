import { test as base, expect, type Page } from "@playwright/test";
import type { components } from "../../web/src/lib/api/schema";

export type Assessment = components["schemas"]["PlanAssessment"];
export type Job = components["schemas"]["PlanJob"];
export type JobHead = components["schemas"]["JobHead"];

export const demo = "7e57a9e0-0001-4c1b-9d4e-7e5109ab0001";

/** A copy of the demo's job for one spec alone, and what the page complained of. */
export const test = base.extend<{ job: string; complaints: string[] }>({
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

export async function open(page: Page, id: string): Promise<void> {
  await page.goto(`/job/${id}`);
  await expect(page.getByTestId("state")).toBeVisible();
}

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
