// Three browsers on one job for as many minutes as are asked for (ten): edits, marks, orders, steps back, spells without a signal, reloads, a
// server that is killed and comes back. At the end all show the same, the server keeps it, and whatever stands somewhere stands where
// somebody put it. Needs `make build`.
//
//     node benchmarks/three.mjs [MINUTES] [SEED]
import { spawn } from "node:child_process";
import { rmSync } from "node:fs";
import { resolve } from "node:path";
import { chromium } from "@playwright/test";

const minutes = Number(process.argv[2] ?? 10);
let state = Number(process.argv[3] ?? Date.now()) >>> 0;
console.log(`seed ${state}`);
const chance = () => {
  state = (Math.imul(state, 1664525) + 1013904223) >>> 0;
  return state / 2 ** 32;
};
const any = (list) => list[Math.floor(chance() * list.length)];
const wait = (ms) => new Promise((done) => setTimeout(done, ms));

const root = resolve(import.meta.dirname, "../..");
const listen = "127.0.0.1:8437";
const url = `http://${listen}`;
const folder = resolve(root, "var/three");
const demo = "7e57a9e0-0001-4c1b-9d4e-7e5109ab0001";
rmSync(folder, { recursive: true, force: true });
const start = () =>
  spawn(
    resolve(root, "bin/elkstay"),
    ["demo", "--listen", listen, "--metrics", "", "--folder", folder],
    { stdio: "ignore", env: { ...process.env, ELKSTAY_DATABASE_URL: "" } },
  );
async function ready() {
  for (let i = 0; i < 600; i++) {
    if ((await fetch(`${url}/readyz`).catch(() => null))?.ok) return;
    await wait(100);
  }
  throw new Error("the server does not come back");
}
let server = start();
await ready();
const job = (await (await fetch(`${url}/api/jobs/${demo}/copy`, { method: "POST" })).json()).id;
const keptNow = async () => (await (await fetch(`${url}/api/jobs/${job}`)).json()).job;

const browser = await chromium.launch({ executablePath: "/usr/bin/chromium" });
const people = await Promise.all(
  [0, 1, 2].map(async (who) => {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    await page.goto(`${url}/job/${job}`);
    await page.locator("[data-core=here]").waitFor({ state: "attached" });
    return { who, context, page, offline: false };
  }),
);

const put = new Map(); // each mark: where somebody put it
const picks = (page) => page.getByTestId("order").getByRole("option");
const done = { edits: 0, marks: 0, moves: 0, back: 0, offline: 0, reloads: 0, asked: 0, kills: 0 };
let n = 0;

/** Answers what is asked, one way or the other. */
async function answer({ page }) {
  for (const name of ["Keep mine", "Take theirs", "Leave it", "Step it back too"]) {
    const button = page.getByRole("button", { name, exact: true });
    if ((await button.count()) && (name.length % 2 ? chance() < 0.5 : true)) {
      await button.first().click({ timeout: 1500 });
      done.asked++;
      return;
    }
  }
}

async function act(one) {
  const { page } = one;
  await answer(one);
  const dice = chance();
  if (dice < 0.06) {
    one.offline = !one.offline;
    await one.context.setOffline(one.offline);
    done.offline++;
  } else if (dice < 0.1) {
    await page.reload({ timeout: 8000 });
    done.reloads++;
  } else if (dice < 0.2) {
    await page.getByRole("button", { name: "Undo" }).first().click({ timeout: 1500 });
    done.back++;
  } else {
    const option = picks(page).nth(Math.floor(chance() * (await picks(page).count())));
    await option.click({ timeout: 1500 });
    const id = await option.getAttribute("data-pick");
    await page.getByRole("button", { name: "Pick", exact: true }).first().click({ timeout: 1500 });
    const mark = `${one.who}.${++n}`;
    if (dice < 0.55) {
      const field = any(["Called", "Note"]);
      put.set(mark, `${id} ${field}`);
      const box = page.getByLabel(field, { exact: true }).first();
      await box.fill(mark, { timeout: 1500 });
      await box.blur();
      done.edits++;
    } else if (dice < 0.75) {
      await page.getByRole("checkbox", { name: "It is down" }).click({ timeout: 1500 });
      done.marks++;
    } else {
      await page.getByRole("button", { name: any(["Earlier", "Later"]) }).click({ timeout: 1500 });
      done.moves++;
    }
  }
}

/** Where each mark of a document stands. */
function marks(document) {
  const found = [];
  for (const p of document.picks) {
    if (/^\d\.\d+$/.test(p.label ?? "")) found.push([p.label, `${p.id} Called`]);
    if (/^\d\.\d+$/.test(p.note ?? "")) found.push([p.note, `${p.id} Note`]);
  }
  return found;
}
const wrong = [];
const check = (document) => {
  for (const [mark, place] of marks(document))
    if (put.get(mark) !== place) wrong.push(`${mark} stands at ${place}, put at ${put.get(mark)}`);
};

const end = Date.now() + minutes * 60_000;
let nextKill = Date.now() + 45_000;
while (Date.now() < end) {
  const one = any(people);
  await act(one).catch((why) => process.env.SAY && console.log(String(why).slice(0, 300))); // what cannot be pressed just now is not pressed
  await wait(chance() * 400);
  if (Date.now() > nextKill) {
    server.kill("SIGKILL");
    await new Promise((over) => server.once("exit", over));
    await wait(2000);
    server = start();
    await ready();
    done.kills++;
    nextKill = Date.now() + 60_000;
  }
  if (n % 20 === 0) check(await keptNow().catch(() => ({ picks: [] })));
}
for (const one of people) await one.context.setOffline(false);
let same = false;
for (let i = 0; i < 90 && !same; i++) {
  await wait(1000);
  for (const one of people) await answer(one).catch(() => undefined);
  const states = await Promise.all(
    people.map((one) => one.page.getByTestId("save-state").getAttribute("data-state")),
  );
  if (!states.every((one) => one === "saved")) continue;
  const shown = await Promise.all(
    people.map((one) =>
      picks(one.page).evaluateAll((all) => all.map((o) => o.dataset.pick).join()),
    ),
  );
  const head = await keptNow();
  same = shown.every((order) => order === head.picks.map((p) => p.id).join());
}
const head = await keptNow();
check(head);
const facts = new Set();
const history = await (await fetch(`${url}/api/jobs/${job}/revisions?limit=1000`)).json();
for (const r of history.revisions) {
  const document = (await (await fetch(`${url}/api/jobs/${job}/revisions/${r.revision}`)).json())
    .job;
  check(document);
  for (const f of document.facts ?? []) facts.add(f.id);
}
const kept = new Set((head.facts ?? []).map((f) => f.id));
const lost = [...facts].filter((id) => !kept.has(id));
console.log(
  JSON.stringify({ minutes, ...done, revisions: history.revisions.length, facts: facts.size }),
);
console.log(same ? "all three show what is kept" : "NOT ALL SHOW THE SAME");
console.log(lost.length ? `FACTS LOST: ${lost.join()}` : "no fact is lost");
console.log(
  wrong.length ? `MOVED OR FUSED: ${[...new Set(wrong)].join("; ")}` : "nothing stands elsewhere",
);
await browser.close();
server.kill("SIGTERM");
await new Promise((over) => server.once("exit", over));
rmSync(folder, { recursive: true, force: true });
process.exit(same && !lost.length && !wrong.length ? 0 : 1);
