import { expect, expectCoresFigures, saved, test } from "../support/job";
import { whole } from "../support/whole";

test("a tree is pulled over: no line, a line, its effort, its fall followed", async ({ page }) => {
  const made = (await (await page.request.post("/api/jobs", { data: whole({}) })).json()) as {
    id: string;
  };
  await page.goto(`/job/${made.id}?pick=p1`);
  // It stands behind its hinge, and nothing pulls: said in words.
  await expect(page.getByText("its own weight does not bend its hinge").first()).toBeVisible();

  await page.getByRole("button", { name: "Pick", exact: true }).click();
  await page.getByRole("button", { name: "Add a line that pulls" }).click();
  const line = page.getByRole("group", { name: "Line that pulls" });
  await line.getByLabel("To", { exact: true }).selectOption({ label: "oak stump" });
  await line.getByLabel("System").selectOption("3");
  await expect(page.getByText("Nobody has said what pulls").first()).toBeVisible();
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
