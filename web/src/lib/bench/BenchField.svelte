<script lang="ts">
  // One figure of a sum, typed where it stands: in the reader's units where they know it.
  import { core } from "../core/core.svelte";
  import { preferences } from "../preferences.svelte";
  import { entry, known } from "../reference.svelte";
  import { quantityOf } from "../quantity";
  import type { Field } from "./instruments";

  interface Props {
    field: Field;
    value: unknown;
    /** Why the core refuses it; empty: it does not. */
    refused: string;
    onset: (value: unknown) => void;
  }

  let { field, value, refused, onset }: Props = $props();

  const id = $props.id();
  let typed = $state<string | null>(null);
  let why = $state("");
  let quantity = $derived(quantityOf(field.path, field.unit));
  let shown = $derived(
    typeof value === "number"
      ? quantity
        ? entry(quantity, value)
        : String(+value.toPrecision(6))
      : typeof value === "string"
        ? value
        : "",
  );

  async function commit() {
    if (typed === null) return;
    const text = typed.trim();
    if (text === shown) return settle();
    if (text === "") {
      if (field.required) {
        why = "a value is needed here.";
        return;
      }
      onset(undefined);
      return settle();
    }
    if (!field.number) {
      onset(text);
      return settle();
    }
    if (quantity) {
      const reply = await core.read(quantity, preferences.units, text).catch(() => null);
      if (!reply?.data) {
        why = reply?.faults?.[0]?.message ?? "The core does not answer.";
        return;
      }
      onset(reply.data.value);
    } else {
      const number = Number(text.replace(",", ".").replace(/[^\d.eE+-]+$/, ""));
      if (!Number.isFinite(number)) {
        why = `“${text}” is no number.`;
        return;
      }
      onset(number);
    }
    settle();
  }
  function settle() {
    typed = null;
    why = "";
  }
  let message = $derived(why || refused);
</script>

<div class="min-w-0">
  <label for={id} class="block truncate text-sm font-medium" title={field.doc}
    >{field.label}{quantity || !field.unit ? "" : `, ${field.unit}`}</label
  >
  {#if field.path.endsWith("species")}
    <select
      {id}
      class="select touch w-full text-base"
      value={typeof value === "string" ? value : ""}
      onchange={(e) => onset(e.currentTarget.value)}
    >
      {#each known.get().species as one (one.id)}<option value={one.id}>{one.common_name}</option
        >{/each}
    </select>
  {:else if field.choices}
    <select
      {id}
      class="select touch w-full text-base"
      value={typeof value === "string" ? value : ""}
      onchange={(e) => onset(e.currentTarget.value || undefined)}
    >
      {#if !field.required}<option value="">as usual</option>{/if}
      {#each field.choices as choice (choice)}<option value={choice}>{choice}</option>{/each}
    </select>
  {:else if field.flag}
    <input
      {id}
      type="checkbox"
      class="checkbox mt-2 checkbox-primary"
      checked={value === true}
      onchange={(e) => onset(e.currentTarget.checked ? true : field.required ? false : undefined)}
    />
  {:else}
    <input
      {id}
      class={["input touch w-full text-lg font-semibold", message && "input-error"]}
      inputmode={quantity || !field.number ? "text" : "decimal"}
      autocomplete="off"
      spellcheck="false"
      maxlength="60"
      value={typed ?? shown}
      placeholder={field.required ? "" : "as usual"}
      aria-invalid={message ? "true" : undefined}
      aria-describedby={message ? `${id}-why` : undefined}
      oninput={(e) => (typed = e.currentTarget.value)}
      onblur={commit}
      onkeydown={(e) => {
        if (e.key === "Enter") void commit();
        if (e.key === "Escape") settle();
      }}
    />
  {/if}
  {#if message}
    <p id={`${id}-why`} role="alert" class="text-sm leading-snug text-error">{message}</p>
  {/if}
</div>
