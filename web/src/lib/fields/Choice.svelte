<script lang="ts">
  interface Props {
    label: string;
    value: string;
    options: readonly (readonly [value: string, title: string])[];
    onchoose: (value: string) => void;
    bare?: boolean;
  }

  let { label, value, options, onchoose, bare = false }: Props = $props();
</script>

<label class="block min-w-0">
  <span class={["mb-0.5 block text-sm font-medium", bare && "sr-only"]}>{label}</span>
  <select
    class="select touch w-full min-w-0 px-2 text-base font-medium"
    {value}
    onchange={(e) => onchoose(e.currentTarget.value)}
  >
    {#each options as [id, title] (id)}<option value={id}>{title}</option>{/each}
  </select>
</label>
