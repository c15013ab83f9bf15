// Takes a server and its database away again and again while 16 clients save, and fills the disk
// beneath another: what was acknowledged is there, once, and the page says what is the matter.
// Needs `make build`; the disk is a small one in memory, which only root may mount.
import { execFileSync, spawn } from "node:child_process";
import { mkdirSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { resolve } from "node:path";
import { randomUUID } from "node:crypto";
import { chromium } from "@playwright/test";

const root = resolve(import.meta.dirname, "../..");
const listen = "127.0.0.1:8436";
const url = `http://${listen}`;
const demo = "7e57a9e0-0001-4c1b-9d4e-7e5109ab0001";
const wait = (ms) => new Promise((done) => setTimeout(done, ms));

function start(folder, ...more) {
  const args = ["demo", "--listen", listen, "--metrics", "", "--folder", folder, ...more];
  return spawn(resolve(root, "bin/elkstay"), args, {
    stdio: "ignore",
    env: { ...process.env, ELKSTAY_DATABASE_URL: "" },
  });
}
async function ready() {
  for (let i = 0; i < 600; i++) {
    const answer = await fetch(`${url}/readyz`).catch(() => null);
    if (answer?.ok) return;
    await wait(100);
  }
  throw new Error("the server does not come back");
}
const gone = (child) =>
  child.exitCode !== null || child.signalCode !== null
    ? Promise.resolve()
    : new Promise((done) => child.once("exit", done));
const send = (method, path, body, headers = {}) =>
  fetch(url + path, {
    method,
    body: JSON.stringify(body),
    headers: { "Content-Type": "application/json", ...headers },
    signal: AbortSignal.timeout(10_000),
  });

/** One client: it saves its own job over and over, each save under a key of its own until it is answered. */
async function client(document, until) {
  const made = await (await send("POST", "/api/jobs", document)).json();
  let revision = 1;
  const kept = [];
  for (let n = 1; !until.over; n++) {
    const key = randomUUID();
    const body = { ...document, name: `save ${n}` };
    for (;;) {
      const answer = await send("PUT", `/api/jobs/${made.id}`, body, {
        "If-Match": `"${revision}"`,
        "Idempotency-Key": key,
      }).catch(() => null);
      if (answer?.status === 200) {
        revision = (await answer.json()).revision;
        kept.push({ revision, name: body.name });
        break;
      }
      if (answer && answer.status < 500) throw new Error(`a save: ${answer.status}`);
      if (until.over) break;
      await wait(50);
    }
  }
  return { id: made.id, kept };
}

async function kills() {
  const folder = resolve(root, "var/e2e/trouble");
  let server = start(folder, "--reset");
  await ready();
  const document = (await (await fetch(`${url}/api/jobs/${demo}`)).json()).job;
  const until = { over: false };
  const clients = Array.from({ length: 16 }, () => client(document, until));
  for (let i = 0; i < 10; i++) {
    await wait(2000);
    if (i % 2) {
      const pid = Number(readFileSync(`${folder}/data/postmaster.pid`, "utf8").split("\n")[0]);
      process.kill(pid, "SIGKILL");
    } else {
      server.kill("SIGKILL");
      await gone(server);
      server = start(folder);
    }
    await wait(500);
    await ready();
  }
  await wait(2000);
  until.over = true;
  const all = await Promise.all(clients);
  let [acknowledged, lost, twice] = [0, 0, 0];
  for (const { id, kept } of all) {
    const names = [];
    for (const one of kept) {
      const found = await (await fetch(`${url}/api/jobs/${id}/revisions/${one.revision}`)).json();
      acknowledged++;
      if (found.job?.name !== one.name) lost++;
    }
    for (let after = ""; ;) {
      const page = await (await fetch(`${url}/api/jobs/${id}/revisions${after}`)).json();
      names.push(...page.revisions.map((r) => r.revision));
      if (!page.next) break;
      after = `?after=${encodeURIComponent(page.next)}`;
    }
    // At most the one that was under way when it ended is kept without its client knowing.
    twice += Math.max(0, names.length - 1 - kept.length - 1);
  }
  console.log(`ten kills: ${acknowledged} saves acknowledged, ${lost} lost, ${twice} kept twice`);
  server.kill("SIGTERM");
  await gone(server);
  if (lost || twice) process.exitCode = 1;
}

async function fullDisk() {
  const disk = resolve(root, "var/e2e/disk");
  rmSync(disk, { recursive: true, force: true });
  mkdirSync(disk, { recursive: true });
  execFileSync("mount", ["-t", "tmpfs", "-o", "size=260m", "tmpfs", disk]);
  const server = start(`${disk}/own`);
  const browser = await chromium.launch({
    executablePath: "/usr/bin/chromium",
    args: ["--disable-quic", "--disable-background-networking", "--no-first-run"],
  });
  try {
    await ready();
    const page = await browser.newPage();
    await page.goto(`${url}/job/${demo}`);
    const name = page.getByLabel("Name of the job");
    const mark = async () => (await page.getByTestId("save-state").innerText()).trim();
    await name.waitFor();
    const big = Buffer.alloc(1 << 20);
    try {
      for (let i = 0; ; i++) writeFileSync(`${disk}/filler-${i}`, big);
    } catch {
      // No room is left: that is what is wanted.
    }
    const said = new Set();
    for (let i = 0; i < 40; i++) {
      await name.fill(`no room ${i}`);
      await name.press("Enter");
      await wait(400);
      said.add(await mark());
    }
    console.log(`a full disk, the page says: ${[...said].join(" | ")}`);
    const own = await page.evaluate(() => Object.values({ ...localStorage }).join(" "));
    console.log(`kept on the device meanwhile: ${own.includes("no room 39") ? "yes" : "NO"}`);
    execFileSync("sh", ["-c", `rm -f ${disk}/filler-*`]);
    await ready();
    let back = false;
    for (let i = 0; i < 300 && !back; i++) {
      await wait(200);
      const head = await (
        await fetch(`${url}/api/jobs/${demo}`).catch(() => null)
      )
        ?.json()
        .catch(() => null);
      back = head?.job?.name === "no room 39";
    }
    console.log(
      `room again: ${back ? "saved by itself" : "NOT SAVED"}, the page says: ${await mark()}`,
    );
    if (!back) process.exitCode = 1;
  } finally {
    await browser.close();
    server.kill("SIGTERM");
    await gone(server);
    execFileSync("umount", ["-l", disk]);
  }
}

await kills();
if (process.getuid?.() === 0) await fullDisk();
