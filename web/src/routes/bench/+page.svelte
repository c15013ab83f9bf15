<script lang="ts">
  import { tick } from "svelte";
  import { page } from "$app/state";
  import { goto, replaceState } from "$app/navigation";
  import { resolve } from "$app/paths";
  import { api, explain, newId } from "$lib/api/client";
  import Bench from "$lib/bench/Bench.svelte";
  import { found, instruments } from "$lib/bench/instruments";
  import { core } from "$lib/core/core.svelte";
  import Nav from "$lib/Nav.svelte";
  import Topbar from "$lib/Topbar.svelte";

  let search = $state("");
  let list = $derived(found(search));
  let groups = $derived([...new Set(list.map((one) => one.group))]);
  core.load();

  // What lies on the bench is its address: a link opens it as it stood.
  let kind = $state(page.url.searchParams.get("sum") ?? "");
  let request = $state.raw<Record<string, unknown>>(opened());
  let instrument = $derived(instruments.find((one) => one.kind === kind));

  function opened(): Record<string, unknown> {
    const begin = instruments.find((one) => one.kind === page.url.searchParams.get("sum"))?.begin;
    try {
      const text = page.url.searchParams.get("with");
      if (text) return JSON.parse(text) as Record<string, unknown>;
    } catch {
      // An address that was cut short: the sum to begin with.
    }
    return begin ?? {};
  }

  // A pulling system drawn for a line of a felling goes back to it.
  const line = page.url.searchParams.get("line") ?? "";
  let trouble = $state("");
  async function putOnLine() {
    const [id = "", pickId, lineId] = line.split("/");
    trouble = "";
    const kept = await api.GET("/api/jobs/{id}", { params: { path: { id } } }).catch(() => null);
    const one = kept?.data?.job.picks
      .find((p) => p.id === pickId)
      ?.fell?.lines?.find((l) => l.id === lineId);
    if (!kept?.data || !one) {
      trouble = kept?.data ? "That line is not there any more." : explain(kept?.error ?? null);
      return;
    }
    one.system = request as unknown as typeof one.system;
    delete one.parts;
    const answer = await api
      .PUT("/api/jobs/{id}", {
        params: {
          path: { id },
          header: { "If-Match": `"${kept.data.revision}"`, "Idempotency-Key": newId() },
        },
        body: kept.data.job,
      })
      .catch(() => null);
    if (answer?.data) await goto(resolve("/job/[id]", { id }));
    else trouble = explain(answer?.error ?? null);
  }

  const lastKey = "elkstay.bench";
  function lastUsed(): string[] {
    try {
      const list: unknown = JSON.parse(localStorage.getItem(lastKey) ?? "[]");
      return Array.isArray(list)
        ? list.filter((one): one is string => typeof one === "string")
        : [];
    } catch {
      return [];
    }
  }
  let last = $state(lastUsed());

  function address(of: string, what: Record<string, unknown>) {
    const back = of === "haul" && line ? `&line=${encodeURIComponent(line)}` : "";
    const query = `sum=${of}${back}&with=${encodeURIComponent(JSON.stringify(what))}`;
    replaceState(resolve(`/bench?${query}`), {});
  }

  async function take(which: string) {
    const one = instruments.find((i) => i.kind === which);
    if (!one) return;
    kind = which;
    request = one.begin;
    last = [which, ...last.filter((k) => k !== which)].slice(0, 6);
    localStorage.setItem(lastKey, JSON.stringify(last));
    address(which, request);
    await tick();
    document.querySelector<HTMLElement>("[data-testid=instrument]")?.scrollIntoView();
  }
</script>

<svelte:head><title>Bench · Elk Stay</title></svelte:head>

<div class="flex h-dvh flex-col">
  <Topbar><Nav /></Topbar>
  <div class="grid min-h-0 grow lg:grid-cols-[320px_minmax(0,1fr)]">
    <aside
      class={[
        "min-h-0 overflow-y-auto border-base-300 p-3 lg:block lg:border-r",
        instrument && "max-lg:hidden",
      ]}
    >
      <label class="block">
        <span class="sr-only">Look for a sum</span>
        <input
          class="input touch w-full text-lg"
          type="search"
          placeholder="choker, redirect, how heavy"
          bind:value={search}
          onkeydown={(e) => {
            const first = list[0];
            if (e.key === "Enter" && first) void take(first.kind);
          }}
        />
      </label>
      <a
        class="mt-2 block touch content-center border-l-4 border-transparent px-2 leading-snug font-semibold"
        href={resolve("/bench/weights")}>Weight table, for the truck</a
      >
      <a
        class="block touch content-center border-l-4 border-transparent px-2 leading-snug font-semibold"
        href={resolve("/bench/wraps")}>Wraps card, by the bollard</a
      >
      {#if !search && last.length}
        <h2 class="mt-3 text-sm font-bold">Last used</h2>
        {#each last as which (which)}
          {@const one = instruments.find((i) => i.kind === which)}
          {#if one}
            <button
              class="btn touch w-full justify-start btn-ghost text-left"
              onclick={() => take(one.kind)}>{one.title}</button
            >
          {/if}
        {/each}
      {/if}
      {#each groups as group (group)}
        <h2 class="mt-3 text-sm font-bold">{group}</h2>
        {#each list.filter((one) => one.group === group) as one (one.kind)}
          <button
            class={[
              "touch w-full cursor-pointer border-l-4 px-2 py-1.5 text-left leading-snug",
              one.kind === kind ? "border-primary bg-base-200 font-semibold" : "border-transparent",
            ]}
            aria-current={one.kind === kind ? "true" : undefined}
            onclick={() => take(one.kind)}>{one.title}</button
          >
        {/each}
      {:else}
        <p class="p-3 faint">No sum is called so.</p>
      {/each}
    </aside>
    <main class={["min-h-0 overflow-y-auto p-4 pb-16 sm:p-6", !instrument && "max-lg:hidden"]}>
      {#if instrument}
        <button class="btn mb-2 touch btn-ghost px-2 lg:hidden" onclick={() => (kind = "")}
          >← All sums</button
        >
        {#if line && kind === "haul"}
          <div class="mb-3 flex flex-wrap items-center gap-3 border-l-4 border-primary pl-3">
            <p class="grow">Drawn for a line of a felling. Its load there is the line’s own.</p>
            <button class="btn touch btn-primary" onclick={putOnLine}>Put it on the line</button>
            {#if trouble}<p role="alert" class="w-full text-error">{trouble}</p>{/if}
          </div>
        {/if}
        {#key kind}
          <Bench
            {instrument}
            {request}
            onchange={(next) => {
              request = next;
              address(kind, next);
            }}
          />
        {/key}
      {:else}
        <h1 class="text-3xl font-bold">Bench</h1>
        <p class="mt-2 max-w-md text-lg">
          One question, one answer, no tree needed. Choose a sum, or look for it by a word of the
          trade.
        </p>
      {/if}
    </main>
  </div>
</div>
