import { page } from "./page";
import { Saver } from "./saver.svelte";
import { slotBefore, type Left } from "./slot";

/** A job of which this device keeps changes that no server has acknowledged. */
export interface Leftover {
  id: string;
  name: string;
  waiting: number;
  since: number;
}

/** What this device keeps of every job. */
export function leftovers(): Leftover[] {
  try {
    return Object.keys(localStorage)
      .filter((key) => key.startsWith(slotBefore))
      .flatMap((key) => {
        const left = JSON.parse(localStorage.getItem(key) ?? "null") as Left | null;
        return left
          ? [
              {
                id: key.slice(slotBefore.length),
                name: left.pending.job.name,
                waiting: left.waiting ?? 1,
                since: left.since ?? 0,
              },
            ]
          : [];
      });
  } catch {
    return [];
  }
}

const patience = 20_000;

/** Sends what this device keeps of a job, unless another page has it in hand; what needs an answer waits until the job is opened. */
export async function sendLeftover(id: string): Promise<void> {
  const head = await page.read(id).catch(() => null);
  if (!head) return;
  const saver = new Saver(head, page, () => undefined);
  await new Promise<void>((done) => {
    const end = Date.now() + patience;
    const look = setInterval(() => {
      if (["waiting", "saving"].includes(saver.state) && !saver.follows && Date.now() < end) return;
      clearInterval(look);
      done();
    }, 200);
  });
  saver.close();
}
