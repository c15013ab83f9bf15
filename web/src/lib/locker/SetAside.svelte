<script lang="ts">
  import type { Item } from "../api/client";
  import { today } from "../crew/items";

  type Aside = NonNullable<Item["set_aside"]>;

  /** Whether an item is kept from use, since when and why. */
  let {
    aside,
    onchange,
  }: { aside: Aside | undefined; onchange: (aside: Aside | undefined) => void } = $props();
</script>

<fieldset class="space-y-2">
  <legend class="text-lg font-bold">Set aside</legend>
  {#if aside}
    <div class="grid grid-cols-2 gap-2">
      <label class="block">
        <span class="mb-0.5 block text-sm font-medium">Since</span>
        <input
          type="date"
          class="input touch w-full px-2"
          value={aside.on}
          oninput={(e) => onchange({ ...aside, on: e.currentTarget.value })}
        />
      </label>
      <label class="flex touch cursor-pointer items-center gap-2 self-end">
        <input
          type="checkbox"
          class="checkbox"
          checked={aside.retired ?? false}
          onchange={(e) => onchange({ ...aside, retired: e.currentTarget.checked })}
        />for good
      </label>
      <label class="col-span-2 block">
        <span class="mb-0.5 block text-sm font-medium">Why</span>
        <input
          class="input touch w-full px-2"
          maxlength="400"
          value={aside.why}
          oninput={(e) => onchange({ ...aside, why: e.currentTarget.value })}
        />
      </label>
    </div>
    <button type="button" class="btn touch btn-outline" onclick={() => onchange(undefined)}
      >Back into use</button
    >
  {:else}
    <button
      type="button"
      class="btn touch w-full btn-outline"
      onclick={() => onchange({ on: today(), why: "" })}>Set it aside</button
    >
  {/if}
</fieldset>
