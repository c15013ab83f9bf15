<script lang="ts">
  import { resolve } from "$app/paths";
  import Icon from "$lib/Icon.svelte";
  import Download from "lucide-static/icons/download.svg?raw";
  import FileText from "lucide-static/icons/file-text.svg?raw";
  import { api, explain, type Weights } from "$lib/api/client";
  import { core } from "$lib/core/core.svelte";
  import Choice from "$lib/fields/Choice.svelte";
  import Nav from "$lib/Nav.svelte";
  import { preferences } from "$lib/preferences.svelte";
  import { figure, known, print, unitOf } from "$lib/reference.svelte";
  import Topbar from "$lib/Topbar.svelte";

  core.load();
  const woods = known
    .get()
    .species.toSorted((a, b) => (a.common_name < b.common_name ? -1 : 1))
    .map((s): [string, string] => [s.id, s.common_name]);

  let species = $state("english-oak");
  let taper = $state("0");
  let limit = $state("");
  let table = $state.raw<Weights | null>(null);
  let trouble = $state("");

  // Thinner by so many centimetres a metre.
  const tapers: [string, string][] = [
    ["0", "pole: the heavier"],
    ["0.01", "1 cm a metre"],
    ["0.02", "2 cm a metre"],
    ["0.03", "3 cm a metre"],
  ];

  // What the scale taught of this wood, job by job: as asked for when it is chosen.
  interface Taught {
    by: string;
    weighed: number;
    factor: number;
    high_factor: number;
  }
  let jobs = $state<[string, string][]>([]);
  void api
    .GET("/api/jobs", { params: { query: { sort: "saved" } } })
    .then(({ data }) => (jobs = (data?.jobs ?? []).map((j): [string, string] => [j.id, j.name])))
    .catch(() => undefined); // with no signal there is none to learn from
  let job = $state("");
  let lessons = $state.raw<(Taught & { species: string })[]>([]);
  let taught = $derived(lessons.find((one) => one.species === species));
  async function learn(id: string) {
    job = id;
    lessons = [];
    if (!id) return;
    const reply = await api
      .GET("/api/jobs/{id}/figures", {
        params: { path: { id }, query: { units: preferences.units } },
      })
      .catch(() => null);
    if (!reply?.data) {
      trouble = "The job's weighings cannot be read now: the table is that of the wood.";
      return;
    }
    const name = jobs.find(([at]) => at === id)?.[1] ?? "";
    // Several trees of a wood: the heaviest lesson.
    lessons = reply.data.assessment.learned
      .filter((one) => one.of === "stem" && one.species)
      .map((one) => ({
        by: name,
        weighed: one.weighed,
        factor: one.factor,
        high_factor: one.high_factor,
        species: one.species,
      }))
      .toSorted((a, b) => b.high_factor - a.high_factor);
  }

  let limitKg = $state<number | undefined>();
  async function readLimit() {
    if (!limit.trim()) {
      limitKg = undefined;
      trouble = "";
      return;
    }
    const reply = await core.read("mass", preferences.units, limit).catch(() => null);
    trouble = reply?.faults?.[0]?.message ?? (reply ? "" : explain(null));
    if (reply?.data) limitKg = reply.data.value;
  }

  $effect(() => {
    const asked = {
      wood: { species },
      units: preferences.units,
      taper_m_per_m: Number(taper),
      ...(limitKg && { limit_kg: limitKg }),
      ...(taught && {
        taught: {
          by: taught.by,
          weighed: taught.weighed,
          factor: taught.factor,
          high_factor: taught.high_factor,
        },
      }),
    };
    void core
      .question("weights", asked, {})
      .then((reply) => {
        if (reply.data) table = reply.data;
        else trouble = reply.faults[0]?.message ?? "";
      })
      .catch(() => (trouble = explain(null)));
  });

  let query = $derived(
    `species=${species}&units=${preferences.units}&taper_m_per_m=${taper}${limitKg ? `&limit_kg=${limitKg}` : ""}${preferences.units === "us" ? "&sheet=letter" : ""}${
      taught
        ? `&taught_by=${encodeURIComponent(taught.by)}&taught_weighed=${taught.weighed}&taught_factor=${taught.factor}&taught_high=${taught.high_factor}`
        : ""
    }`,
  );

  /** The table as CSV, in the units that are shown. */
  function csv() {
    if (!table) return;
    const head = [
      `thick end, ${unitOf("diameter").label}`,
      ...table.lengths_m.map((l) => `${figure("height", l)} ${unitOf("height").label}`),
    ];
    const rows = table.rows.map((row) => [
      figure("diameter", row.diameter_m),
      ...row.kg.map((kg) => figure("mass", kg.high).replaceAll(",", "")),
    ]);
    const text = [head, ...rows].map((line) => line.map((v) => `"${v}"`).join(",")).join("\r\n");
    const link = document.createElement("a");
    link.href = URL.createObjectURL(new Blob([text], { type: "text/csv" }));
    link.download = `weights-${species}.csv`;
    link.click();
    URL.revokeObjectURL(link.href);
  }
</script>

<svelte:head><title>What logs weigh · Elk Stay</title></svelte:head>

<div class="flex min-h-dvh flex-col">
  <Topbar><Nav /></Topbar>
  <main class="mx-auto w-full max-w-6xl p-4 pb-16 sm:p-6">
    <a class="btn touch btn-ghost px-2" href={resolve("/bench")}>← All sums</a>
    <h1 class="mt-1 text-3xl font-bold">What logs weigh</h1>
    <div class="mt-4 grid gap-3 sm:grid-cols-2 lg:grid-cols-4">
      <Choice label="Wood" value={species} options={woods} onchoose={(id) => (species = id)} />
      <Choice label="Gets thinner" value={taper} options={tapers} onchoose={(t) => (taper = t)} />
      <label>
        <span class="mb-0.5 block text-sm font-medium">Mark what is over</span>
        <input
          class="input touch w-full text-base font-medium"
          placeholder={preferences.units === "us" ? "1,000 lb" : "500 kg"}
          bind:value={limit}
          onchange={readLimit}
        />
      </label>
      <Choice
        label="Taught by the scale of"
        value={job}
        options={[["", "nobody"], ...jobs]}
        onchoose={(id) => void learn(id)}
      />
    </div>
    {#if trouble}<p role="alert" class="mt-3 border-l-4 border-error pl-3 text-error">
        {trouble}
      </p>{/if}
    {#if table}
      <p class="mt-3 text-sm">{table.said}</p>
      {#if table.taught}
        <p
          class={[
            "mt-2 border-l-4 py-1 pl-3 font-semibold",
            table.raised ? "border-warning" : "border-base-300",
          ]}
          data-testid="taught"
        >
          {table.taught}
        </p>
      {:else if job}
        <p class="mt-2 border-l-4 border-base-300 py-1 pl-3" data-testid="taught">
          No stem of this wood was weighed there.
        </p>
      {/if}
      <!-- svelte-ignore a11y_no_noninteractive_tabindex -->
      <div class="mt-2 overflow-x-auto" tabindex="0" role="region" aria-label="The table">
        <table class="w-full text-right text-base tabular-nums" data-testid="weights">
          <thead>
            <tr class="border-b-2 border-base-content text-sm">
              <th class="sticky left-0 bg-base-100 py-2 pr-3 text-left"
                >{table.raised ? "▲ " : ""}thick end</th
              >
              {#each table.lengths_m as l (l)}<th class="px-2 py-2 whitespace-nowrap"
                  >{print("height", l)}</th
                >{/each}
            </tr>
          </thead>
          <tbody>
            {#each table.rows as row (row.diameter_m)}
              <tr class="border-b border-base-300">
                <th class="sticky left-0 bg-base-100 py-1.5 pr-3 text-left whitespace-nowrap"
                  >{print("diameter", row.diameter_m)}</th
                >
                {#each row.kg as kg, i (i)}
                  <td
                    class={[
                      "px-2 py-1.5 whitespace-nowrap",
                      row.over[i] && "bg-error/10 font-bold text-error",
                    ]}>{row.over[i] ? "× " : ""}{print("mass", kg.high)}</td
                  >
                {/each}
              </tr>
            {/each}
          </tbody>
        </table>
      </div>
      <div class="mt-4 flex flex-wrap gap-2">
        <a
          class="btn touch btn-primary"
          href={`/api/weights.pdf?${query}`}
          target="_blank"
          rel="external noreferrer"><Icon of={FileText} size={18} /> One page for the truck</a
        >
        <button class="btn touch btn-outline" onclick={csv}
          ><Icon of={Download} size={18} /> CSV</button
        >
      </div>
      <p class="mt-4 border-l-4 border-warning py-1 pl-3 text-sm">
        Wood differs from tree to tree: weigh what you can, and hold to the lesser of this and what
        the scale says. Local codes, the makers' instructions and a competent person on site come
        first.
      </p>
    {/if}
  </main>
</div>
