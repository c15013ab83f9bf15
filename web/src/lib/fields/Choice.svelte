<script lang="ts">
  interface Props {
    label: string;
    value: string;
    options: readonly (readonly [value: string, title: string])[];
    onchoose: (value: string) => void;
    bare?: boolean;
  }

  let { label, value, options, onchoose, bare = false }: Props = $props();

  const id = $props.id();
</script>

<div class="min-w-0">
  <label for={id} class={["mb-0.5 block text-sm font-medium", bare && "sr-only"]}>{label}</label>
  <select
    {id}
    class="select touch w-full min-w-0 pr-9 pl-2 text-base font-medium text-ellipsis"
    {value}
    onchange={(e) => onchoose(e.currentTarget.value)}
  >
    {#each options as [key, title] (key)}<option value={key}>{title}</option>{/each}
  </select>
</div>
