<script lang="ts">
  import type { Item } from "../api/client";
  import { today } from "../crew/items";
  import Choice from "../fields/Choice.svelte";

  type Looks = NonNullable<Item["inspections"]>;

  /** Who has looked an item over, when, and what was seen. */
  let {
    looks,
    fault,
    onchange,
  }: { looks: Looks; fault: string; onchange: (looks: Looks) => void } = $props();

  function put(i: number, change: Partial<Looks[number]>) {
    onchange(
      looks.map((look, k) => {
        if (k !== i) return look;
        const next = { ...look, ...change };
        if (next.next_due === undefined) delete next.next_due;
        if (next.note === undefined) delete next.note;
        return next;
      }),
    );
  }

  const add = () =>
    onchange([...looks, { on: today(), by: looks.at(-1)?.by ?? "", result: "pass" }]);
</script>

<fieldset class="space-y-3">
  <legend class="text-lg font-bold">Inspections</legend>
  {#each looks as look, i (i)}
    <div class="grid grid-cols-2 gap-2 border-l-4 border-base-300 pl-3">
      <label class="block">
        <span class="mb-0.5 block text-sm font-medium">On</span>
        <input
          type="date"
          class="input touch w-full px-2"
          value={look.on}
          oninput={(e) => put(i, { on: e.currentTarget.value })}
        />
      </label>
      <label class="block">
        <span class="mb-0.5 block text-sm font-medium">By</span>
        <input
          class="input touch w-full px-2"
          maxlength="80"
          value={look.by}
          oninput={(e) => put(i, { by: e.currentTarget.value })}
        />
      </label>
      <Choice
        label="Result"
        value={look.result}
        options={[
          ["pass", "passed"],
          ["watch", "passed, to watch"],
          ["fail", "failed"],
        ]}
        onchoose={(result) => put(i, { result: result as typeof look.result })}
      />
      <label class="block">
        <span class="mb-0.5 block text-sm font-medium">Next due</span>
        <input
          type="date"
          class="input touch w-full px-2"
          value={look.next_due ?? ""}
          onchange={(e) => put(i, { next_due: e.currentTarget.value || undefined })}
        />
      </label>
      <label class="col-span-2 block">
        <span class="sr-only">Note</span>
        <input
          class="input touch w-full px-2"
          maxlength="400"
          placeholder="what was seen"
          value={look.note ?? ""}
          onchange={(e) => put(i, { note: e.currentTarget.value.trim() || undefined })}
        />
      </label>
      <button
        type="button"
        class="btn col-span-2 touch justify-self-start btn-ghost px-0"
        onclick={() => onchange(looks.toSpliced(i, 1))}>Remove this inspection</button
      >
    </div>
  {/each}
  {#if fault}<p role="alert" class="text-sm text-error">{fault}</p>{/if}
  <button type="button" class="btn touch w-full btn-outline" onclick={add}>Add an inspection</button
  >
</fieldset>
