import { existsSync, mkdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import type { Locator, Page } from "@playwright/test";
import pixelmatch from "pixelmatch";
import { PNG } from "pngjs";

// `make screenshots` writes pictures to docs/screenshots; in a test run they only prove that
// every view draws.
const folder = process.env.ELKSTAY_SCREENSHOTS ?? "test-results/screenshots";
mkdirSync(folder, { recursive: true });

/** The share of a picture's points that may differ before the eye sees another picture. */
const seen = 0.001;

/** Whether two pictures are the same to the eye. */
export function alike(one: Buffer, other: Buffer): boolean {
  const [a, b] = [PNG.sync.read(one), PNG.sync.read(other)];
  if (a.width !== b.width || a.height !== b.height) return false;
  const points = pixelmatch(a.data, b.data, undefined, a.width, a.height, { threshold: 0.1 });
  return points <= seen * a.width * a.height;
}

/** Takes a picture of a view, and keeps the one that is there where the eye sees no other. */
export async function picture(of: Page | Locator, name: string) {
  const path = join(folder, `${name}.png`);
  const taken = await of.screenshot({ animations: "disabled" });
  if (!existsSync(path) || !alike(taken, readFileSync(path))) writeFileSync(path, taken);
}
