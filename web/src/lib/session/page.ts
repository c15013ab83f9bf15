import { api, explain, newId } from "../api/client";
import { core } from "../core/core.svelte";
import { crew } from "../crew/crew.svelte";
import { preferences } from "../preferences.svelte";
import type { Surroundings } from "./surroundings";

/** How long the core may take over an edit before it goes on without figures. */
const patience = 6000;

/** Where the service worker keeps what the server said last. */
const deviceCopies = "elkstay-answers";

/** How long one page of a tab may take to let a job go to the next, ms. */
const handOver = 500;

function within<T>(ms: number, answer: Promise<T>): Promise<T | null> {
  return Promise.race([
    answer,
    new Promise<null>((settle) => setTimeout(() => settle(null), ms)),
  ]).catch(() => null);
}

/** The page: the server it came from, the core in its worker, the browser's own storage. */
export const page: Surroundings = {
  async read(id) {
    const { data, response } = await api.GET("/api/jobs/{id}", { params: { path: { id } } });
    if (!data && response.status !== 404) throw new Error("no answer");
    return data ?? null;
  },
  async revision(id, number) {
    const { data, response } = await api.GET("/api/jobs/{id}/revisions/{number}", {
      params: { path: { id, number } },
    });
    // A server that is busy has not said that there is none.
    if (!data && response.status !== 404) throw new Error("no answer");
    return data?.job ?? null;
  },
  async save(id, base, key, job) {
    try {
      const { data, error, response } = await api.PUT("/api/jobs/{id}", {
        params: {
          path: { id },
          header: { "If-Match": `"${base}"`, "Idempotency-Key": key },
        },
        body: job,
      });
      if (data) return { kept: { revision: data.revision, savedAt: data.saved_at } };
      if (response.status === 412 && error && "current" in error) return { moved: error.current };
      if (response.status === 404) return { gone: true };
      if ([400, 409, 413, 415, 422].includes(response.status)) return { refused: explain(error) };
      if (response.status === 503) return { unanswered: explain(error) };
    } catch {
      // Nobody answered in time.
    }
    return { unanswered: "" };
  },
  async create(job, key) {
    const { data } = await api.POST("/api/jobs", {
      params: { header: { "Idempotency-Key": key } },
      body: job,
    });
    return data ?? null;
  },
  keep(head) {
    // Where the worker looks when nobody answers: its copy is of the last answer read, this of the last
    // save acknowledged.
    if (!("caches" in globalThis)) return;
    const answer = new Response(JSON.stringify(head), {
      headers: { "Content-Type": "application/json", ETag: `"${head.revision}"` },
    });
    void caches
      .open(deviceCopies)
      .then((cache) => cache.put(`/api/jobs/${head.id}`, answer))
      .catch(() => undefined);
  },
  own(id, told) {
    const locks = "locks" in navigator ? navigator.locks : undefined;
    let leave: () => void = () => undefined;
    let left = false;
    const hold = () => new Promise<void>((done) => (leave = done));
    let holds = false;
    // Held until the page goes, or another takes it.
    const ask = (options: LockOptions) =>
      locks
        ?.request(`elkstay.job.${id}`, options, () => {
          if (left || holds) return undefined;
          holds = true;
          told.gained();
          return hold();
        })
        .catch(() => {
          holds = false;
          if (left) return;
          told.lost();
          void ask({});
        });
    void ask({});
    // The page before, of the same tab, lets it go as this one comes.
    const late = setTimeout(() => {
      if (!holds && !left && locks) told.lost();
    }, handOver);
    return {
      take: () => void ask({ steal: true }),
      leave: () => {
        left = true;
        clearTimeout(late);
        leave();
      },
    };
  },
  async restore(id) {
    const { data } = await api.POST("/api/jobs/{id}/restore", { params: { path: { id } } });
    return data !== undefined;
  },
  listen(id, hearing) {
    let stream: EventSource | undefined;
    const open = () => {
      stream?.close();
      // A page nobody looks at gives its connection back: a browser has few for one
      // server. Seen again, it hears at once what it missed.
      if (document.visibilityState !== "visible") return;
      stream = new EventSource(`/api/jobs/${id}/live`);
      stream.addEventListener("moved", (event: MessageEvent<string>) => {
        const moved = JSON.parse(event.data) as { revision: number; deleted: boolean };
        hearing.moved(moved.revision, moved.deleted);
      });
      stream.addEventListener("crew", hearing.crew);
    };
    window.addEventListener("online", hearing.online);
    document.addEventListener("visibilitychange", open);
    open();
    return () => {
      stream?.close();
      document.removeEventListener("visibilitychange", open);
      window.removeEventListener("online", hearing.online);
    };
  },
  async merge(base, mine, theirs) {
    const reply = await within(patience, core.merge(base, mine, theirs));
    return reply?.data ?? null;
  },
  assess: (job, pick) => within(patience, core.assess(job, preferences.units, pick)),
  async simulate(job, pick, runs) {
    const reply = await core.simulate(job, preferences.units, pick, runs).catch(() => null);
    return reply?.data ?? null;
  },
  async resolve(job) {
    const reply = await within(patience, core.resolve(job));
    return reply?.data ?? null;
  },
  ready: (job) => void crew.ready(job),
  refresh: () => crew.refresh(),
  recall(slot) {
    try {
      return localStorage.getItem(slot);
    } catch {
      return null;
    }
  },
  note(slot, text) {
    try {
      if (text === null) localStorage.removeItem(slot);
      else localStorage.setItem(slot, text);
      return true;
    } catch {
      // A browser that keeps nothing, or no more: the page itself still does, and says so.
      return false;
    }
  },
  newId,
  now: () => Date.now(),
  after(ms, then) {
    const timer = setTimeout(then, ms);
    return () => clearTimeout(timer);
  },
};
