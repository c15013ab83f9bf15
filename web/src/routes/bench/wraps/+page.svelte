<script lang="ts">
  import { resolve } from "$app/paths";
  import Icon from "$lib/Icon.svelte";
  import FileText from "lucide-static/icons/file-text.svg?raw";
  import { onMount } from "svelte";
  import { api, explain, type WrapsCard } from "$lib/api/client";
  import { core } from "$lib/core/core.svelte";
  import Choice from "$lib/fields/Choice.svelte";
  import Figure from "$lib/fields/Figure.svelte";
  import { rows } from "$lib/locker/rows.svelte";
  import Nav from "$lib/Nav.svelte";
  import { preferences } from "$lib/preferences.svelte";
  import { known, print } from "$lib/reference.svelte";
  import Topbar from "$lib/Topbar.svelte";

  core.load();
  const standard = known.get().rig_defaults;
  onMount(() => void rows.load());

  // The crew's own devices and ropes; what they say is taken, and can be written over.
  let devices = $derived(rows.find("", ["device"]));
  let ropes = $derived(rows.find("", ["rope"]).filter((r) => r.diameter_m));
  let device = $state("");
  let rope = $state("");
  let friction = $state<number>(standard.friction);
  let hand = $state<number>(standard.hand_kn);
  let drum = $state<number | undefined>();
  let ropeM = $state<number | undefined>();
  let limit = $state<number | undefined>();
  let card = $state.raw<WrapsCard | null>(null);
  let trouble = $state("");

  async function take(id: string) {
    device = id;
    limit = devices.find((d) => d.id === id)?.limit_kn ?? undefined;
    friction = standard.friction;
    if (!id) return;
    const kept = await api
      .GET("/api/locker/items/{id}", { params: { path: { id } } })
      .catch(() => null);
    if (device === id && kept?.data?.item.friction) friction = kept.data.item.friction;
  }
  function takeRope(id: string) {
    rope = id;
    ropeM = ropes.find((r) => r.id === id)?.diameter_m ?? undefined;
  }
  let title = $derived(devices.find((d) => d.id === device)?.name ?? "");

  $effect(() => {
    const asked = {
      device: title,
      friction,
      hand_kn: hand,
      ...(limit && { limit_kn: limit }),
      ...(drum && ropeM && { drum_m: drum, rope_m: ropeM }),
    };
    void core
      .question("wraps-card", asked, {})
      .then((reply) => {
        trouble = reply.data ? "" : (reply.faults[0]?.message ?? "");
        if (reply.data) card = reply.data;
      })
      .catch(() => (trouble = explain(null)));
  });

  let query = $derived(
    [
      `units=${preferences.units}`,
      `friction=${friction}`,
      `hand_kn=${hand}`,
      title && `device=${encodeURIComponent(title)}`,
      limit && `limit_kn=${limit}`,
      drum && ropeM && `drum_m=${drum}&rope_m=${ropeM}`,
      preferences.units === "us" && "sheet=letter",
    ]
      .filter(Boolean)
      .join("&"),
  );
</script>

<svelte:head><title>Wraps card · Elk Stay</title></svelte:head>

<div class="flex min-h-dvh flex-col">
  <Topbar><Nav /></Topbar>
  <main class="mx-auto w-full max-w-4xl p-4 pb-16 sm:p-6">
    <a class="btn touch btn-ghost px-2" href={resolve("/bench")}>← All sums</a>
    <h1 class="mt-1 text-3xl font-bold">Wraps card</h1>
    <div class="mt-4 grid grid-cols-2 gap-3 sm:grid-cols-3">
      <Choice
        label="Device"
        value={device}
        options={[["", "typed in here"], ...devices.map((d): [string, string] => [d.id, d.name])]}
        onchoose={(id) => void take(id)}
      />
      <Choice
        label="Rope"
        value={rope}
        options={[["", "not said"], ...ropes.map((r): [string, string] => [r.id, r.name])]}
        onchoose={takeRope}
      />
      <Figure
        label="Drum, long"
        quantity="diameter"
        value={drum}
        hint="not said"
        onchange={(v) => (drum = v)}
      />
      <Figure
        label="Friction"
        quantity="number"
        value={friction}
        onchange={(v) => (friction = v ?? standard.friction)}
      />
      <Figure
        label="The hand holds"
        quantity="force"
        value={hand}
        onchange={(v) => (hand = v ?? standard.hand_kn)}
      />
      <Figure
        label="Mark what is over"
        quantity="force"
        value={limit}
        hint="not said"
        onchange={(v) => (limit = v)}
      />
    </div>
    {#if trouble}<p role="alert" class="mt-3 border-l-4 border-error pl-3 text-error">
        {trouble}
      </p>{/if}
    {#if card}
      <p class="mt-3 text-sm">
        {card.said}
        {#if card.fit !== null}<b>{card.fit} turns fit on the drum.</b>{/if}
      </p>
      <table class="mt-2 w-full text-right text-lg tabular-nums" data-testid="wraps-card">
        <thead>
          <tr class="border-b-2 border-base-content text-sm">
            <th class="py-2 text-left">wraps</th>
            <th class="px-2">holds at rest</th>
            <th class="px-2">as a mass</th>
            <th class="px-2 faint">at the friction given</th>
          </tr>
        </thead>
        <tbody>
          {#each card.rows as row (row.wraps)}
            <tr
              class={[
                "border-b border-base-300",
                (row.over || !row.fits) && "bg-error/10 font-bold text-error",
              ]}
            >
              <th class="py-1.5 text-left"
                >{row.over || !row.fits ? "× " : ""}{row.wraps}
                {#if !row.fits}<span class="text-sm">does not fit</span>{/if}</th
              >
              <td class="px-2 font-bold">{print("force", row.holds_kn)}</td>
              <td class="px-2">{print("mass", row.kg)}</td>
              <td class="px-2 faint">{print("force", row.at_most_kn)}</td>
            </tr>
          {/each}
        </tbody>
      </table>
      <a
        class="btn mt-4 touch btn-primary"
        href={`/api/wraps.pdf?${query}`}
        target="_blank"
        rel="external noreferrer"><Icon of={FileText} size={18} /> One page to hang by it</a
      >
      <p class="mt-4 border-l-4 border-warning py-1 pl-3 text-sm">
        Friction flatters: wet, glazed, icy or new rope holds less. Try it with the rope and the
        device at hand before a piece hangs on it. Local codes, the makers' instructions and a
        competent person on site come first.
      </p>
    {/if}
  </main>
</div>
