import { defineConfig } from "@playwright/test";
import { port } from "./support/server";

export default defineConfig({
  testDir: "specs",
  // One at a time: the specs share two cores with a database and a browser.
  workers: 1,
  fullyParallel: false,
  forbidOnly: Boolean(process.env.CI),
  timeout: 90_000,
  // Generous: the machines that run this are shared and noisy. A second try is reported as such.
  expect: { timeout: 15_000 },
  retries: process.env.CI ? 1 : 0,
  reporter: [["list"]],
  use: {
    baseURL: `http://127.0.0.1:${port}`,
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
  webServer: {
    command: `../bin/elkstay demo --reset --throwaway --folder ../var/e2e/postgres --listen 127.0.0.1:${port}`,
    url: `http://127.0.0.1:${port}/readyz`,
    gracefulShutdown: { signal: "SIGTERM", timeout: 20_000 },
    timeout: 60_000,
    env: { ELKSTAY_DATABASE_URL: "" },
  },
});
