<script lang="ts">
  const keys = [
    ["↑ ↓", "in the order: the pick before, the next; with Shift more of them"],
    ["Alt ↑ ↓", "earlier, later"],
    ["A", "add a pick"],
    ["S, J", "split, join to the one before"],
    ["Delete", "take out of the order"],
    ["C", "take the cut in hand; then ↑ ↓ 10 cm, with Shift 1 cm, Page a metre"],
    [
      "On the drawing",
      "press wood: its pick; twice: cut there; a cut twice: join; Alt: put before",
    ],
    ["L", "longest piece within the limits"],
    ["F", "fill the order"],
    ["D", "it is down, or not yet"],
    ["Space", "run the film"],
    ["[ ]", "turn the tree"],
    ["Z", "close up, or the whole tree"],
    ["1 2 3", "loads, pick, setup"],
    ["Ctrl K", "everything by name"],
    ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
    ["?", "these keys"],
  ] as const;
</script>

<dl
  class="grid shrink-0 gap-x-6 gap-y-1 border-b border-base-300 bg-base-200 px-4 py-2 text-sm sm:grid-cols-2 xl:grid-cols-3"
  aria-label="Keys"
>
  {#each keys as [key, does] (key)}
    <div class="flex gap-2">
      <dt class="w-32 shrink-0 font-bold">{key}</dt>
      <dd>{does}</dd>
    </div>
  {/each}
</dl>
