<script lang="ts">
  import { untrack } from "svelte";
  import Icon from "../Icon.svelte";
  import Minus from "lucide-static/icons/minus.svg?raw";
  import Plus from "lucide-static/icons/plus.svg?raw";
  import type { Fault, Job, Quantity } from "../api/client";
  import { core } from "../core/core.svelte";
  import { preferences } from "../preferences.svelte";
  import { entry } from "../reference.svelte";
  import { draft, keepDraft } from "../session/drafts";
  import type { Session } from "../session/session.svelte";
  import { assign, placed } from "../session/path";
  import { beSure, isSure } from "../session/sure.svelte";

  interface Props {
    session: Session;
    /** Where the value stands in the document. */
    path: string;
    label: string;
    quantity: Quantity | "number";
    /** SI value shown; undefined: nothing given. */
    value: number | undefined;
    /** The text as it was written down, when the document keeps it. */
    noted?: string;
    required?: boolean;
    /** Shows buttons that move the value by this much, SI. */
    step?: number;
    /** Hides the label from the eye, not from a reader. */
    bare?: boolean;
    hint?: string;
    /** What a value of nought is called, in one word. */
    nought?: string;
    /** Makes the change in place of writing the value at path. */
    put?: (value: number | undefined, text: string, seen: Job) => Promise<Fault[]>;
  }

  let {
    session,
    path,
    label,
    quantity,
    value,
    noted,
    required = false,
    step,
    bare = false,
    hint = "",
    nought,
    put,
  }: Props = $props();

  const id = $props.id();
  let typed = $state<string | null>(untrack(() => draft(session.id, path)));
  let refusal = $state("");

  let shown = $derived.by(() => {
    if (noted) return noted;
    if (value === undefined) return "";
    if (value === 0 && nought) return nought;
    return quantity === "number" ? String(+value.toFixed(4)) : entry(quantity, value);
  });
  // Where the core has it: by its place, as faults and defaults are named.
  let place = $derived(placed(session.job, path));
  let contradiction = $derived(
    session.assessment?.faults.find((fault) => fault.location === `body.${place}`),
  );
  let isDefault = $derived(
    typed === null && (session.assessment?.defaulted.includes(place) ?? false),
  );
  let message = $derived(refusal || (contradiction ? say(contradiction) : ""));
  // A figure that seldom is: asked about once, where it stands.
  let doubt = $derived.by(() => {
    if (message || typed !== null) return null;
    const one = session.assessment?.doubts.find((d) => d.location === `body.${place}`);
    return one && !isSure(session.id, one.location, one.ask) ? one : null;
  });

  // A text refused before the page was left is read again, to say why.
  $effect(() => {
    if (untrack(() => typed) !== null) void untrack(commit);
  });

  function say(fault: Fault): string {
    // What the field's own name is in the document says nothing to a reader.
    const name = path.slice(path.lastIndexOf(".") + 1);
    if (fault.location === `body.${place}` && fault.message.startsWith(name)) {
      return `“${(typed ?? shown).trim()}” is out of range. Allowed: ${fault.allowed}.`;
    }
    const sentence = fault.message.charAt(0).toUpperCase() + fault.message.slice(1);
    const range = sentence.includes(fault.allowed) ? "" : ` Allowed: ${fault.allowed}.`;
    return `${sentence}.${range}`;
  }

  async function read(text: string): Promise<number | string> {
    if (text === nought) return 0;
    if (quantity === "number") {
      const figure = Number(text.replace(",", "."));
      return Number.isFinite(figure) ? figure : `“${text}” is no number.`;
    }
    try {
      const { data, faults } = await core.read(quantity, preferences.units, text);
      if (data) return data.value;
      return faults[0] ? `${faults[0].message}.` : "Not read.";
    } catch {
      return "The server does not answer: what you typed is kept here.";
    }
  }

  function refuse(text: string, why: string) {
    refusal = `${label}: ${why}`;
    keepDraft(session.id, path, text);
  }

  /** How a value goes into the document, at the place that the field has now. */
  function written() {
    const where = path;
    return (
      put ??
      ((next: number | undefined, text: string, seen: Job) =>
        session.change((job) => assign(job, where, next), undefined, seen))
    );
  }

  async function commit() {
    if (typed === null) return;
    const text = typed.trim();
    if (text === shown) return settle();
    // The field and the document as they are now: while the text is read both may move on.
    const seen = session.job;
    const target = written();
    if (text === "") {
      if (required) return refuse(text, "a value is needed here.");
      await target(undefined, "", seen);
      return settle();
    }
    const figure = await read(text);
    if (typeof figure === "string") return refuse(text, figure);
    const faults = await target(figure, text, seen);
    if (faults.length > 0) return refuse(text, faults.map(say).join(" "));
    settle();
  }

  function settle() {
    typed = null;
    refusal = "";
    keepDraft(session.id, path, null);
  }

  async function move(by: number) {
    const next = +((value ?? 0) + by).toFixed(6);
    const faults = await written()(next, "", session.job);
    if (faults.length > 0) refusal = `${label}: ${faults.map(say).join(" ")}`;
    else settle();
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === "Enter") {
      event.preventDefault();
      void commit();
    } else if (event.key === "Escape" && typed !== null) {
      event.stopPropagation();
      settle();
    }
  }
</script>

<!-- A bare field stands in a grid of its parent's: its message takes a row there. -->
<div class={bare ? "contents" : "min-w-0"}>
  <div class={["mb-0.5 flex items-baseline justify-between gap-2", bare && "sr-only"]}>
    <label for={id} class="text-sm font-medium">{label}</label>
    {#if isDefault}<span class="text-xs faint italic">default</span>{/if}
  </div>
  <div class="flex">
    {#if step}
      <button
        type="button"
        class="btn touch rounded-r-none border-base-300 btn-outline px-0"
        aria-label={`${label}: less`}
        onclick={() => move(-step)}><Icon of={Minus} size={16} /></button
      >
    {/if}
    <input
      {id}
      class={[
        "input touch w-full min-w-0 font-medium",
        bare ? "px-1.5 text-[0.95rem]" : "px-2 text-base",
        step && "rounded-none border-x-0 text-center",
        isDefault && "faint italic",
        message && "input-error",
      ]}
      inputmode={quantity === "number" ? "decimal" : "text"}
      autocomplete="off"
      spellcheck="false"
      maxlength="40"
      value={typed ?? shown}
      placeholder={hint}
      aria-invalid={message ? "true" : undefined}
      aria-describedby={message ? `${id}-why` : undefined}
      oninput={(e) => (typed = e.currentTarget.value)}
      onblur={commit}
      {onkeydown}
    />
    {#if step}
      <button
        type="button"
        class="btn touch rounded-l-none border-base-300 btn-outline px-0"
        aria-label={`${label}: more`}
        onclick={() => move(step)}><Icon of={Plus} size={16} /></button
      >
    {/if}
  </div>
  {#if message}
    <p
      id={`${id}-why`}
      role="alert"
      class={["text-sm leading-snug text-error", bare ? "order-1 col-span-full pb-1" : "mt-1"]}
    >
      {message}
    </p>
  {:else if doubt}
    {@const asked = doubt}
    <p
      role="status"
      class={[
        "flex flex-wrap items-center gap-x-2 border-l-4 border-warning pl-2 text-sm leading-snug",
        bare ? "order-1 col-span-full mb-1" : "mt-1",
      ]}
    >
      <span>{asked.ask.charAt(0).toUpperCase() + asked.ask.slice(1)}</span>
      <button
        type="button"
        class="btn btn-outline btn-sm"
        onclick={() => beSure(session.id, asked.location, asked.ask)}>It is so</button
      >
    </p>
  {/if}
</div>
