import type { Quantity } from "./api/client";

/** What a reader types a figure as, where the units of the reader know it. */
export function quantityOf(path: string, unit: string): Quantity | null {
  if (unit === "kg") return "mass";
  if (unit === "kN") return "force";
  if (unit !== "m") return null;
  return /diameter|thickness|depth|bored|nicks|cavity|chord|back_cut|offset|bridge/.test(path)
    ? "diameter"
    : "height";
}
