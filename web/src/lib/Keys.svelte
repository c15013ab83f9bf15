<script lang="ts">
  const keys = [
    ["C", "take the cut in hand"],
    ["↑ ↓", "move it 10 cm; with Shift 1 cm"],
    ["Page up, Page down", "move it a metre"],
    ["L", "longest piece within the limits"],
    ["Ctrl Z, Ctrl Shift Z", "undo, redo"],
    ["?", "these keys"],
  ] as const;
</script>

<dl
  class="flex shrink-0 flex-wrap gap-x-6 gap-y-1 border-b border-base-300 bg-base-200 px-4 py-2 text-sm"
  aria-label="Keys"
>
  {#each keys as [key, does] (key)}
    <div class="flex gap-2">
      <dt class="font-bold">{key}</dt>
      <dd>{does}</dd>
    </div>
  {/each}
</dl>
