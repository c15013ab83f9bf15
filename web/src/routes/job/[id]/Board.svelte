<script lang="ts">
  import { onDestroy, untrack } from "svelte";
  import { goto } from "$app/navigation";
  import { resolve } from "$app/paths";
  import { MediaQuery } from "svelte/reactivity";
  import Download from "@lucide/svelte/icons/download";
  import FileText from "@lucide/svelte/icons/file-text";
  import Redo from "@lucide/svelte/icons/redo-2";
  import RotateLeft from "@lucide/svelte/icons/rotate-ccw";
  import RotateRight from "@lucide/svelte/icons/rotate-cw";
  import Ruler from "@lucide/svelte/icons/ruler";
  import Search from "@lucide/svelte/icons/search";
  import Undo from "@lucide/svelte/icons/undo-2";
  import Zoom from "@lucide/svelte/icons/zoom-in";
  import MapIcon from "@lucide/svelte/icons/map";
  import StumpIcon from "@lucide/svelte/icons/circle-dot-dashed";
  import TreeIcon from "@lucide/svelte/icons/tree-deciduous";
  import type { JobHead } from "$lib/api/client";
  import { core } from "$lib/core/core.svelte";
  import Elevation from "$lib/draw/Elevation.svelte";
  import Plan from "$lib/draw/Plan.svelte";
  import PlanLarge from "$lib/draw/PlanLarge.svelte";
  import { wind } from "$lib/draw/view";
  import Setup from "$lib/fields/Setup.svelte";
  import Fill from "$lib/fill/Fill.svelte";
  import WholeTrees from "$lib/fill/WholeTrees.svelte";
  import Keys from "$lib/Keys.svelte";
  import Ladder from "$lib/ladder/Ladder.svelte";
  import Mark from "$lib/ladder/Mark.svelte";
  import { join, nextPick, remove, shift, split, ways } from "$lib/order/edits";
  import Order from "$lib/order/Order.svelte";
  import { commandOf, pressed, type Command } from "$lib/commands";
  import Palette from "$lib/Palette.svelte";
  import OnePick from "$lib/pick/OnePick.svelte";
  import PickFields from "$lib/pick/PickFields.svelte";
  import Stump from "$lib/pick/Stump.svelte";
  import { preferences } from "$lib/preferences.svelte";
  import { print } from "$lib/reference.svelte";
  import Conflict from "$lib/session/Conflict.svelte";
  import SaveMark from "$lib/session/SaveMark.svelte";
  import { page } from "$lib/session/page";
  import { Session } from "$lib/session/session.svelte";
  import Topbar from "$lib/Topbar.svelte";
  import Trace from "$lib/trace/Trace.svelte";

  let { head }: { head: JobHead } = $props();

  const session = untrack(() => new Session(head, page));
  onDestroy(() => session.close());

  // One pick at a time where there is no room for the order beside the tree.
  const narrow = new MediaQuery("(max-width: 1023px)");
  let assessment = $derived(session.assessment);
  let said = $state("");
  let side = $state<"loads" | "pick" | "setup">("loads");
  let view = $state<"pick" | "tree" | "order" | "setup">("pick");
  let right = $state(90);
  let close = $state(false);
  // What is drawn large: the tree, the plan, or the stump.
  let large = $state<"tree" | "plan" | "stump">("tree");
  let keys = $state(false);
  let palette = $state(false);
  let filling = $state(false);
  let wholes = $state(false);
  let drawn = $derived((session.treeFigures?.stem.length ?? 0) > 1);

  // On a phone a view is drawn when it is first opened; on a desk the drawing comes first
  // and the rest a moment later, so that there is something to see.
  let opened = $state<Record<string, boolean>>({});
  $effect(() => {
    opened[view] = true;
  });
  let awake = $state(false);
  $effect(() => {
    if (assessment && !awake) setTimeout(() => (awake = true), 0);
  });
  const mounted = (which: string) => (narrow.current ? (opened[which] ?? false) : true);

  // Asked at first, and again when the units of its sentences change.
  $effect(() => {
    void preferences.units;
    untrack(() => void session.assess());
  });

  // What is felled is seen square to its fall.
  let falls = $derived(
    session.pick?.way === "felled" ? (session.figures?.fall_towards_deg ?? null) : null,
  );
  $effect(() => {
    void session.pick?.id;
    if (falls !== null) right = Math.round(falls) % 360;
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
    if (assessment && !drawn)
      untrack(() => {
        side = "setup";
        view = "setup";
      });
  });

  function add() {
    if (!assessment) return;
    const fresh = nextPick(session.job, session.tree, session.treeFigures);
    void session.change((job) => job.picks.push(fresh), [fresh.id]);
  }

  function takeOut() {
    const ids = session.chosen;
    if (ids.length) void session.change((job) => remove(job, ids));
  }

  function move(by: -1 | 1) {
    const ids = session.chosen;
    if (ids.length) void session.change((job) => shift(job, ids, by));
  }

  function splitChosen() {
    const f = session.figures;
    if (!f || f.length_m <= 0.2) return;
    const middle = Math.round(((f.from_m + f.to_m) / 2) * 100) / 100;
    let made = "";
    void session
      .change((job) => {
        made = split(job, f.id, middle);
      })
      .then((faults) => faults.length === 0 && session.choose([made]));
  }

  function joinChosen() {
    const id = session.pick?.id;
    if (!id) return;
    let joined = false;
    void session
      .change((job) => {
        joined = join(job, id);
      })
      .then(() => (said = joined ? "" : "There is no pick before it on the same wood."));
  }

  function toggleDone() {
    const ids = session.chosen;
    const done = !session.pick?.done;
    void session.change((job) => {
      for (const one of job.picks) {
        if (!ids.includes(one.id)) continue;
        if (done) one.done = true;
        else delete one.done;
      }
    });
  }

  async function longest() {
    const pick = session.pick;
    if (!pick) return;
    const reply = await core
      .ask(session.job, {
        units: preferences.units,
        pick: pick.id,
        ask: "length",
        hold: "limits",
      })
      .catch(() => null);
    const cut = reply?.data?.cut_m;
    if (cut !== undefined && cut !== null) {
      await session.changePick(pick.id, (one) => (one.cut_m = cut));
    }
    said = reply?.data?.reason ?? "The core does not answer.";
  }

  function show(which: typeof large) {
    large = large === which ? "tree" : which;
  }

  function turn(by: number) {
    right = (right + by + 360) % 360;
  }

  function showSide(which: typeof side) {
    side = which;
    view = which === "setup" ? "setup" : "pick";
  }

  function rename(name: string) {
    const title = name.trim();
    if (title && title !== session.job.name) {
      void session.change((job) => {
        job.name = title;
      });
    }
  }

  const focusCut = () => document.querySelector<HTMLElement>("[data-testid=cut]")?.focus();
  const play = () => document.querySelector<HTMLElement>("[data-testid=play]")?.click();

  // One list for the keys, the palette and the help.
  let commands = $derived<Command[]>([
    { title: "Add a pick", key: "A", on: ["a"], run: add },
    { title: "Fill the order", key: "F", on: ["f"], run: () => (filling = true) },
    {
      title: "Whole trees: which first, and the ways of taking one",
      key: "W",
      on: ["w"],
      run: () => (wholes = true),
    },
    {
      title: "Longest piece within the limits",
      key: "L",
      on: ["l"],
      run: () => void longest(),
    },
    { title: "Split the pick in two", key: "S", on: ["s"], run: splitChosen },
    { title: "Join the pick to the one before", key: "J", on: ["j"], run: joinChosen },
    { title: "Take out of the order", key: "Delete", on: ["delete", "backspace"], run: takeOut },
    { title: "Earlier in the order", key: "Alt ↑", on: ["alt+arrowup"], run: () => move(-1) },
    { title: "Later in the order", key: "Alt ↓", on: ["alt+arrowdown"], run: () => move(1) },
    { title: "It is down, or not yet", key: "D", on: ["d"], run: toggleDone },
    { title: "Take the cut in hand", key: "C", on: ["c"], run: focusCut },
    { title: "Run the film", key: "Space", on: [" "], run: play },
    { title: "Turn the tree left", key: "[", on: ["["], run: () => turn(-15) },
    { title: "Turn the tree right", key: "]", on: ["]"], run: () => turn(15) },
    { title: "Close up, or the whole tree", key: "Z", on: ["z"], run: () => (close = !close) },
    {
      title: "The plan as large as the tree, or the tree",
      key: "P",
      on: ["p"],
      run: () => show("plan"),
    },
    {
      title: "The stump as large as the tree, or the tree",
      key: "U",
      on: ["u"],
      run: () => show("stump"),
    },
    { title: "Show the loads", key: "1", on: ["1"], run: () => showSide("loads") },
    {
      title: "Show the pick: way, cut, what if",
      key: "2",
      on: ["2"],
      run: () => showSide("pick"),
    },
    {
      title: "Show the setup: stem, limbs, rigs, site, limits",
      key: "3",
      on: ["3"],
      run: () => showSide("setup"),
    },
    { title: "Undo", key: "Ctrl Z", on: ["ctrl+z"], run: () => void session.undo() },
    {
      title: "Redo",
      key: "Ctrl Shift Z",
      on: ["ctrl+shift+z", "ctrl+y"],
      run: () => void session.redo(),
    },
    {
      title: "Choose all picks",
      key: "Ctrl A",
      run: () => session.choose(session.job.picks.map((p) => p.id)),
    },
    {
      title: "Survey: a walk round the tree",
      run: () => void goto(resolve("/job/[id]/survey", { id: head.id })),
    },
    {
      title: "Briefing: the paper that goes up the tree",
      run: () => void goto(resolve("/job/[id]/briefing", { id: head.id })),
    },
    { title: "The locker", run: () => void goto(resolve("/locker")) },
    { title: "The crew’s policy", run: () => void goto(resolve("/policy")) },
    { title: "Switch units", run: () => preferences.switchUnits() },
    { title: "Switch the theme", run: () => preferences.switchTheme() },
    {
      title: "Everything by name",
      key: "Ctrl K",
      on: ["ctrl+k", "/"],
      run: () => (palette = !palette),
    },
    { title: "These keys", key: "?", on: ["?"], run: () => (keys = !keys) },
  ]);
  let places = $derived<Command[]>(
    session.job.picks.map((p, i) => ({
      title: `Go to pick ${i + 1}: ${assessment?.picks[i]?.title ?? p.id}, ${ways()[p.way]}`,
      run: () => session.choose([p.id]),
    })),
  );

  function step(by: number) {
    const next = session.job.picks[session.index + by];
    if (next) session.choose([next.id]);
  }

  function onkeydown(event: KeyboardEvent) {
    const target = event.target instanceof HTMLElement ? event.target : null;
    const typing =
      target?.matches("input:not([type=checkbox], [type=radio], [type=range]), select, textarea") ??
      false;
    if (event.key === "Escape") {
      keys = palette = filling = wholes = false;
      return;
    }
    const name = pressed(event);
    if ((typing || palette || filling || wholes) && name !== "ctrl+k") return;
    const onButton = target?.matches("button, a, [role=tab], [role=option], summary") ?? false;
    if (name === " " && onButton) return;
    let run = commandOf(commands, event)?.run;
    if (!onButton && target?.getAttribute("role") !== "slider" && !target?.matches("input")) {
      if (name === "arrowdown") run = () => step(1);
      if (name === "arrowup") run = () => step(-1);
    }
    if (!run) return;
    event.preventDefault();
    run();
  }

  const sides = [
    { id: "loads", title: "Loads" },
    { id: "pick", title: "Pick" },
    { id: "setup", title: "Setup" },
  ] as const;
  const larges = [
    { id: "tree", title: "The tree, large", icon: TreeIcon },
    { id: "plan", title: "The plan, large (P)", icon: MapIcon },
    { id: "stump", title: "The stump, large (U)", icon: StumpIcon },
  ] as const;
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
  <Topbar>
    <input
      class="input touch w-full max-w-64 min-w-0 input-ghost px-2 text-lg font-semibold text-ellipsis"
      aria-label="Name of the job"
      maxlength="120"
      value={session.job.name}
      onchange={(e) => rename(e.currentTarget.value)}
    />
    <SaveMark saver={session.saver} />
    <span class="grow"></span>
    <button
      class="btn touch btn-ghost px-2"
      aria-label="Undo"
      title="Undo"
      disabled={!session.canUndo}
      onclick={() => session.undo()}><Undo size={20} /></button
    >
    <button
      class="btn touch btn-ghost px-2 max-sm:hidden"
      aria-label="Redo"
      title="Redo"
      disabled={!session.canRedo}
      onclick={() => session.redo()}><Redo size={20} /></button
    >
    <a
      class="btn touch btn-ghost px-2 max-sm:hidden"
      href={resolve("/job/[id]/survey", { id: head.id })}
      aria-label="Survey"
      title="Survey: a walk round the tree"><Ruler size={20} /></a
    >
    <a
      class="btn touch btn-ghost px-2 max-sm:hidden"
      href={resolve("/job/[id]/briefing", { id: head.id })}
      aria-label="Briefing"
      title="Briefing: the paper that goes up the tree"><FileText size={20} /></a
    >
    <a
      class="btn touch btn-ghost px-2 max-sm:hidden"
      href={`/api/jobs/${head.id}/file`}
      download
      rel="external"
      aria-label="Download this job"
      title="Download as a file"><Download size={20} /></a
    >
    <button
      class="btn touch btn-ghost px-2 max-sm:hidden"
      aria-label="Everything by name"
      title="Everything by name (Ctrl K)"
      onclick={() => (palette = !palette)}><Search size={20} /></button
    >
    <button
      class="btn touch btn-ghost px-2 text-lg font-bold max-sm:hidden"
      aria-label="Keys"
      title="Keys"
      aria-expanded={keys}
      onclick={() => (keys = !keys)}>?</button
    >
  </Topbar>
  <Conflict saver={session.saver} />
  {#if keys}<Keys {commands} />{/if}
  {#if palette}<Palette
      commands={[...commands, ...places]}
      onclose={() => (palette = false)}
    />{/if}

  {#if assessment}
    <div
      class="flex shrink-0 items-center gap-3 border-b border-base-300 bg-base-200 px-4 py-1.5"
      aria-live="polite"
    >
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
      class="relative grid min-h-0 grow lg:grid-cols-[264px_minmax(0,1fr)_356px]"
      data-core={core.here ? "here" : "server"}
      data-pick={session.detail?.id}
      data-testid="board"
    >
      {#if filling}<Fill
          {session}
          onclose={() => (filling = false)}
          onwhole={() => {
            filling = false;
            wholes = true;
          }}
        />{/if}
      {#if wholes}<WholeTrees {session} onclose={() => (wholes = false)} />{/if}
      <div
        class={[
          "min-h-0 border-base-300 lg:block lg:border-r",
          view !== "order" && "max-lg:hidden",
        ]}
      >
        {#if awake && mounted("order")}
          <Order
            {session}
            {assessment}
            onadd={add}
            onfill={() => (filling = true)}
            onremove={takeOut}
            onshift={move}
          />
        {/if}
      </div>

      <main class={["flex min-h-0 flex-col lg:flex", view !== "tree" && "max-lg:hidden"]}>
        {#if !mounted("tree")}
          <!-- Drawn when it is opened. -->
        {:else if drawn}
          <div class="relative min-h-0 grow">
            {#if large === "plan"}
              <PlanLarge {session} {assessment} />
            {:else if large === "stump" && session.detail?.fell}
              <div class="h-full overflow-y-auto px-3 pt-14 pb-2">
                <Stump fell={session.detail.fell} {session} pick={session.detail.id} />
                <ol class="list-decimal space-y-0.5 pl-6 text-base">
                  {#each session.detail.fell.steps as step (step)}<li>{step}</li>{/each}
                </ol>
              </div>
            {:else}
              <Elevation {session} {assessment} {right} {close} />
            {/if}
            {#if session.detail?.piece}
              {@const piece = session.detail.piece}
              <div
                class="pointer-events-none absolute top-1 left-12 max-w-[270px] max-lg:hidden"
                data-testid="piece"
              >
                <div class="text-3xl leading-none font-bold halo-text" data-testid="weight">
                  {print("mass", piece.mass_kg.likely)}
                </div>
                <div class="text-sm font-semibold halo-text">
                  {print("mass", piece.mass_kg.low)} to {print("mass", piece.mass_kg.high)} ·
                  {print("height", piece.length_m)} · {print("diameter", piece.diameter_at_cut_m)} at
                  the cut
                </div>
              </div>
            {/if}
            <!-- Beside the plan the wood beneath is to be pressed. -->
            <div
              class="pointer-events-none absolute top-1 right-1 flex flex-col items-end gap-1 *:pointer-events-auto"
            >
              <div class="flex rounded bg-base-100">
                {#each larges as one (one.id)}
                  {#if one.id !== "stump" || session.detail?.fell}
                    <button
                      class={["btn touch btn-ghost px-2", large === one.id && "text-primary"]}
                      aria-label={one.title}
                      title={one.title}
                      aria-pressed={large === one.id}
                      onclick={() => (large = one.id)}><one.icon size={18} /></button
                    >
                  {/if}
                {/each}
                {#if large === "tree"}
                  <button
                    class="btn touch btn-ghost px-2"
                    aria-label="Turn the tree left"
                    title="Turn the tree left ([)"
                    onclick={() => turn(-15)}><RotateLeft size={18} /></button
                  >
                  <span class="self-center text-sm font-semibold" data-testid="looking"
                    >looking {wind(right + 270)}</span
                  >
                  <button
                    class="btn touch btn-ghost px-2"
                    aria-label="Turn the tree right"
                    title="Turn the tree right (])"
                    onclick={() => turn(15)}><RotateRight size={18} /></button
                  >
                  <button
                    class="btn touch btn-ghost px-2"
                    aria-label={close ? "The whole tree" : "Close up"}
                    title="Close up, or the whole tree (Z)"
                    aria-pressed={close}
                    onclick={() => (close = !close)}><Zoom size={18} /></button
                  >
                {/if}
              </div>
              {#if large === "tree"}
                <div class="size-40 max-sm:size-28">
                  <Plan {session} {assessment} {right} onturn={(a) => (right = a)} />
                </div>
              {/if}
            </div>
            {#if said}
              <p
                role="status"
                data-testid="said"
                class="absolute right-2 bottom-8 left-2 mx-auto w-fit max-w-lg rounded border border-base-300 bg-base-100 px-3 py-1.5 text-sm leading-snug"
              >
                {said}
                <button
                  class="ml-2 cursor-pointer font-bold"
                  aria-label="Close"
                  onclick={() => (said = "")}>×</button
                >
              </p>
            {/if}
          </div>
          {#if awake}<Trace {session} />{/if}
        {:else}
          <div class="flex grow items-center justify-center p-8">
            <div class="max-w-sm">
              <h2 class="text-2xl font-bold">First, the tree</h2>
              <ol class="mt-3 list-decimal space-y-1 pl-5 text-lg">
                {#each assessment.missing as missing (missing.location)}<li>
                    {missing.ask}
                  </li>{/each}
              </ol>
              {#each assessment.faults as fault (fault.location + fault.message)}
                <p class="mt-3 text-error">{fault.message}. Allowed: {fault.allowed}.</p>
              {/each}
              <button class="btn mt-5 touch btn-primary lg:hidden" onclick={() => (view = "setup")}
                >Enter the readings</button
              >
            </div>
          </div>
        {/if}
      </main>

      <aside
        class={[
          "flex min-h-0 flex-col border-base-300 lg:flex lg:border-l",
          view !== "pick" && view !== "setup" && "max-lg:hidden",
        ]}
      >
        <div
          role="group"
          aria-label="Right side"
          class="grid shrink-0 grid-cols-3 border-b border-base-300 max-lg:hidden"
        >
          {#each sides as s (s.id)}
            <button
              class={[
                "touch cursor-pointer border-b-3 font-semibold",
                side === s.id ? "border-primary" : "border-transparent faint",
              ]}
              aria-pressed={side === s.id}
              onclick={() => showSide(s.id)}>{s.title}</button
            >
          {/each}
        </div>
        {#if narrow.current}
          <div class={["min-h-0 grow", view !== "pick" && "hidden"]}>
            <OnePick {session} {assessment} />
          </div>
        {:else if !awake}
          <!-- After the drawing. -->
        {:else if side === "loads"}
          <div class="relative min-h-0 grow overflow-y-auto">
            <Ladder {assessment} detail={session.detail} trace={session.trace} />
          </div>
        {:else if side === "pick"}
          <div class="relative min-h-0 grow overflow-y-auto">
            <PickFields {session} onsplit={splitChosen} onjoin={joinChosen} />
          </div>
        {/if}
        {#if side === "setup" || view === "setup"}
          <div
            class={[
              "min-h-0 grow",
              side !== "setup" && "lg:hidden",
              view !== "setup" && "max-lg:hidden",
            ]}
          >
            <Setup {session} />
          </div>
        {/if}
      </aside>
    </div>

    <nav
      class="grid shrink-0 grid-cols-4 border-t border-base-300 pb-[env(safe-area-inset-bottom)] lg:hidden"
      aria-label="Views"
    >
      {#each views as v (v.id)}
        <button
          class={[
            "h-14 cursor-pointer border-t-4 text-base font-semibold",
            view === v.id ? "border-primary" : "border-transparent faint",
          ]}
          aria-current={view === v.id ? "page" : undefined}
          onclick={() => (view = v.id)}>{v.title}</button
        >
      {/each}
    </nav>
  {:else}
    <p class="p-8 faint">
      {session.behind ? "The core does not answer yet: trying again." : "Working it out"}
    </p>
  {/if}
</div>
