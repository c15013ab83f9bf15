<script lang="ts">
  import { goto } from "$app/navigation";
  import { resolve } from "$app/paths";
  import { onMount } from "svelte";
  import type { Command } from "./commands";
  import { asCommands, glossary } from "./words/words";

  let { commands, onclose }: { commands: Command[]; onclose: () => void } = $props();

  let box = $state<HTMLInputElement>();
  let list = $state<HTMLElement>();
  let typed = $state("");
  let at = $state(0);
  let found = $derived.by(() => {
    const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
    const fits = (c: Command) => words.every((w) => c.title.toLowerCase().includes(w));
    // Words of the trade come behind what can be done, once something is typed.
    return [...commands.filter(fits), ...(words.length ? meanings.filter(fits) : [])];
  });
  let meanings = $state.raw<Command[]>([]);

  onMount(() => {
    box?.focus();
    void glossary()
      .then(
        (read) =>
          (meanings = asCommands(
            read,
            (word) => void goto(resolve(`/words?find=${encodeURIComponent(word)}`)),
          )),
      )
      .catch(() => undefined);
  });

  function run(command: Command | undefined) {
    if (!command) return;
    onclose();
    command.run();
  }

  function onkeydown(event: KeyboardEvent) {
    if (event.key === "Escape") onclose();
    else if (event.key === "Enter") run(found[at]);
    else if (event.key === "ArrowDown") at = Math.min(found.length - 1, at + 1);
    else if (event.key === "ArrowUp") at = Math.max(0, at - 1);
    else return;
    event.preventDefault();
    event.stopPropagation();
    list?.children[at]?.scrollIntoView({ block: "nearest" });
  }
</script>

<div class="absolute inset-x-0 top-14 z-20 flex justify-center px-2">
  <div
    role="dialog"
    aria-label="Everything by name"
    class="w-full max-w-xl rounded border-2 border-base-content bg-base-100 shadow-lg"
  >
    <input
      bind:this={box}
      class="input touch w-full rounded-b-none border-0 border-b border-base-300 text-lg"
      role="combobox"
      aria-expanded="true"
      aria-controls="palette-list"
      aria-activedescendant={found[at] ? `command-${at}` : undefined}
      aria-label="Type what you want to do"
      placeholder="Type what you want to do"
      autocomplete="off"
      bind:value={typed}
      oninput={() => (at = 0)}
      onblur={onclose}
      {onkeydown}
    />
    <ul
      bind:this={list}
      id="palette-list"
      role="listbox"
      aria-label="What there is"
      class="relative max-h-80 overflow-y-auto"
    >
      {#each found as command, i (command.title)}
        <!-- svelte-ignore a11y_click_events_have_key_events -->
        <li
          id={`command-${i}`}
          role="option"
          aria-selected={i === at}
          class={[
            "flex touch cursor-pointer items-center gap-3 px-4",
            i === at && "bg-base-200 font-semibold",
          ]}
          onpointerdown={(e) => e.preventDefault()}
          onpointerenter={() => (at = i)}
          onclick={() => run(command)}
        >
          <span class="grow">{command.title}</span>
          {#if command.key}<kbd class="text-sm faint">{command.key}</kbd>{/if}
        </li>
      {:else}
        <li class="px-4 py-3 faint" role="option" aria-selected="false" aria-disabled="true">
          Nothing goes by that name.
        </li>
      {/each}
    </ul>
  </div>
</div>
