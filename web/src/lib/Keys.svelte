<script lang="ts">
  import { resolve } from "$app/paths";
  import type { Command } from "./commands";

  let { commands }: { commands: Command[] } = $props();

  // What is done on the things themselves, beside the commands.
  const more: [key: string, does: string][] = [
    ["↑ ↓", "in the order: the pick before, the next; with Shift more of them"],
    ["The cut in hand", "↑ ↓ 10 cm, with Shift 1 cm, Page a metre"],
    [
      "On the drawing",
      "press wood: its pick; twice: cut there; a cut twice: join; Alt: put before",
    ],
  ];
  let keys = $derived([
    ...commands.flatMap((c): [string, string][] => (c.key ? [[c.key, c.title]] : [])),
    ...more,
  ]);
</script>

<dl
  class="grid max-h-[60dvh] shrink-0 gap-x-6 gap-y-1 overflow-y-auto border-b border-base-300 bg-base-200 px-4 py-2 text-sm sm:grid-cols-2 xl:grid-cols-3"
  aria-label="Keys"
>
  {#each keys as [key, does] (key)}
    <div class="flex gap-2">
      <dt class="w-32 shrink-0 font-bold">{key}</dt>
      <dd>{does}</dd>
    </div>
  {/each}
  <div class="flex gap-2">
    <dt class="w-32 shrink-0 font-bold">Words</dt>
    <dd><a class="link" href={resolve("/words")}>what the words mean</a></dd>
  </div>
</dl>
