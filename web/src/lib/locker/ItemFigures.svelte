<script lang="ts" module>
  import type { Item, Quantity } from "../api/client";

  /** A figure of an item: its field, what it is called (of some kinds otherwise), its quantity, what stands where none is. */
  const figures = [
    { field: "marked_kn", label: "Marked working load", quantity: "force", hint: "none" },
    {
      field: "breaking_kn",
      label: "Breaking strength",
      quantity: "force",
      hint: "not stated",
      with: "marked_kn",
    },
    { field: "diameter_m", label: "Diameter", quantity: "gauge", hint: "16 mm" },
    {
      field: "length_m",
      label: "Length",
      quantity: "height",
      of: { crane: "Boom", vehicle: "Bed" },
    },
    { field: "efficiency", label: "Sheave efficiency", quantity: "number", hint: "0.92" },
    { field: "bend_m", label: "Bend diameter", quantity: "gauge", hint: "100 mm" },
    { field: "friction", label: "Friction of rope on it", quantity: "number", hint: "0.2" },
    { field: "dynamic_factor", label: "Stiffer in a shock, times", quantity: "number", hint: "1" },
    { field: "rigging_kg", label: "Hook and ball", quantity: "mass" },
    { field: "payload_kg", label: "May carry", quantity: "mass", hint: "not stated" },
    { field: "volume_m3", label: "Room of its body", quantity: "volume", hint: "not stated" },
    { field: "mass_kg", label: "Weighs itself", quantity: "mass", hint: "not stated" },
    { field: "grip", label: "Grip of its wheels", quantity: "number", hint: "not stated" },
    { field: "winch_kn", label: "Its winch pulls", quantity: "force", hint: "not stated" },
  ] as const satisfies {
    field: keyof Item;
    label: string;
    quantity: Quantity | "number";
    hint?: string;
    /** The field that a kind of gear has it with; else its own. */
    with?: string;
    of?: Partial<Record<string, string>>;
  }[];

  export const figureFields: string[] = figures.map((one) => one.field);
</script>

<script lang="ts">
  import Figure from "../fields/Figure.svelte";

  interface Props {
    item: Item;
    has: (field: string) => boolean;
    fault: (field: string) => string;
    set: <K extends keyof Item>(field: K, value: Item[K] | undefined) => void;
  }

  /** What is marked on an item or stated of it, in figures: those that its kind of gear has. */
  let { item, has, fault, set }: Props = $props();
</script>

{#each figures as one (one.field)}
  {#if has("with" in one ? one.with : one.field)}
    <Figure
      label={("of" in one && (one.of as Record<string, string>)[item.kind]) || one.label}
      quantity={one.quantity}
      value={item[one.field]}
      hint={"hint" in one ? one.hint : undefined}
      fault={fault(one.field)}
      onchange={(v) => set(one.field, v)}
    />
  {/if}
{/each}
