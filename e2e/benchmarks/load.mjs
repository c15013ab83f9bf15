// Measures a server of its own under load: 100,000 jobs listed and searched, 50,000 items and
// 5,000 revisions paged, 5,000 live streams with 50 saves a second. Needs `make build`.
import { execFileSync, spawn } from "node:child_process";
import { readFileSync, readdirSync } from "node:fs";
import http from "node:http";
import { resolve } from "node:path";
import { randomUUID } from "node:crypto";

const root = resolve(import.meta.dirname, "../..");
const folder = resolve(root, "var/e2e/load");
const [listen, metrics] = ["127.0.0.1:8434", "127.0.0.1:8435"];
const args = ["demo", "--reset", "--listen", listen, "--metrics", metrics, "--folder", folder];
const server = spawn(resolve(root, "bin/elkstay"), args, {
  stdio: "ignore",
  env: { ...process.env, ELKSTAY_DATABASE_URL: "" },
});
const url = `http://${listen}`;
for (;;) {
  const ready = await fetch(`${url}/readyz`).catch(() => null);
  if (ready?.ok) break;
  await new Promise((done) => setTimeout(done, 100));
}

const bin = readdirSync("/usr/lib/postgresql")
  .sort((a, b) => Number(a) - Number(b))
  .at(-1);
const port = readFileSync(`${folder}/data/postmaster.pid`, "utf8").split("\n")[3];
const sql = (text) =>
  execFileSync(
    `/usr/lib/postgresql/${bin}/bin/psql`,
    ["-q", "-h", "127.0.0.1", "-p", port, "-U", "elkstay", "-d", "elkstay", "-c", text],
    { env: { ...process.env, PGPASSWORD: readFileSync(`${folder}/password`, "utf8").trim() } },
  );
const at = (list, share) => list.toSorted((a, b) => a - b)[Math.floor((list.length - 1) * share)];
const say = (what, list, unit) =>
  console.log(
    `${what}: median ${at(list, 0.5).toFixed(1)} ${unit}, p99 ${at(list, 0.99).toFixed(1)} (${list.length})`,
  );
async function timed(what, path, runs) {
  const took = [];
  for (let i = 0; i < runs; i++) {
    const start = performance.now();
    const answer = await fetch(url + path);
    await answer.arrayBuffer();
    if (!answer.ok) throw new Error(`${path}: ${answer.status}`);
    took.push(performance.now() - start);
  }
  say(what, took, "ms");
}

try {
  const demo = "7e57a9e0-0001-4c1b-9d4e-7e5109ab0001";
  sql(`begin;
    insert into job (id, head, name, species, saved_at)
      select gen_random_uuid(), 1, 'Load ' || md5(i::text) || ' ' || i, 'white-ash', now() - i * interval '1 second' from generate_series(1, 100000) i;
    insert into revision (job_id, number, save_key, document)
      select j.id, 1, j.id, jsonb_build_object('name', j.name) from job j where j.name like 'Load %';
    commit;`);
  sql("vacuum analyze");
  await timed("list of 100,000 jobs, a page", "/api/jobs", 60);
  await timed("search in 100,000 jobs", "/api/jobs?search=7700", 60);

  sql(`insert into item (id, kind, name, serial, marked_kn)
      select 'load' || i, 'sling', 'Load sling ' || i, 'L' || i, 20 from generate_series(1, 50000) i;
    insert into inspection (item_id, on_day, by_whom, result) select 'load' || i, current_date, 'load', 'pass' from generate_series(1, 50000) i; analyze;`);
  await timed("locker of 50,000, a page of 1,000", "/api/locker?limit=1000", 30);

  sql(`begin; insert into revision (job_id, number, based_on, save_key, document)
      select '${demo}', i, i - 1, gen_random_uuid(), (select document from revision where job_id = '${demo}' and number = 1) from generate_series(2, 5000) i;
    update job set head = 5000 where id = '${demo}'; commit;`);
  sql("vacuum analyze");
  await timed("5,000 revisions, a page", `/api/jobs/${demo}/revisions`, 60);
  await timed("the job with 5,000 revisions", `/api/jobs/${demo}`, 200);

  // Streams: 50 to each of 100 jobs, and each save heard by 50.
  const empty = (await (await fetch(`${url}/api/reference`)).json()).empty_job;
  const jobs = [];
  for (let i = 0; i < 100; i++) {
    const answer = await fetch(`${url}/api/jobs`, {
      method: "POST",
      headers: { "content-type": "application/json" },
      body: JSON.stringify({ ...empty, name: `streamed ${i}` }),
    });
    jobs.push({ id: (await answer.json()).id, revision: 1, saved: new Map() });
  }
  const agent = new http.Agent({ keepAlive: true, maxSockets: 6000 });
  const heard = [];
  let open = 0;
  await new Promise((ready) => {
    for (let i = 0; i < 5000; i++) {
      const job = jobs[i % jobs.length];
      http.get(`${url}/api/jobs/${job.id}/live`, { agent }, (answer) => {
        answer.on("data", (chunk) => {
          const revision = Number(/"revision":(\d+)/.exec(String(chunk))?.[1]);
          const start = job.saved.get(revision);
          if (start) heard.push(performance.now() - start);
        });
        answer.on("error", () => undefined);
        if (++open === 5000) ready();
      });
    }
  });
  const saves = [];
  for (let i = 0; i < 500; i++) {
    const job = jobs[i % jobs.length];
    const start = performance.now();
    job.saved.set(job.revision + 1, start);
    saves.push(
      fetch(`${url}/api/jobs/${job.id}`, {
        method: "PUT",
        headers: {
          "content-type": "application/json",
          "if-match": `"${job.revision++}"`,
          "idempotency-key": randomUUID(),
        },
        body: JSON.stringify({ ...empty, name: `streamed ${i}` }),
      }).then((answer) => {
        if (!answer.ok) throw new Error(`a save: ${answer.status}`);
        return performance.now() - start;
      }),
    );
    await new Promise((done) => setTimeout(done, Math.max(0, 20 - (performance.now() - start))));
  }
  say("a save while 5,000 listen", await Promise.all(saves), "ms");
  await new Promise((done) => setTimeout(done, 2000));
  say("from a save to a page that listens", heard, "ms");
  const figures = await (await fetch(`http://${metrics}/metrics`)).text();
  const rss = Number(/^process_resident_memory_bytes (\S+)/m.exec(figures)?.[1]) / 1e6;
  console.log(`server: ${rss.toFixed(0)} MB with ${open} streams open`);
  agent.destroy();
} finally {
  server.kill("SIGTERM");
}
