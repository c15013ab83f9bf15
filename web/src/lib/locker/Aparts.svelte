<script lang="ts">
  // What two people changed of one item, each otherwise: whose it is to be.
  import type { Item, MergedItem, Quantity } from "../api/client";
  import { print } from "../reference.svelte";

  type Apart = MergedItem["aparts"][number];
  interface Props {
    aparts: Apart[];
    onsettle: (apart: Apart, theirs: boolean) => void;
  }
  let { aparts, onsettle }: Props = $props();

  /** A field's value as it is shown. */
  function valueOf(field: string, value: unknown): string {
    if (value === null || value === undefined) return "nothing";
    if (typeof value === "string") return value;
    if (typeof value === "number") {
      const quantity = { kn: "force", m: "height", kg: "mass" }[field.split("_").at(-1) ?? ""];
      if (field === "diameter_m" || field === "bend_m") return print("diameter", value);
      return quantity ? print(quantity as Quantity, value) : String(value);
    }
    const look = value as { result?: string; note?: string } & Pick<
      Item,
      "marked_kn" | "breaking_kn"
    >;
    if (field === "rating") {
      const of = [
        look.marked_kn !== undefined && `marked ${print("force", look.marked_kn)}`,
        look.breaking_kn !== undefined && `breaking ${print("force", look.breaking_kn)}`,
      ];
      return of.filter(Boolean).join(", ") || "nothing";
    }
    if (look.result) return [look.result, look.note].filter(Boolean).join(", ");
    return Array.isArray(value) ? `${value.length} rows` : "as written";
  }
</script>

{#each aparts as apart (apart.field)}
  <fieldset class="border-l-4 border-warning py-1 pl-3" data-testid="apart">
    <legend class="font-semibold"
      >Both changed the {apart.field.replace(/_(kn|kg|m)$/, "").replaceAll("_", " ")}. It is</legend
    >
    <div class="flex flex-wrap gap-2">
      <button type="button" class="btn touch btn-outline" onclick={() => onsettle(apart, false)}
        >{valueOf(apart.field, apart.mine)}, mine</button
      >
      <button type="button" class="btn touch btn-outline" onclick={() => onsettle(apart, true)}
        >{valueOf(apart.field, apart.theirs)}, theirs</button
      >
    </div>
  </fieldset>
{/each}
