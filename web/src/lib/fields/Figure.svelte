<script lang="ts">
  import { onDestroy } from "svelte";
  import type { Quantity } from "../api/client";
  import { core } from "../core/core.svelte";
  import { preferences } from "../preferences.svelte";
  import { entry } from "../reference.svelte";
  import { forget, reading } from "./reading";

  interface Props {
    label: string;
    quantity: Quantity | "number";
    /** SI; undefined: nothing given. */
    value: number | undefined;
    hint?: string;
    /** What somebody else has to say of the value. */
    fault?: string;
    onchange: (value: number | undefined) => void;
  }

  let { label, quantity, value, hint = "", fault = "", onchange }: Props = $props();

  const id = $props.id();
  let typed = $state<string | null>(null);
  let refusal = $state("");
  let message = $derived(refusal || fault);
  let shown = $derived(
    value === undefined
      ? ""
      : quantity === "number"
        ? String(+value.toFixed(4))
        : entry(quantity, value),
  );

  onDestroy(() => forget(id));

  /** Reads what was typed and hands it on; false when it was not understood. */
  async function commit(): Promise<boolean> {
    if (typed === null) return !refusal;
    const text = typed.trim();
    refusal = "";
    if (text === "" || text === shown) {
      typed = null;
      if (text === "") onchange(undefined);
      return true;
    }
    if (quantity === "number") {
      const figure = Number(text.replace(",", "."));
      if (!Number.isFinite(figure)) {
        refusal = `“${text}” is no number.`;
        return false;
      }
      typed = null;
      onchange(figure);
      return true;
    }
    try {
      const { data, faults } = await core.read(quantity, preferences.units, text);
      if (!data) {
        refusal = faults[0]
          ? `${faults[0].message}. Write it like ${faults[0].allowed}.`
          : "Not read.";
        return false;
      }
      typed = null;
      onchange(data.value);
      return true;
    } catch {
      refusal = "The server does not answer: what you typed is kept here.";
      return false;
    }
  }
</script>

<div class="min-w-0">
  <label for={id} class="mb-0.5 block text-sm font-medium">{label}</label>
  <input
    {id}
    class={["input touch w-full min-w-0 px-2 text-base font-medium", message && "input-error"]}
    inputmode={quantity === "number" ? "decimal" : "text"}
    autocomplete="off"
    maxlength="40"
    value={typed ?? shown}
    placeholder={hint}
    aria-invalid={message ? "true" : undefined}
    aria-describedby={message ? `${id}-why` : undefined}
    oninput={(e) => (typed = e.currentTarget.value)}
    onblur={() => reading(id, commit())}
    onkeydown={(e) => e.key === "Enter" && reading(id, commit())}
  />
  {#if message}
    <p id={`${id}-why`} role="alert" class="mt-1 text-sm leading-snug text-error">{message}</p>
  {/if}
</div>
