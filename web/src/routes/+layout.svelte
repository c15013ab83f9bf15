<script lang="ts">
  import type { Snippet } from "svelte";
  import "../app.css";
  import { known } from "$lib/reference.svelte";

  let { children }: { children: Snippet } = $props();

  /** A newer version that is there as a whole, and waits. */
  let newer = $state.raw<ServiceWorker | null>(null);
  function use() {
    navigator.serviceWorker.addEventListener("controllerchange", () => location.reload(), {
      once: true,
    });
    newer?.postMessage("use");
  }

  // A part of the page that is not there any more: the server has a newer version. What is not
  // saved is kept on the device, so the page is read again; once, in case it is the line.
  $effect(() => {
    const lately = "elkstay.read-again";
    const again = () => {
      if (Date.now() - Number(sessionStorage.getItem(lately) ?? 0) < 60_000) return;
      sessionStorage.setItem(lately, String(Date.now()));
      location.reload();
    };
    window.addEventListener("vite:preloadError", again);
    return () => window.removeEventListener("vite:preloadError", again);
  });

  // What keeps the application on this device fetches all of it: not while the first view is drawn.
  $effect(() => {
    if (!("serviceWorker" in navigator) || import.meta.env.DEV) return;
    const keep = () => {
      if (!navigator.onLine) return window.addEventListener("online", keep, { once: true });
      navigator.serviceWorker
        .register("/service-worker.js")
        .then((kept) => {
          const look = () => (newer = kept.waiting);
          look();
          kept.addEventListener("updatefound", () =>
            kept.installing?.addEventListener("statechange", look),
          );
        })
        .catch(() => {
          // A browser that keeps nothing: with a signal all is as ever.
        });
    };
    const later = setTimeout(keep, 1500);
    return () => {
      clearTimeout(later);
      window.removeEventListener("online", keep);
    };
  });
</script>

{#if known.reference}
  {@render children()}
  {#if newer}
    <div
      role="status"
      class="fixed right-3 bottom-3 left-3 z-50 flex items-center gap-3 border-2 border-base-content bg-base-100 p-3 sm:left-auto"
    >
      <p><b>A newer version is ready.</b> What is not saved stays on this device.</p>
      <button class="btn touch btn-primary" onclick={use}>Use it</button>
    </div>
  {/if}
{:else}
  <main class="mx-auto max-w-md p-8">
    <h1 class="text-2xl font-semibold">The server does not answer</h1>
    <p class="mt-2 faint">Nothing is lost: what was not saved is kept on this device.</p>
    <button class="btn mt-6 touch btn-primary" onclick={() => known.load()}>Try again</button>
  </main>
{/if}
