<script lang="ts">
  import { resolve } from "$app/paths";
  import Icon from "$lib/Icon.svelte";
  import Upload from "lucide-static/icons/upload.svg?raw";
  import { explain, type Preview, type Problem } from "$lib/api/client";
  import Choice from "$lib/fields/Choice.svelte";
  import { faultsOf, say } from "$lib/fields/say";
  import Nav from "$lib/Nav.svelte";
  import Topbar from "$lib/Topbar.svelte";

  /** As many bytes as the server reads of a table. */
  const mostBytes = 10 * 1024 * 1024;
  const screenful = 60;
  let file = $state.raw<File | null>(null);
  let preview = $state.raw<Preview | null>(null);
  let trouble = $state<string[]>([]);
  let busy = $state(false);
  let only = $state("");
  let shown = $state(screenful);
  /** What was said of how the file is written; else it is told from the file. */
  let told = $state.raw<Record<string, string>>({});
  let all = $derived((preview?.rows.length ?? 0) + (preview?.left_out ?? 0));
  let listed = $derived((preview?.rows ?? []).filter((row) => only === "" || row.does === only));

  const words: Record<string, { shape: string; tone: string; word: string }> = {
    new: { shape: "+", tone: "text-success", word: "new" },
    change: { shape: "≠", tone: "text-info", word: "changes" },
    same: { shape: "=", tone: "faint", word: "same" },
    wrong: { shape: "✕", tone: "text-error", word: "wrong" },
  };

  async function send(apply: boolean) {
    if (!file || busy) return;
    busy = true;
    trouble = [];
    try {
      const asked = new URLSearchParams({ ...told, ...(apply && { apply: "true" }) });
      const answer = await fetch(`/api/locker/import?${asked}`, {
        method: "POST",
        headers: {
          "Content-Type": "application/octet-stream",
          ...(apply && preview ? { "If-Match": `"${preview.revision}"` } : {}),
        },
        body: file,
      });
      const body: unknown = await answer.json();
      if (answer.ok) {
        preview = body as Preview;
        only = preview.wrong ? "wrong" : "";
      } else {
        trouble = faultsOf(body).map(say);
        if (!trouble.length) trouble = [explain(body as Problem)];
        if (!apply) preview = null;
      }
    } catch {
      trouble = [explain(null)];
    } finally {
      busy = false;
    }
  }

  function tell(what: string, as: string) {
    told = { ...told, [what]: as };
    void send(false);
  }

  const asks: Record<string, string> = {
    decimal: "Is the mark before decimals, or between thousands?",
    days: "Which comes first, the day or the month?",
    counts: "Is a bare number here a day as spreadsheets count them?",
  };
  const reads: Record<string, string> = {
    comma: "decimal comma",
    point: "decimal point",
    "year-first": "days with the year first",
    "day-first": "days with the day first",
    "month-first": "days with the month first",
  };
  const letters: Record<string, string> = {
    semicolon: "semicolons between cells",
    comma: "commas between cells",
    tab: "tabs between cells",
    bar: "bars between cells",
  };
  /** The other way in which the file may be written. */
  const others: Record<string, [what: string, as: string]> = {
    comma: ["decimal", "point"],
    point: ["decimal", "comma"],
    "day-first": ["days", "month-first"],
    "month-first": ["days", "day-first"],
  };

  function choose(event: Event) {
    const input = event.currentTarget as HTMLInputElement;
    const chosen = input.files?.[0];
    input.value = "";
    if (!chosen) return;
    preview = null;
    shown = screenful;
    told = {};
    file = chosen;
    if (chosen.size > mostBytes) {
      trouble = [
        `${chosen.name} has ${(chosen.size / 1024 / 1024).toFixed(1)} MB, and a table has at most ${mostBytes / 1024 / 1024} MB. Nothing was changed.`,
      ];
      return;
    }
    void send(false);
  }
</script>

<svelte:head><title>Import · Locker · Elk Stay</title></svelte:head>

<div class="flex min-h-dvh flex-col">
  <Topbar><Nav /></Topbar>
  <main class="mx-auto w-full max-w-5xl grow p-4 pb-24 sm:p-8">
    <h1 class="text-3xl font-bold tracking-tight">Import into the locker</h1>
    <p class="mt-2 faint">
      A CSV file as your spreadsheet writes it, or an XLSX workbook. Nothing is changed until you
      have seen, row by row, what it would do. An empty cell leaves a field as it is; a lone dash
      clears it.
    </p>
    <div class="mt-4 flex flex-wrap gap-2">
      <label class="btn touch btn-primary focus-within:outline-3 focus-within:outline-primary">
        <Icon of={Upload} size={18} /> Choose a file
        <input
          type="file"
          accept=".csv,.xlsx,text/csv,application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
          class="sr-only"
          onchange={choose}
        />
      </label>
      <a class="btn touch btn-outline" href="/api/locker/file?format=xlsx" download rel="external"
        >The locker as it is, to fill in</a
      >
      <a class="btn touch btn-ghost" href={resolve("/locker")}>Back to the locker</a>
    </div>

    {#if trouble.length}
      <div role="alert" class="mt-5 border-l-4 border-error py-1 pl-3 text-error">
        <p class="font-bold">{file?.name ?? "The file"}: not read, nothing was changed.</p>
        {#each trouble as line, at (at)}<p>{line}</p>{/each}
      </div>
    {/if}

    {#if busy}
      <p class="mt-6 text-lg" role="status">Looking at {file?.name}</p>
    {:else if preview}
      <section class="mt-6" aria-label="What the file would do">
        {#each preview.dialect.asked as ask (ask.what)}
          <div class="mb-4 border-l-4 border-warning py-1 pl-3" data-testid="asked">
            <p class="text-lg">
              <b>{ask.cell}</b> says <b>{ask.value}</b>. {asks[ask.what]}
            </p>
            <div class="mt-2 flex flex-wrap gap-2">
              {#each ask.reads as read (read.as)}
                <button class="btn touch btn-outline" onclick={() => tell(ask.what, read.as)}
                  >It is <b>{read.means}</b></button
                >
              {/each}
            </div>
          </div>
        {/each}
        <p class="mb-4 flex flex-wrap items-center gap-x-3 gap-y-1" data-testid="dialect">
          <span class="faint"
            >Read as {[preview.dialect.letters, letters[preview.dialect.between]]
              .filter(Boolean)
              .join(", ")}</span
          >
          {#each [preview.dialect.decimal, preview.dialect.days] as way (way)}
            {@const other = others[way]}
            {#if other && !preview.dialect.asked.some((ask) => ask.what === other[0])}
              <button
                class="btn touch btn-outline"
                disabled={preview.applied}
                title={`Read it with ${reads[other[1]]} in its place`}
                onclick={() => tell(...other)}>{reads[way]}</button
              >
            {/if}
          {/each}
        </p>
        <div class="flex flex-wrap items-end gap-3">
          <p class="grow text-xl font-bold" role="status">
            {#if preview.applied}
              Taken over: {preview.new} new, {preview.changed} changed.
            {:else if preview.wrong}
              {preview.wrong} of {all} rows are wrong: nothing can be taken over yet.
            {:else if preview.dialect.asked.length}
              Answer what is asked above: it can be read in two ways.
            {:else}
              {preview.new} new, {preview.changed} changed, {preview.same} the same.
            {/if}
          </p>
          <div class="w-44">
            <Choice
              label="Show"
              value={only}
              options={[
                ["", `all ${all}`],
                ["wrong", `wrong, ${preview.wrong}`],
                ["new", `new, ${preview.new}`],
                ["change", `changes, ${preview.changed}`],
                ["same", `same, ${preview.same}`],
              ]}
              onchoose={(v) => {
                only = v;
                shown = screenful;
              }}
            />
          </div>
          {#if !preview.applied}
            <button
              class="btn touch btn-primary"
              disabled={preview.wrong > 0 ||
                preview.dialect.asked.length > 0 ||
                preview.new + preview.changed === 0}
              onclick={() => send(true)}>Take it over</button
            >
          {/if}
        </div>
        <table class="mt-4 w-full text-left">
          <thead class="text-sm faint">
            <tr>
              <th class="py-1 pr-3 font-medium">Row</th>
              <th class="py-1 pr-3 font-medium">Does</th>
              <th class="py-1 font-medium">What</th>
            </tr>
          </thead>
          <tbody>
            {#each listed.slice(0, shown) as row, i (i)}
              {@const word = words[row.does]}
              <tr class="border-t border-base-300 align-top" data-does={row.does}>
                <td class="py-2 pr-3 tabular-nums"
                  >{row.table === "items" ? "" : row.table} {row.line}</td
                >
                <td class={["py-2 pr-3 font-bold whitespace-nowrap", word?.tone]}
                  >{word?.shape} {word?.word}</td
                >
                <td class="py-2">
                  <span class="font-semibold">{row.title || "no name"}</span>
                  {#if row.does === "change"}
                    {#each row.changes as change (change.field)}
                      <span class="block text-sm"
                        >{change.field}: <s class="faint">{change.from || "nothing"}</s>
                        → <b>{change.to || "nothing"}</b></span
                      >
                    {/each}
                  {/if}
                  {#each row.faults as fault (fault.cell + fault.message)}
                    <span class="block text-sm text-error"
                      ><b>{fault.cell || "row"}</b>
                      {fault.column}: {fault.message}. Allowed: {fault.allowed}.</span
                    >
                  {/each}
                </td>
              </tr>
            {/each}
          </tbody>
        </table>
        {#if preview.left_out}
          <p class="mt-2 faint">
            {preview.left_out.toLocaleString("en")} more rows are counted but not listed here{preview.wrong
              ? "; the wrong ones come first"
              : ""}.
          </p>
        {/if}
        {#if shown < listed.length}
          <button class="btn mt-4 touch w-full btn-outline" onclick={() => (shown += 500)}
            >Show more: {listed.length - shown} rows</button
          >
        {/if}
      </section>
    {/if}
  </main>
</div>
