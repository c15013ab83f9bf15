<script lang="ts">
  interface Props {
    label: string;
    value: number | undefined;
    onchoose: (deg: number) => void;
  }

  let { label, value, onchoose }: Props = $props();

  const points = ["N", "NE", "E", "SE", "S", "SW", "W", "NW"];
</script>

<div role="group" aria-label={label}>
  <p class="mb-1 text-sm font-medium">
    {label}{value === undefined ? "" : `: ${value.toFixed(0)}°`}
  </p>
  <div class="grid grid-cols-8 gap-1">
    {#each points as name, i (name)}
      <button
        type="button"
        class={["btn h-12 px-0", value === i * 45 ? "btn-primary" : "btn-outline"]}
        aria-pressed={value === i * 45}
        onclick={() => onchoose(i * 45)}>{name}</button
      >
    {/each}
  </div>
</div>
