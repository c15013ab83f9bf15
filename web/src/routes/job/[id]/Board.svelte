<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { MediaQuery } from "svelte/reactivity";
  import { resolve } from "$app/paths";
  import type { JobFigures, JobHead } from "$lib/api/client";
  import Bar from "$lib/board/Bar.svelte";
  import Beginning from "$lib/board/Beginning.svelte";
  import Centre from "$lib/board/Centre.svelte";
  import Changed from "$lib/board/Changed.svelte";
  import { commandsOf, placesOf } from "$lib/board/commands";
  import { Hand } from "$lib/board/hand";
  import Side from "$lib/board/Side.svelte";
  import { View } from "$lib/board/view.svelte";
  import { commandOf, pressed } from "$lib/commands";
  import { core } from "$lib/core/core.svelte";
  import Mark from "$lib/ladder/Mark.svelte";
  // At hand at once: whoever calls it goes on typing.
  import Palette from "$lib/Palette.svelte";
  import { preferences } from "$lib/preferences.svelte";
  import Conflict from "$lib/session/Conflict.svelte";
  import { page } from "$lib/session/page";
  import { Session } from "$lib/session/session.svelte";

  let { head, figures }: { head: JobHead; figures: JobFigures | null } = $props();

  const session = untrack(() => new Session(head, page, figures));
  onDestroy(() => session.close());
  const view = new View();
  const hand = new Hand(session, view);

  // One pick at a time where there is no room for the order beside the tree.
  const narrow = new MediaQuery("(max-width: 1023px)");
  let assessment = $derived(session.assessment);
  let drawn = $derived((session.treeFigures?.stem.length ?? 0) > 1);

  // On a phone a view is drawn when it is first opened; on a desk the drawing comes first
  // and the rest a moment later, so that there is something to see.
  let opened = $state<Record<string, boolean>>({});
  $effect(() => {
    opened[view.view] = true;
  });
  let awake = $state(false);
  $effect(() => {
    if (!assessment || awake) return;
    // In the first frame the drawing is on its way, in the second it is seen. A page in the
    // background draws none.
    let frames = document.visibilityState === "visible" ? 2 : 0;
    const wake = () => {
      if (frames-- > 0) requestAnimationFrame(wake);
      else setTimeout(() => (awake = true), 0);
    };
    wake();
  });
  const mounted = (which: string) => (narrow.current ? (opened[which] ?? false) : true);

  // Asked at first, unless the figures came with the job, and again when the units of its
  // sentences change.
  let shown = session.assessment ? preferences.units : "";
  $effect(() => {
    if (shown === preferences.units) return;
    shown = preferences.units;
    untrack(() => void session.assess());
  });

  // What is felled is seen square to its fall.
  let falls = $derived(
    session.pick?.way === "felled" ? (session.figures?.fall_towards_deg ?? null) : null,
  );
  $effect(() => {
    void session.pick?.id;
    if (falls !== null) view.right = Math.round(falls) % 360;
  });

  // The core comes into the page once there is something to see, or nobody else answers.
  let loading = false;
  $effect(() => {
    if ((!assessment && !session.behind) || loading) return;
    loading = true;
    if ("requestIdleCallback" in window) requestIdleCallback(() => core.load(), { timeout: 1000 });
    else setTimeout(() => core.load(), 300);
  });

  // An empty job begins with the tree; a job without a tree has nothing else to show.
  $effect(() => {
    if (assessment && !drawn) untrack(() => view.showSide("setup"));
  });

  let commands = $derived(commandsOf(session, view, hand));
  let places = $derived(view.palette ? placesOf(session) : []);

  function onkeydown(event: KeyboardEvent) {
    const target = event.target instanceof HTMLElement ? event.target : null;
    const typing =
      target?.matches("input:not([type=checkbox], [type=radio], [type=range]), select, textarea") ??
      false;
    if (event.key === "Escape") {
      view.clear();
      return;
    }
    const name = pressed(event);
    if ((typing || view.covered) && name !== "ctrl+k") return;
    const onButton = target?.matches("button, a, [role=tab], [role=option], summary") ?? false;
    if (name === " " && onButton) return;
    let run = commandOf(commands, event)?.run;
    if (!onButton && target?.getAttribute("role") !== "slider" && !target?.matches("input")) {
      if (name === "arrowdown") run = () => hand.step(1);
      if (name === "arrowup") run = () => hand.step(-1);
    }
    if (!run) return;
    event.preventDefault();
    run();
  }

  const views = [
    { id: "pick", title: "Pick" },
    { id: "tree", title: "Tree" },
    { id: "order", title: "Order" },
    { id: "setup", title: "Setup" },
  ] as const;
</script>

<svelte:head><title>{session.job.name} · Elk Stay</title></svelte:head>
<svelte:window {onkeydown} onbeforeunload={() => session.release()} />

<div class="relative flex h-dvh flex-col overflow-hidden">
  <Bar {session} {view} {hand} />
  <Conflict {session} />
  {#if view.keys}
    {#await import("$lib/Keys.svelte") then { default: Keys }}<Keys {commands} />{/await}
  {/if}
  {#if view.palette}
    <Palette commands={[...commands, ...places]} onclose={() => (view.palette = false)} />
  {/if}

  {#if assessment}
    <Changed {session} />
    <div class="flex shrink-0 items-center gap-3 border-b border-base-300 bg-base-200 px-4 py-1.5">
      <Mark verdict={assessment.verdict} size={24} />
      <p class="text-base leading-tight font-semibold sm:text-lg" data-testid="state">
        {assessment.state}
      </p>
      {#if session.behind}
        <p class="ml-auto shrink-0 text-sm font-semibold text-error">
          Figures are behind: no answer
        </p>
      {/if}
    </div>

    <div
      class="relative grid min-h-0 grow grid-cols-1 lg:grid-cols-[264px_minmax(0,1fr)_356px]"
      data-core={core.here ? "here" : "server"}
      data-pick={session.detail?.id}
      data-testid="board"
    >
      {#if view.filling}
        {#await import("$lib/fill/Fill.svelte") then { default: Fill }}
          <Fill
            {session}
            onclose={() => (view.filling = false)}
            onwhole={() => view.showWholes()}
          />
        {/await}
      {/if}
      {#if view.wholes}
        {#await import("$lib/fill/WholeTrees.svelte") then { default: WholeTrees }}
          <WholeTrees {session} onclose={() => (view.wholes = false)} />
        {/await}
      {/if}
      <div
        class={[
          "min-h-0 border-base-300 lg:block lg:border-r",
          view.view !== "order" && "max-lg:hidden",
        ]}
      >
        {#if awake && mounted("order")}
          {#await import("$lib/order/Order.svelte") then { default: Order }}
            <Order
              {session}
              {assessment}
              onadd={hand.add}
              onfill={() => (view.filling = true)}
              onremove={hand.takeOut}
              onshift={hand.move}
            />
          {/await}
        {/if}
      </div>

      <main class={["flex min-h-0 flex-col lg:flex", view.view !== "tree" && "max-lg:hidden"]}>
        {#if !mounted("tree")}
          <!-- Drawn when it is opened. -->
        {:else if drawn}
          <Centre {session} {assessment} {view} {awake} />
          {#if awake}
            {#await import("$lib/trace/Trace.svelte") then { default: Trace }}
              <Trace {session} {assessment} />
            {/await}
          {/if}
        {:else}
          <Beginning {assessment} onenter={() => (view.view = "setup")} />
        {/if}
      </main>

      <aside
        class={[
          "flex min-h-0 flex-col border-base-300 lg:flex lg:border-l",
          view.view !== "pick" && view.view !== "setup" && "max-lg:hidden",
        ]}
      >
        <Side {session} {assessment} {view} {hand} narrow={narrow.current} {awake} />
      </aside>
    </div>

    <nav
      class="grid shrink-0 grid-cols-5 border-t border-base-300 pb-[env(safe-area-inset-bottom)] lg:hidden"
      aria-label="Views"
    >
      {#each views as v (v.id)}
        <button
          class={[
            "h-14 cursor-pointer border-t-4 text-base font-semibold",
            view.view === v.id ? "border-primary" : "border-transparent faint",
          ]}
          aria-current={view.view === v.id ? "page" : undefined}
          onclick={() => (view.view = v.id)}>{v.title}</button
        >
      {/each}
      <a
        class="flex h-14 items-center justify-center border-t-4 border-transparent text-base font-semibold faint"
        href={resolve("/job/[id]/ground", { id: session.id })}
        aria-label="On the ground">Ground</a
      >
    </nav>
  {:else}
    <p class="p-8 faint">
      {session.behind ? "The core does not answer yet: trying again." : "Working it out"}
    </p>
  {/if}
</div>
