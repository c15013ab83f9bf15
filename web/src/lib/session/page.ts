import { api, explain, newId } from "../api/client";
import { core } from "../core/core.svelte";
import { crew } from "../crew/crew.svelte";
import { preferences } from "../preferences.svelte";
import type { Surroundings } from "./surroundings";

/** How long the core may take over an edit before it goes on without figures. */
const patience = 6000;

function within<T>(ms: number, answer: Promise<T>): Promise<T | null> {
  return Promise.race([
    answer,
    new Promise<null>((settle) => setTimeout(() => settle(null), ms)),
  ]).catch(() => null);
}

/** The page: the server it came from, the core in its worker, the browser's own storage. */
export const page: Surroundings = {
  async read(id) {
    const { data } = await api.GET("/api/jobs/{id}", { params: { path: { id } } });
    return data ?? null;
  },
  async revision(id, number) {
    const { data } = await api.GET("/api/jobs/{id}/revisions/{number}", {
      params: { path: { id, number } },
    });
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
      if (response.status === 422) return { refused: explain(error) };
      if (response.status === 503) return { unanswered: explain(error) };
    } catch {
      // Nobody answered in time.
    }
    return { unanswered: "" };
  },
  async create(job) {
    const { data } = await api.POST("/api/jobs", {
      params: { header: { "Idempotency-Key": newId() } },
      body: job,
    });
    return data ?? null;
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
    } catch {
      // A browser that keeps nothing: the page itself still does.
    }
  },
  newId,
  now: () => Date.now(),
  after(ms, then) {
    const timer = setTimeout(then, ms);
    return () => clearTimeout(timer);
  },
};
