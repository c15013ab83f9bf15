<script lang="ts">
  // Ways over the ground along which logs are dragged: what each takes, and what there is.
  import type { GroundFigures } from "../api/client";
  import Choice from "../fields/Choice.svelte";
  import Measure from "../fields/Measure.svelte";
  import Mark from "../ladder/Mark.svelte";
  import Working from "../ladder/Working.svelte";
  import { freshId } from "../order/edits";
  import { print } from "../reference.svelte";
  import { assign, byId } from "../session/path";
  import type { Session } from "../session/session.svelte";
  import Card from "./Card.svelte";
  import { onGround, type Way } from "./document";

  let { session, lies }: { session: Session; lies: GroundFigures } = $props();

  let ways = $derived(session.job.ground?.moves ?? []);
  let vehicles = $derived(session.job.ground?.trucks ?? []);
  let anchors = $derived(session.job.site.anchors);
  let open = $state("");
  const systems = [1, 2, 3, 4, 5, 6, 9].map((n): [string, string] => [String(n), `${n}:1`]);
  const efforts: [string, string][] = [
    ["hands", "hands"],
    ["hand-winch", "hand winch"],
    ["capstan-winch", "capstan winch"],
    ["vehicle", "vehicle, by its grip"],
    ["machine", "machine"],
  ];

  function add() {
    const id = freshId(session.job, "w");
    open = id;
    // From where most of it lies, out to a place to drag.
    const first = lies.pieces.find((p) => p.at)?.at ?? { x: 0, y: 0 };
    const n = ways.length + 1;
    const round = (v: number) => Math.round(10 * v) / 10;
    void session.change((job) => {
      (onGround(job).moves ??= []).push({
        id,
        name: `way ${n}`,
        from: { x: round(first.x), y: round(first.y) },
        to: { x: round(first.x + 8), y: round(first.y) },
      });
    });
  }
  function change(id: string, mutate: (one: Way) => void) {
    void session.change((job) => {
      const one = job.ground?.moves?.find((m) => m.id === id);
      if (one) mutate(one);
    });
  }
  function remove(id: string) {
    void session.change((job) => {
      const g = onGround(job);
      g.moves = (g.moves ?? []).filter((m) => m.id !== id);
    });
  }
  function rise(id: string, i: number, field: "out_m" | "rise_m", value: number | undefined) {
    change(id, (one) => {
      const list = (one.profile ??= []);
      if (value === undefined) list.splice(i, 1);
      else {
        const row = list[i];
        if (row) row[field] = value;
      }
      if (!list.length) delete one.profile;
    });
  }
</script>

<section aria-label="Moving" class="space-y-2">
  <div class="flex items-center justify-between">
    <h2 class="text-lg font-bold">Moving</h2>
    <button class="btn touch btn-outline" onclick={add}>Add a way</button>
  </div>
  {#if !ways.length}
    <p class="text-base faint">
      A way runs from where logs lie to where they go: what it takes to drag them, and what there is
      to drag with.
    </p>
  {/if}
  {#each ways as way (way.id)}
    {@const figures = lies.moves.find((m) => m.id === way.id)}
    {@const at = byId("ground.moves", way.id)}
    <Card
      {session}
      {at}
      name={way.name}
      said={figures?.said ?? ""}
      cautions={figures?.cautions ?? []}
      open={open === way.id}
      ontoggle={() => (open = open === way.id ? "" : way.id)}
      onremove={() => remove(way.id)}
    >
      {#snippet mark()}{#if figures}<Mark verdict={figures.verdict} size={22} />{/if}{/snippet}
      {#snippet figure()}{figures?.logs ? print("force", figures.need_kn) : ""}{/snippet}
      <div class="grid grid-cols-2 gap-2">
        <Choice
          label="Pulled by"
          value={way.by ?? "hands"}
          options={efforts}
          onchoose={(by) => change(way.id, (one) => (one.by = by as NonNullable<Way["by"]>))}
        />
        {#if (way.by ?? "hands") === "hands"}
          <Measure
            {session}
            path={`${at}.people`}
            label="People"
            quantity="number"
            value={way.people}
            hint="1"
            step={1}
          />
        {:else}
          <Measure
            {session}
            path={`${at}.effort_kn`}
            label="Pulls with"
            quantity="force"
            value={way.effort_kn}
            hint="not said"
          />
        {/if}
        <Choice
          label="System"
          value={String(way.parts ?? 1)}
          options={systems}
          onchoose={(n) => change(way.id, (one) => (one.parts = Number(n)))}
        />
        <Measure
          {session}
          path={`${at}.together`}
          label="Logs in one go"
          quantity="number"
          value={way.together}
          hint="1"
          step={1}
        />
        {#if way.by && way.by !== "hands"}
          <Choice
            label="Vehicle"
            value={way.truck ?? ""}
            options={[["", "none named"], ...vehicles.map((t): [string, string] => [t.id, t.name])]}
            onchoose={(id) =>
              void session.change((job) => assign(job, `${at}.truck`, id || undefined))}
          />
        {/if}
        <Choice
          label="Held by"
          value={way.anchor ?? ""}
          options={[["", "itself"], ...anchors.map((a): [string, string] => [a.id, a.name])]}
          onchoose={(id) =>
            void session.change((job) => assign(job, `${at}.anchor`, id || undefined))}
        />
        <Measure
          {session}
          path={`${at}.lift_m`}
          label="Nose lifted"
          quantity="height"
          value={way.lift_m}
          hint="flat"
        />
        {#if way.lift_m !== undefined}
          <Choice
            label="High block on"
            value={way.block ?? ""}
            options={[["", "not said"], ...anchors.map((a): [string, string] => [a.id, a.name])]}
            onchoose={(id) =>
              void session.change((job) => assign(job, `${at}.block`, id || undefined))}
          />
        {/if}
      </div>
      <div role="group" aria-label="Ends">
        <div class="grid grid-cols-2 gap-2">
          <Measure
            {session}
            path={`${at}.from.x`}
            label="From, east"
            quantity="height"
            value={way.from.x}
            required
          />
          <Measure
            {session}
            path={`${at}.from.y`}
            label="From, north"
            quantity="height"
            value={way.from.y}
            required
          />
          <Measure
            {session}
            path={`${at}.to.x`}
            label="To, east"
            quantity="height"
            value={way.to.x}
            required
          />
          <Measure
            {session}
            path={`${at}.to.y`}
            label="To, north"
            quantity="height"
            value={way.to.y}
            required
          />
        </div>
      </div>
      <div role="group" aria-label="Ground along it">
        <span class="block text-sm font-medium"
          >Ground along it{way.profile ? "" : ": the slope of the site"}</span
        >
        {#each way.profile ?? [] as one, i (i)}
          <div class="mt-1 grid grid-cols-2 gap-2">
            <Measure
              {session}
              path={`${at}.profile[${i}].out_m`}
              label="Along"
              quantity="height"
              value={one.out_m}
              put={(value) => (rise(way.id, i, "out_m", value), Promise.resolve([]))}
            />
            <Measure
              {session}
              path={`${at}.profile[${i}].rise_m`}
              label="Rises to"
              quantity="height"
              value={one.rise_m}
              put={(value) => (rise(way.id, i, "rise_m", value), Promise.resolve([]))}
            />
          </div>
        {/each}
        <button
          class="btn mt-1 touch btn-outline"
          onclick={() =>
            change(way.id, (one) => {
              const list = (one.profile ??= []);
              const last = list.at(-1);
              list.push({ out_m: (last?.out_m ?? 0) + 5, rise_m: last?.rise_m ?? 0 });
            })}>Add a place of the ground</button
        >
      </div>
      {#if figures?.working.length}
        <details>
          <summary class="touch cursor-pointer font-medium">Working</summary><Working
            steps={figures.working}
          />
        </details>
      {/if}
    </Card>
  {/each}
</section>
