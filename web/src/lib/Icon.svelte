<script lang="ts">
  interface Props {
    /** The file of the icon set, as it is. */
    of: string;
    /** Pixels. */
    size?: number;
    class?: string;
  }

  let { of: file, size = 20, class: style }: Props = $props();

  let strokes = $derived(
    file.slice(file.indexOf(">", file.indexOf("<svg")) + 1, file.indexOf("</svg>")),
  );
</script>

<!-- What it stands for is said beside it, or by its button. -->
<svg
  width={size}
  height={size}
  viewBox="0 0 24 24"
  fill="none"
  stroke="currentColor"
  stroke-width="2"
  stroke-linecap="round"
  stroke-linejoin="round"
  class={style}
  aria-hidden="true"
>
  <!-- eslint-disable-next-line svelte/no-at-html-tags -- a file of ours, not what anyone typed -->
  {@html strokes}
</svg>
