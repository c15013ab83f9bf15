// Measures what a person at the screen waits for: the first view of the demo job, a
// calculation's round trip, the core in the worker, the figures while the cut is dragged
// on a job of 40 picks, a save heard elsewhere, and what the first load weighs. Needs
// `make build`; starts a demo of its own.
import { spawn } from "node:child_process";
import { resolve } from "node:path";
import { chromium } from "@playwright/test";

const root = resolve(import.meta.dirname, "../..");
const listen = "127.0.0.1:8433";
const job = "/job/7e57a9e0-0001-4c1b-9d4e-7e5109ab0001";
const args = ["demo", "--reset", "--throwaway", "--listen", listen];
const server = spawn(
  resolve(root, "bin/elkstay"),
  [...args, "--folder", resolve(root, "var/e2e/benchmark")],
  {
    stdio: "ignore",
    env: { ...process.env, ELKSTAY_DATABASE_URL: "" },
  },
);
const url = `http://${listen}`;
for (;;) {
  const ready = await fetch(`${url}/readyz`).catch(() => null);
  if (ready?.ok) break;
  await new Promise((done) => setTimeout(done, 100));
}

const sorted = (list) => list.toSorted((a, b) => a - b);
const median = (list) => sorted(list)[Math.floor(list.length / 2)];
const say = (what, list, unit) =>
  console.log(
    `${what}: median ${median(list).toFixed(1)} ${unit}, from ${sorted(list)[0].toFixed(1)} to ${sorted(list).at(-1).toFixed(1)} (${list.length} runs)`,
  );

const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--disable-quic", "--disable-background-networking", "--no-first-run"],
});
try {
  const request = JSON.stringify({
    piece: { mass_kg: 400, cog_above_cut_m: 1.2, length_m: 2.5 },
    tie_above_cut_m: 0.4,
    block_below_cut_m: 0.6,
    slack_m: 0.1,
    lead_m: 12,
    rope: { mbs_kn: 80, elongation: [{ load_pct: 10, strain_pct: 1.6 }] },
    block_efficiency: 0.9,
    device_hold_kn: 10,
  });
  const trips = [];
  for (let i = 0; i < 1000; i++) {
    const start = performance.now();
    const answer = await fetch(`${url}/api/calc/drop`, {
      method: "POST",
      body: request,
      headers: { "content-type": "application/json" },
    });
    await answer.arrayBuffer();
    if (i >= 100) trips.push(performance.now() - start);
  }
  say("drop over loopback", trips, "ms");

  const views = [];
  let weight = 0;
  for (let i = 0; i < 11; i++) {
    const context = await browser.newContext({ viewport: { width: 1280, height: 800 } });
    const page = await context.newPage();
    const session = await context.newCDPSession(page);
    await session.send("Network.enable");
    let bytes = 0;
    session.on("Network.loadingFinished", (e) => (bytes += e.encodedDataLength));
    await page.addInitScript(() => {
      new MutationObserver((_, observer) => {
        if (!document.querySelector("[data-testid=cut]")) return;
        observer.disconnect();
        requestAnimationFrame(() =>
          requestAnimationFrame(() => {
            window.firstView = performance.now();
          }),
        );
      }).observe(document, { childList: true, subtree: true });
    });
    await page.goto(url + job);
    await page.waitForFunction(() => window.firstView);
    if (i > 0) views.push(await page.evaluate(() => window.firstView));
    await page.waitForTimeout(300);
    weight = bytes;
    await context.close();
  }
  say("first view of the demo job, empty cache", views, "ms");
  console.log(`first load, compressed, everything: ${(weight / 1000).toFixed(0)} kB`);

  // The demo's job, its limbs cut in more parts until there are 40 picks.
  const wide = (await (await fetch(`${url}/api/jobs/${job.split("/").at(-1)}`)).json()).job;
  wide.name = "forty picks";
  for (let i = 0; wide.picks.length < 40; i += 2) {
    const pick = wide.picks[i];
    const limb = wide.trees[0].limbs.find((l) => l.id === pick.limb);
    const cut = limb ? (limb.length_m + (pick.cut_m ?? 0)) / 2 : pick.cut_m + 0.7;
    wide.picks.splice(i, 0, { ...pick, id: `x${i}`, cut_m: cut });
  }
  const made = await fetch(`${url}/api/jobs`, {
    method: "POST",
    body: JSON.stringify(wide),
    headers: { "content-type": "application/json" },
  });
  const forty = (await made.json()).id;

  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.goto(`${url}/job/${forty}`);
  await page.waitForSelector("[data-core=here]");
  const timed = await page.evaluate(async (document) => {
    const address = performance
      .getEntriesByType("resource")
      .map((e) => e.name)
      .find((name) => name.includes("/workers/worker"));
    const began = performance.now();
    const worker = new Worker(address, { type: "module" });
    await new Promise((done) => (worker.onmessage = (e) => e.data.ready && done()));
    const ready = performance.now() - began;
    const ask = (question, text, asked) =>
      new Promise((done) => {
        worker.onmessage = (e) => done(e.data.took);
        worker.postMessage({ id: 1, question, document: text, asked, crew });
      });
    const text = JSON.stringify(document);
    const items = [...new Set([...text.matchAll(/"item":"([^"]+)"/g)].map((found) => found[1]))];
    const query = new URLSearchParams(items.map((id) => ["items", id]));
    const crew = await (await fetch(`/api/crew?${query}`)).text();
    const bare = JSON.stringify({ ...document, picks: [] });
    const assess = [];
    const fill = [];
    for (let i = 0; i < 60; i++) {
      const took = await ask("assess", text, JSON.stringify({ pick: document.picks[i % 40].id }));
      if (i >= 20) assess.push(took);
    }
    for (let i = 0; i < 10; i++)
      fill.push(await ask("propose", bare, JSON.stringify({ by: "up" })));
    worker.terminate();
    return { ready, assess, fill };
  }, wide);
  console.log(`core ready in a worker, cached: ${timed.ready.toFixed(0)} ms`);
  say("40 picks assessed in the worker", timed.assess, "ms");
  say("the order filled in the worker, 16 limbs", timed.fill, "ms");

  const stem = wide.picks.findIndex((p) => p.what === "stem" && p.way === "past-block");
  await page.getByTestId("order").getByRole("option").nth(stem).click();
  await page.waitForTimeout(1500);
  const cut = await page.getByTestId("cut").boundingBox();
  const x = cut.x + 20;
  const y = cut.y + cut.height / 2;
  await page.evaluate(() => {
    window.frames_ = [];
    window.lags = [];
    let moved = 0;
    addEventListener(
      "pointermove",
      () => {
        moved ||= performance.now();
      },
      { capture: true },
    );
    new MutationObserver(() => {
      if (moved) window.lags.push(performance.now() - moved);
      moved = 0;
    }).observe(document.querySelector("[data-testid=weight]"), {
      characterData: true,
      subtree: true,
    });
    let before = performance.now();
    const tick = (now) => {
      window.frames_.push(now - before);
      before = now;
      requestAnimationFrame(tick);
    };
    requestAnimationFrame(tick);
  });
  await page.mouse.move(x, y);
  await page.mouse.down();
  await page.evaluate(() => (window.frames_.length = window.lags.length = 0));
  for (let i = 0; i < 240; i++) await page.mouse.move(x, y + 16 + 14 * Math.sin(i / 12));
  await page.mouse.up();
  const drawn = await page.evaluate(() => ({ frames: window.frames_, lags: window.lags }));
  say("frame while dragging the cut, 40 picks", drawn.frames, "ms");
  say("from a move of the cut to its figures, 40 picks", drawn.lags, "ms");

  // From a save here to its figures there.
  const other = await (await browser.newContext()).newPage();
  await other.goto(`${url}/job/${forty}`);
  await other.waitForSelector("[data-core=here]");
  const heard = [];
  for (let i = 0; i < 11; i++) {
    const name = `forty picks ${i}`;
    const { revision, job: kept } = await (await fetch(`${url}/api/jobs/${forty}`)).json();
    const began = performance.now();
    await fetch(`${url}/api/jobs/${forty}`, {
      method: "PUT",
      body: JSON.stringify({ ...kept, name }),
      headers: {
        "content-type": "application/json",
        "if-match": `"${revision}"`,
        "idempotency-key": crypto.randomUUID(),
      },
    });
    await other.waitForFunction((title) => document.title.startsWith(title), name, {
      polling: 10,
    });
    if (i > 0) heard.push(performance.now() - began);
  }
  say("from a save here to the page there", heard, "ms");

  // A briefing of 40 picks, from the asking to the last byte of the PDF.
  const papers = [];
  for (let i = 0; i < 6; i++) {
    const began = performance.now();
    const made = await (
      await fetch(`${url}/api/jobs/${forty}/briefings`, { method: "POST" })
    ).json();
    await (await fetch(`${url}/api/jobs/${forty}/briefings/${made.id}/pdf`)).arrayBuffer();
    if (i > 0) papers.push(performance.now() - began);
  }
  say("briefing of 40 picks, made and fetched", papers, "ms");

  // 5,000 rows looked at and taken over, as CSV and, over themselves, as XLSX.
  const head = "kind,name,serial,marked_kn,breaking_kn,diameter_mm,length_m,in_service";
  const lines = Array.from(
    { length: 5000 },
    (_, i) => `sling,Bench sling ${i},BS-${i},20,200,20,${1 + (i % 9)},2025-01-${10 + (i % 18)}`,
  );
  const octets = { "content-type": "application/octet-stream" };
  const send = async (file, base) => {
    const began = performance.now();
    const query = base === undefined ? "" : "?apply=true";
    const answer = await fetch(`${url}/api/locker/import${query}`, {
      method: "POST",
      body: file,
      headers: base === undefined ? octets : { ...octets, "if-match": `"${base}"` },
    });
    const body = await answer.json();
    return { took: performance.now() - began, body };
  };
  const csv = [head, ...lines].join("\n");
  const looked = await send(csv);
  const taken = await send(csv, looked.body.revision);
  if (!taken.body.applied) throw new Error("the rows were not taken over");
  say("5,000 new rows of CSV looked at", [looked.took], "ms");
  say("5,000 new rows of CSV taken over", [taken.took], "ms");
  const book = await (await fetch(`${url}/api/locker/file?format=xlsx`)).arrayBuffer();
  const again = [];
  for (let i = 0; i < 3; i++) again.push((await send(book)).took);
  say("5,000 rows of XLSX looked at", again, "ms");

  // The locker of 5,000: opened, and from a key to the list that fits.
  const shelf = await (
    await browser.newContext({ viewport: { width: 1280, height: 800 } })
  ).newPage();
  const openings = [];
  for (let i = 0; i < 4; i++) {
    const began = performance.now();
    await shelf.goto(`${url}/locker`);
    await shelf.waitForSelector("ul[aria-label=Items] li");
    if (i > 0) openings.push(performance.now() - began);
  }
  say("locker of 5,000 opened", openings, "ms");
  const keys = await shelf.evaluate(async () => {
    const field = document.querySelector("input[type=search]");
    const took = [];
    for (const text of [
      "b",
      "be",
      "ben",
      "bench sling 4",
      "bench sling 49",
      "bs-4999",
      "",
      "ready",
      "heron",
    ]) {
      const began = performance.now();
      field.value = text;
      field.dispatchEvent(new Event("input", { bubbles: true }));
      await new Promise((done) => requestAnimationFrame(() => setTimeout(done)));
      took.push(performance.now() - began);
    }
    return took;
  });
  say("from a key to the items that fit, 5,000", keys, "ms");
} finally {
  await browser.close();
  server.kill("SIGTERM");
  await new Promise((done) => server.once("exit", done));
}
