<script lang="ts">
  // How one piece is sawn: by what, how long, what carries it; its cuts and its logs.
  import type { GroundPiece } from "../api/client";
  import Figure from "../fields/Figure.svelte";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import { loggingOf, type Logging } from "./document";
  import LogView from "./LogView.svelte";

  let { session, piece }: { session: Session; piece: GroundPiece } = $props();

  let set = $derived(piece.logging);
  let lengths = $derived(set.lengths_m ?? []);
  const bys = [
    ["length", "By length"],
    ["hand", "For hands"],
    ["machine", "For the machine"],
    ["truck", "For the truck"],
  ] as const;
  let lies = $derived(set.flat ? "flat" : set.supports_m?.length === 2 ? "two" : "unknown");
  const lying = [
    ["unknown", "not said"],
    ["two", "carried at two places"],
    ["flat", "flat on the ground"],
  ] as const;
  let part = $derived(piece.parts[0]);
  let others = $derived(piece.parts.slice(1).filter((p) => p.logs.length));

  function change(mutate: (one: Logging) => void) {
    const id = piece.id;
    void session.change((job) => mutate(loggingOf(job, id)));
  }
  function length(i: number, value: number | undefined) {
    const next = lengths.filter((_, k) => k !== i);
    if (value !== undefined) next.splice(i, 0, value);
    change((one) => {
      if (next.length) one.lengths_m = next;
      else delete one.lengths_m;
    });
  }
  function lie(how: string) {
    const long = part?.length_m ?? 1;
    change((one) => {
      delete one.flat;
      delete one.supports_m;
      if (how === "flat") one.flat = true;
      if (how === "two")
        one.supports_m = [0.2, 0.8].map((share) => Math.round(share * long * 20) / 20);
    });
  }
</script>

<div class="space-y-3 p-3">
  <div>
    <h2 class="text-lg leading-tight font-bold">{piece.number} · {piece.title}</h2>
    <p class="text-sm faint">{piece.where}{piece.done ? " · down" : ""}</p>
    <p class="mt-1 text-xl leading-snug font-semibold" data-testid="sawn-said">{piece.said}</p>
  </div>

  {#if part}<LogView {session} {piece} />{/if}

  <div class="grid gap-3 md:grid-cols-2">
    <div role="group" aria-label="Sawn">
      <span class="mb-0.5 block text-sm font-medium">Sawn</span>
      <div class="grid grid-cols-2 gap-1">
        {#each bys as [id, title] (id)}
          <button
            class={["btn touch px-2", set.by === id ? "btn-primary" : "btn-outline"]}
            aria-pressed={set.by === id}
            onclick={() => change((one) => (one.by = id))}>{title}</button
          >
        {/each}
      </div>
      <div class="mt-2 grid grid-cols-3 gap-2">
        {#each [...lengths, ...(lengths.length < 3 && set.by === "length" ? [undefined] : [])] as one, i (i)}
          <Figure
            label={i === 0
              ? set.by === "length"
                ? "Length"
                : "At most"
              : i === 1
                ? "else"
                : "else"}
            quantity="height"
            value={one}
            onchange={(value) => length(i, value)}
          />
        {/each}
      </div>
    </div>
    <div role="group" aria-label="It lies">
      <span class="mb-0.5 block text-sm font-medium">It lies</span>
      <div class="grid gap-1">
        {#each lying as [id, title] (id)}
          <button
            class={["btn touch px-2", lies === id ? "btn-primary" : "btn-outline"]}
            aria-pressed={lies === id}
            onclick={() => lie(id)}>{title}</button
          >
        {/each}
      </div>
      <label class="mt-2 flex min-h-11 items-center gap-2">
        <input
          type="checkbox"
          class="checkbox"
          checked={set.kept ?? false}
          onchange={(e) => {
            const kept = e.currentTarget.checked;
            change((one) => {
              if (kept) one.kept = true;
              else delete one.kept;
            });
          }}
        />
        <span class="font-medium">Its logs stay here</span>
      </label>
    </div>
  </div>

  {#if part?.cuts.length}
    <section aria-label="Saw cuts">
      <h3 class="font-bold">Saw cuts, from the thin end</h3>
      <ol class="list-decimal space-y-1 pl-6 text-base leading-snug" data-testid="cuts">
        {#each part.cuts as cut (cut.at_m)}<li>{cut.said}</li>{/each}
      </ol>
    </section>
  {/if}

  {#each [...(part?.logs.length ? [part] : []), ...others] as one, k (k)}
    <section class="overflow-x-auto" aria-label={`Logs of ${one.title}`}>
      <h3 class="font-bold">Logs of {one.title}</h3>
      <table class="w-full text-base tabular-nums">
        <thead class="text-left text-sm faint"
          ><tr
            ><th class="font-medium">Long</th><th class="font-medium">Thick</th><th
              class="text-right font-medium">Weighs</th
            ><th class="text-right font-medium">up to</th><th class="pl-3 font-medium">Lifted</th
            ></tr
          ></thead
        >
        <tbody>
          {#each one.logs as log (log.from_m)}
            <tr class="border-t border-base-300">
              <td class="py-1">{print("height", log.length_m)}{log.short ? " (short)" : ""}</td>
              <td>{print("diameter", log.diameter_m)}</td>
              <td class="text-right font-bold">{print("mass", log.mass_kg.likely)}</td>
              <td class="text-right">{print("mass", log.mass_kg.high)}</td>
              <td class={["pl-3", log.lifted === "by neither" && "font-semibold text-warning"]}
                >{log.lifted}</td
              >
            </tr>
          {/each}
        </tbody>
      </table>
    </section>
  {/each}
</div>
