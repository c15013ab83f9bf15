import { createServer, request as ask, type Server } from "node:http";
import type { AddressInfo } from "node:net";
import { demo, expect, test } from "../support/job";

/** A door before the server that can serve another version of the worker, whole or in parts. */
class Door {
  newer = "";
  broken = false;
  private server: Server | undefined;
  constructor(private readonly target: string) {}

  async open(version: string): Promise<string> {
    this.server = createServer((request, response) => {
      const path = request.url ?? "/";
      // The page itself is never answered from a cache of the browser's own.
      if (this.broken && path === "/") {
        response.writeHead(500).end();
        return;
      }
      const worker = path.startsWith("/service-worker.js");
      const headers = { ...request.headers };
      if (worker) delete headers["accept-encoding"];
      const asked = ask(this.target + path, { method: request.method, headers }, (answer) => {
        if (!worker) {
          response.writeHead(answer.statusCode ?? 502, answer.headers);
          answer.pipe(response);
          return;
        }
        const parts: Buffer[] = [];
        answer.on("data", (part: Buffer) => parts.push(part));
        answer.on("end", () => {
          const text = Buffer.concat(parts).toString();
          const said = Object.entries(answer.headers).filter(
            ([name]) => !["content-length", "etag"].includes(name),
          ) as [string, string][];
          response.writeHead(answer.statusCode ?? 502, Object.fromEntries(said));
          response.end(this.newer ? text.replaceAll(version, this.newer) : text);
        });
      });
      asked.on("error", () => response.destroy());
      request.pipe(asked);
    });
    await new Promise<void>((done) => this.server?.listen(0, "127.0.0.1", done));
    return `http://127.0.0.1:${(this.server.address() as AddressInfo).port}`;
  }

  close = () => this.server?.closeAllConnections();
}

test("a newer version is there as a whole before the older goes, and is used when somebody says so", async ({
  page,
  server,
}) => {
  const { version } = (await (await fetch(`${server.url}/_app/version.json`)).json()) as {
    version: string;
  };
  const door = new Door(server.url);
  const url = await door.open(version);
  // While the page loads anew there is none to ask.
  const caches = () =>
    page
      .evaluate(async () => {
        const found: Record<string, boolean> = {};
        for (const name of await globalThis.caches.keys()) {
          if (!name.startsWith("elkstay-") || name === "elkstay-answers") continue;
          const kept = await (await globalThis.caches.open(name)).keys();
          found[name] = kept.some((one) => one.url.endsWith(".wasm"));
        }
        return found;
      })
      .catch((): Record<string, boolean> => ({}));
  await page.goto(`${url}/job/${demo}`);
  await expect(page.locator("[data-core=here]")).toBeAttached();
  await page.waitForFunction(() => navigator.serviceWorker.controller !== null);
  await page.reload(); // its core is kept once it is fetched by way of the worker
  await expect(page.locator("[data-core=here]")).toBeAttached();
  await expect.poll(caches).toEqual({ [`elkstay-${version}`]: true });

  // A newer one that does not come whole is none: the older stays, its core with it.
  const banner = page.getByText("A newer version is ready.");
  door.newer = `${version}-half`;
  door.broken = true;
  await page.reload();
  await expect(page.locator("[data-core=here]")).toBeAttached();
  await expect.poll(async () => (await caches())[`elkstay-${version}`]).toBe(true);
  await expect(banner).toHaveCount(0);

  door.newer = `${version}-newer`;
  door.broken = false;
  await page.reload();
  await expect(banner).toBeVisible();
  expect(await caches()).toMatchObject({
    [`elkstay-${version}`]: true,
    [`elkstay-${version}-newer`]: true,
  });
  await page.getByRole("button", { name: "Use it" }).click();
  await expect(page.locator("[data-core=here]")).toBeAttached();
  await expect.poll(caches).toEqual({ [`elkstay-${version}-newer`]: true });
  await expect(banner).toHaveCount(0);
  door.close();
});
