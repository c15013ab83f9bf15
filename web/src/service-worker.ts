/// <reference types="@sveltejs/kit" />
/// <reference lib="webworker" />
// At the foot of the tree there may be no signal: the application and the jobs looked at
// on this device open all the same. What is asked of the server goes to the server; only
// when it does not answer does what it said last time stand in.
import { build, files, version } from "$service-worker";

const worker = globalThis as unknown as ServiceWorkerGlobalScope;
const shell = "/";
const shipped = `elkstay-${version}`;
const answers = "elkstay-answers";

// The core for the browser is large: at first it is kept when it is first fetched.
const own = new Set([...build, ...files]);
const first = [shell, ...own].filter((path) => !path.endsWith(".wasm"));

/** Everything, and the core: which no list names, but the script of its worker does. */
async function whole(): Promise<string[]> {
  const cores: string[] = [];
  for (const path of build.filter((one) => one.includes("/workers/") && one.endsWith(".js"))) {
    const script = await fetch(path);
    if (!script.ok) throw new Error(`${path}: ${script.status}`);
    const named = /["'`]([\w./-]+\.wasm)["'`]/.exec(await script.text())?.[1];
    if (named) cores.push(new URL(named, new URL(path, worker.location.origin)).pathname);
  }
  if (!cores.length) throw new Error("the core is not found");
  return [...first, ...cores];
}

// A newer version is there as a whole, its core with it, before anything of the one in use goes; and it takes
// its place when somebody says so, or once no page of the older is open any more.
async function install(): Promise<void> {
  const names = await caches.keys();
  const newer = names.some(
    (name) => name.startsWith("elkstay-") && name !== shipped && name !== answers,
  );
  const cache = await caches.open(shipped);
  await cache.addAll(newer ? await whole() : first);
  if (!newer) await worker.skipWaiting();
}

worker.addEventListener("install", (event) => event.waitUntil(install()));

worker.addEventListener("message", (event) => {
  if (event.data === "use") event.waitUntil(worker.skipWaiting());
});

worker.addEventListener("activate", (event) => {
  event.waitUntil(
    caches
      .keys()
      .then((names) =>
        Promise.all(
          names
            .filter((name) => name !== shipped && name !== answers)
            .map((name) => caches.delete(name)),
        ),
      )
      .then(() => worker.clients.claim()),
  );
});

/** What is worth keeping of the API: what is known at the start, the list, each job. */
const kept = /^\/api\/(reference|policy|locker|jobs|jobs\/[0-9a-f-]{36})$/;

async function fromHere(request: Request): Promise<Response> {
  const cache = await caches.open(shipped);
  const found = await cache.match(request);
  if (found) return found;
  const answer = await fetch(request);
  if (answer.ok) await cache.put(request, answer.clone());
  return answer;
}

async function fromThere(request: Request): Promise<Response> {
  const cache = await caches.open(answers);
  try {
    const answer = await fetch(request);
    if (answer.ok) await cache.put(request, answer.clone());
    return answer;
  } catch (error) {
    const found = await cache.match(request);
    if (found) return found;
    throw error;
  }
}

async function page(request: Request): Promise<Response> {
  try {
    return await fetch(request);
  } catch (error) {
    const found = await (await caches.open(shipped)).match(shell);
    if (found) return found;
    throw error;
  }
}

worker.addEventListener("fetch", (event) => {
  const { request } = event;
  const address = new URL(request.url);
  if (request.method !== "GET" || address.origin !== worker.location.origin) return;
  if (own.has(address.pathname) || address.pathname.startsWith("/_app/immutable/")) {
    event.respondWith(fromHere(request));
  } else if (kept.test(address.pathname)) event.respondWith(fromThere(request));
  else if (request.mode === "navigate") event.respondWith(page(request));
});
