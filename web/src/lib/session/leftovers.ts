import { api, type JobHead } from "../api/client";
import { page } from "./page";
import { Saver } from "./saver.svelte";
import { slotBefore, type Left } from "./slot";

/** A job of which this device keeps changes that no server has acknowledged. */
export interface Leftover {
  id: string;
  name: string;
  waiting: number;
  since: number;
  /** The server has no such job any more: what waits can only become a job of its own. */
  orphan?: boolean;
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

function leftOf(id: string): Left | null {
  try {
    return JSON.parse(localStorage.getItem(slotBefore + id) ?? "null") as Left | null;
  } catch {
    return null;
  }
}

const patience = 20_000;

/**
 * Sends what this device keeps of a job, unless another page has it in hand; what needs an answer waits until the job is opened. True: the
 * server has no such job any more.
 */
export async function sendLeftover(id: string): Promise<boolean> {
  const asked = await api.GET("/api/jobs/{id}", { params: { path: { id } } }).catch(() => null);
  if (asked?.response.status === 404) return true;
  const head = asked?.data;
  if (!head) return false;
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
  return false;
}

/** Makes a job of its own of what this device keeps of one that is no more; asked again after a lost answer, it makes one. */
export async function keepOrphan(id: string): Promise<JobHead | null> {
  const left = leftOf(id);
  if (!left) return null;
  const made = await page.create(left.pending.job, left.pending.key).catch(() => null);
  if (made) letGo(id);
  return made;
}

/** Forgets what this device keeps of a job. */
export function letGo(id: string): void {
  try {
    localStorage.removeItem(slotBefore + id);
  } catch {
    // A browser that keeps nothing has nothing to forget.
  }
}
