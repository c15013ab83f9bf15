import { crewOf, demo, expect, kept, open, second, test } from "../support/job";

interface Reply {
  status: number;
  body: unknown;
}

/**
 * Where two answers differ: in words at all, in figures by more than a part in a million
 * or a millionth of a unit. The last digit shown is a hundredth.
 */
function differences(a: unknown, b: unknown, path: string): string[] {
  if (typeof a === "number" && typeof b === "number") {
    const apart = Math.abs(a - b) / Math.max(1, Math.abs(a), Math.abs(b));
    return apart < 1e-6 ? [] : [`${path}: ${a} and ${b}`];
  }
  if (a !== null && b !== null && typeof a === "object" && typeof b === "object") {
    const keys = new Set([...Object.keys(a), ...Object.keys(b)]);
    return [...keys].flatMap((key) =>
      differences(
        (a as Record<string, unknown>)[key],
        (b as Record<string, unknown>)[key],
        `${path}.${key}`,
      ),
    );
  }
  return a === b ? [] : [`${path}: ${String(a)} and ${String(b)}`];
}

for (const [name, id] of [
  ["Tern Quay", demo],
  ["Mill Fold", second],
] as const) {
  test(`${name}: the core in the browser gives the server's figures`, async ({ page }) => {
    test.setTimeout(120_000);
    await open(page, id);
    const { job } = await kept(page, id);
    const crew = JSON.stringify(await crewOf(page, job));
    const questions: [question: string, asked: Record<string, unknown>][] = [];
    for (const units of ["metric", "us"]) {
      for (const pick of job.picks) {
        questions.push(["assess", { units, pick: pick.id }]);
        if (units === "metric") questions.push(["simulate", { units, pick: pick.id }]);
      }
      questions.push(["brief", { units }]);
      questions.push(["propose", { units, by: "up" }], ["propose", { units, by: "sides" }]);
      questions.push(["ask", { units, pick: job.picks[9]?.id, ask: "length", hold: "limits" }]);
    }
    const bare = { ...job, picks: [] };
    for (const [question, asked] of questions) {
      const document = JSON.stringify(question === "propose" ? bare : job);
      const inPage = JSON.parse(
        await page.evaluate(
          async ({ question, document, asked, crew }) => {
            const holder = window as unknown as { own?: Promise<Worker> };
            holder.own ??= new Promise((ready) => {
              const address = performance
                .getEntriesByType("resource")
                .map((e) => e.name)
                .find((name) => name.includes("/workers/worker"));
              const worker = new Worker(address ?? "", { type: "module" });
              worker.onmessage = (e: MessageEvent<{ ready?: boolean }>) =>
                e.data.ready && ready(worker);
            });
            const worker = await holder.own;
            return new Promise<string>((done) => {
              worker.onmessage = (e: MessageEvent<{ reply: string }>) => done(e.data.reply);
              worker.postMessage({ id: 1, question, document, asked, crew });
            });
          },
          { question, document, asked: JSON.stringify(asked), crew },
        ),
      ) as Reply;
      const query = new URLSearchParams(asked as Record<string, string>);
      const answer = await page.request.post(`/api/${question}?${query}`, {
        data: document,
        headers: { "Content-Type": "application/json" },
      });
      expect(inPage.status, question).toBe(answer.status());
      expect(differences(inPage.body, await answer.json(), question)).toEqual([]);
    }
  });
}
