<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { resolve } from "$app/paths";
  import type { GroundFigures, GroundPiece, Job, JobHead, Quantity } from "$lib/api/client";
  import { core } from "$lib/core/core.svelte";
  import Measure from "$lib/fields/Measure.svelte";
  import GroundPlan from "$lib/ground/GroundPlan.svelte";
  import Sawing from "$lib/ground/Sawing.svelte";
  import Vehicles from "$lib/ground/Vehicles.svelte";
  import Ways from "$lib/ground/Ways.svelte";
  import { onGround } from "$lib/ground/document";
  import { preferences } from "$lib/preferences.svelte";
  import { print } from "$lib/reference.svelte";
  import Conflict from "$lib/session/Conflict.svelte";
  import SaveMark from "$lib/session/SaveMark.svelte";
  import { page } from "$lib/session/page";
  import { Session } from "$lib/session/session.svelte";
  import Topbar from "$lib/Topbar.svelte";

  let { head }: { head: JobHead } = $props();

  const session = untrack(() => new Session(head, page));
  onDestroy(() => session.close());
  let assessment = $derived(session.assessment);
  $effect(() => {
    void preferences.units;
    untrack(() => void session.assess());
  });
  $effect(() => core.load());

  // Asked as often as it answers: what was asked meanwhile is asked once more after.
  let lies = $state.raw<GroundFigures | null>(null);
  let behind = $state(false);
  let asking = false;
  let again = false;
  async function ask() {
    if (asking) {
      again = true;
      return;
    }
    asking = true;
    do {
      again = false;
      const reply = await core.ground(session.job, preferences.units).catch(() => null);
      if (reply?.data) lies = reply.data;
      behind = !reply;
    } while (again);
    asking = false;
  }
  $effect(() => {
    void session.job;
    void session.assessment;
    void preferences.units;
    untrack(() => void ask());
  });

  const logsOf = (one: GroundPiece) => {
    const n = one.parts.reduce((sum, p) => sum + p.logs.length, 0);
    return n === 0 ? "all of it to chips" : n === 1 ? "1 log" : `${n} logs`;
  };
  let chosen = $state("");
  let piece = $derived(lies?.pieces.find((p) => p.id === chosen) ?? lies?.pieces[0] ?? null);
  const tabs = [
    ["logs", "Logs"],
    ["plan", "Plan"],
    ["moving", "Moving"],
    ["loads", "Loads"],
  ] as const;
  /** What a phone shows. */
  let tab = $state<(typeof tabs)[number][0]>("logs");

  type Name =
    "hand_kg" | "machine_kg" | "least_m" | "kerf_m" | "friction" | "chips_kg_m3" | "stack_share";
  const counted: [Name, string, Quantity | "number"][] = [
    ["hand_kg", "Lifted by hand, at most", "mass"],
    ["machine_kg", "Lifted by the machine, at most", "mass"],
    ["least_m", "Thinner goes to chips", "diameter"],
    ["kerf_m", "What a saw cut takes", "gauge"],
    ["friction", "Friction of logs on the ground", "number"],
    ["chips_kg_m3", "Chips, kg in a cubic metre", "number"],
    ["stack_share", "Wood in a load of logs, as a share", "number"],
  ];
  const put = (name: Name) => (value: number | undefined, _: string, seen: Job) =>
    session.change(
      (job) => {
        if (value === undefined) Reflect.deleteProperty(onGround(job), name);
        else onGround(job)[name] = value;
      },
      undefined,
      seen,
    );
</script>

<svelte:head><title>On the ground · {session.job.name} · Elk Stay</title></svelte:head>

<div class="flex h-dvh flex-col overflow-hidden">
  <Topbar>
    <a class="btn touch min-w-0 shrink btn-ghost px-2" href={resolve("/job/[id]", { id: head.id })}
      ><span class="truncate">← {session.job.name}</span></a
    >
    <SaveMark saver={session.saver} />
    <span class="grow"></span>
    <button
      class="btn touch btn-ghost px-2"
      disabled={!session.canUndo}
      onclick={() => session.undo()}>Undo</button
    >
  </Topbar>
  <Conflict {session} />
  <div
    class="flex items-center gap-3 border-b border-base-300 bg-base-200 px-4 py-1.5"
    aria-live="polite"
  >
    <h1 class="sr-only">On the ground</h1>
    <p class="text-base leading-tight font-semibold sm:text-lg" data-testid="ground-said">
      {lies?.said ?? "Working out what lies on the ground."}
    </p>
    {#if behind}<p class="ml-auto shrink-0 text-sm font-semibold text-error">
        Figures are behind: no answer
      </p>{/if}
  </div>
  <nav class="grid grid-cols-4 border-b border-base-300 lg:hidden" aria-label="On the ground">
    {#each tabs as [id, title] (id)}
      <button
        class={[
          "touch border-b-3 font-semibold",
          tab === id ? "border-primary" : "border-transparent faint",
        ]}
        aria-current={tab === id ? "true" : undefined}
        onclick={() => (tab = id)}>{title}</button
      >
    {/each}
  </nav>
  {#if lies && assessment}
    <div class="grid min-h-0 grow lg:grid-cols-[280px_minmax(0,1fr)_380px]">
      <div
        class={[
          "min-h-0 overflow-y-auto border-base-300 max-lg:max-h-44 max-lg:border-b lg:border-r",
          tab !== "logs" && "max-lg:hidden",
        ]}
      >
        <ol aria-label="What comes down">
          {#each lies.pieces as one (one.id)}
            <li>
              <button
                class={[
                  "flex min-h-12 w-full cursor-pointer items-baseline gap-2 border-b border-base-300 px-3 py-1.5 text-left",
                  one.id === piece?.id && "bg-base-200 shadow-[inset_4px_0_0_var(--color-primary)]",
                ]}
                aria-current={one.id === piece?.id ? "true" : undefined}
                onclick={() => (chosen = one.id)}
              >
                <span class="w-6 shrink-0 text-right text-sm faint tabular-nums">{one.number}</span>
                <span class="min-w-0 grow">
                  <span class="line-clamp-2 leading-tight font-semibold">{one.title}</span>
                  <span class="block text-sm faint"
                    >{logsOf(one)}{one.logging.kept ? ", stay" : ""}{one.done
                      ? " · down"
                      : ""}</span
                  >
                </span>
                <span class="shrink-0 font-bold tabular-nums"
                  >{print("mass", one.mass_kg.likely)}</span
                >
              </button>
            </li>
          {/each}
        </ol>
      </div>
      <main class="flex min-h-0 flex-col">
        <div
          class={[
            "min-h-0 border-base-300 lg:h-[46%] lg:shrink-0 lg:border-b",
            tab === "plan" ? "max-lg:grow" : "max-lg:hidden",
          ]}
        >
          <GroundPlan
            {session}
            {assessment}
            {lies}
            chosen={piece?.id ?? ""}
            onchoose={(id) => (chosen = id)}
          />
        </div>
        <div class={["min-h-0 grow overflow-y-auto", tab !== "logs" && "max-lg:hidden"]}>
          {#if piece}
            {#key piece.id}<Sawing {session} {piece} />{/key}
          {:else}
            <p class="p-4 text-lg">{lies.said}</p>
          {/if}
        </div>
      </main>
      <aside
        class={[
          "min-h-0 space-y-4 overflow-y-auto border-base-300 p-3 lg:border-l",
          tab !== "moving" && tab !== "loads" && "max-lg:hidden",
        ]}
      >
        {#if lies.zones.length}
          <section aria-label="Drop zones" class={[tab !== "loads" && "max-lg:hidden"]}>
            <h2 class="text-lg font-bold">Drop zones</h2>
            {#each lies.zones as zone, at (at)}
              <p
                class={["text-base leading-snug", zone.full > 0 && "font-semibold text-error"]}
                data-testid="zone-said"
              >
                <span class="font-semibold">{zone.name}.</span>
                {zone.said}
              </p>
            {/each}
          </section>
        {/if}
        <div class={[tab !== "loads" && "max-lg:hidden"]}><Vehicles {session} {lies} /></div>
        <div class={[tab !== "moving" && "max-lg:hidden"]}><Ways {session} {lies} /></div>
        <details>
          <summary class="touch cursor-pointer text-base font-bold">What counts here</summary>
          <div class="grid grid-cols-2 items-end gap-2">
            {#each counted as [name, label, quantity] (name)}
              <Measure
                {session}
                path={`ground.${name}`}
                {label}
                {quantity}
                value={session.job.ground?.[name]}
                hint={lies.settings[name] === undefined
                  ? "none"
                  : quantity === "number"
                    ? String(lies.settings[name])
                    : print(quantity, lies.settings[name] ?? 0)}
                put={put(name)}
              />
            {/each}
          </div>
        </details>
        {#each lies.cautions as caution, at (at)}
          <p class="text-sm leading-snug font-medium">▲ {caution}</p>
        {/each}
      </aside>
    </div>
  {/if}
</div>
