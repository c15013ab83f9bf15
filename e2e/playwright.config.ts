import { defineConfig } from "@playwright/test";

export default defineConfig({
  testDir: "specs",
  // Two at a time, each worker with a server and a database of its own (support/job.ts).
  workers: 2,
  fullyParallel: false,
  forbidOnly: Boolean(process.env.CI),
  timeout: 90_000,
  // Generous: the machines that run this are shared and noisy. A second try is reported as such.
  expect: { timeout: 15_000 },
  retries: process.env.CI ? 1 : 0,
  reporter: [["list"]],
  use: {
    viewport: { width: 1280, height: 800 },
    colorScheme: "light",
    locale: "en-GB",
    screenshot: "only-on-failure",
    launchOptions: {
      executablePath: "/usr/bin/chromium",
      args: [
        "--disable-quic",
        "--disable-background-networking",
        "--disable-component-update",
        "--no-first-run",
      ],
    },
  },
});
