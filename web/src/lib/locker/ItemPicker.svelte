<script lang="ts">
  import Icon from "../Icon.svelte";
  import ChevronDown from "lucide-static/icons/chevron-down.svg?raw";
  import type { ItemRow } from "../api/client";
  import { print } from "../reference.svelte";
  import type { Session } from "../session/session.svelte";
  import { rows } from "./rows.svelte";
  import StandingMark from "./StandingMark.svelte";

  interface Props {
    session: Session;
    label: string;
    /** Kinds of gear that fit here. */
    kinds: readonly string[];
    /** Id of the item that is taken; undefined: none of the locker. */
    value: string | undefined;
    onchoose: (item: ItemRow | null) => void;
  }

  let { session, label, kinds, value, onchoose }: Props = $props();

  const id = $props.id();
  /** As many as can be looked through; a word more finds the rest. */
  const most = 40;
  let open = $state(false);
  let search = $state("");
  let found = $derived(rows.find(search, kinds));
  let taken = $derived(rows.items?.find((item) => item.id === value));
  let standing = $derived(session.assessment?.gear_standings.find((one) => one.id === value));

  function toggle() {
    open = !open;
    if (open && !rows.items) void rows.load();
  }

  function choose(item: ItemRow | null) {
    open = false;
    search = "";
    onchoose(item);
  }
</script>

<div class="min-w-0">
  <span class="mb-0.5 block text-sm font-medium" id={`${id}-label`}>{label}</span>
  <button
    type="button"
    class="btn h-auto min-h-11 w-full justify-between border-base-300 btn-outline px-2 py-1"
    aria-expanded={open}
    aria-controls={`${id}-list`}
    aria-labelledby={`${id}-label ${id}-value`}
    onclick={toggle}
  >
    <span class="min-w-0 truncate text-left text-base font-medium" id={`${id}-value`}>
      {#if value}
        {standing?.name ?? taken?.name ?? "an item that is not at hand here"}
      {:else}
        <span class="faint">typed in below, not from the locker</span>
      {/if}
    </span>
    <span class="flex shrink-0 items-center gap-2">
      {#if standing && standing.state !== "ready"}<StandingMark {standing} />{/if}
      <Icon of={ChevronDown} size={16} class={open ? "rotate-180" : ""} />
    </span>
  </button>
  {#if open}
    <div id={`${id}-list`} class="border border-t-0 border-base-300 bg-base-100">
      <input
        class="input touch w-full border-0 border-b border-base-300 px-2"
        aria-label={`Search the locker for ${label.toLowerCase()}`}
        placeholder="name or serial"
        bind:value={search}
        onkeydown={(e) => {
          if (e.key === "Escape") {
            e.stopPropagation();
            open = false;
          } else if (e.key === "Enter" && found[0]) choose(found[0]);
        }}
      />
      <ul class="relative max-h-72 overflow-y-auto">
        {#if value}
          <li>
            <button
              type="button"
              class="touch w-full cursor-pointer border-b border-base-300 px-2 text-left"
              onclick={() => choose(null)}>None of the locker: type it in</button
            >
          </li>
        {/if}
        {#each found.slice(0, most) as item (item.id)}
          <li>
            <button
              type="button"
              class={[
                "flex touch w-full cursor-pointer items-center gap-2 border-b border-base-300 px-2 py-1 text-left",
                item.id === value && "bg-base-200",
              ]}
              onclick={() => choose(item)}
            >
              <span class="min-w-0 grow">
                <span class="block truncate font-medium">{item.name}</span>
                <span class="block truncate text-xs faint">
                  {item.serial || "no serial"}{item.limit_kn === null
                    ? ""
                    : ` · ${print("force", item.limit_kn)}`}
                </span>
              </span>
              <StandingMark standing={item.standing} />
            </button>
          </li>
        {/each}
      </ul>
      <p class="px-2 py-1.5 text-sm faint" role="status">
        {#if rows.trouble}
          {rows.trouble}
        {:else if !rows.items}
          Looking
        {:else if found.length === 0}
          Nothing of this kind in the locker{search ? " by that name" : ""}.
        {:else if found.length > most}
          {most} of {found.length.toLocaleString("en")}: type a word more.
        {:else}
          {found.length} in the locker
        {/if}
      </p>
    </div>
  {/if}
</div>
