import { api, type Quantity, type Reference, type Unit } from "./api/client";
import { wind } from "./draw/view";
import { preferences } from "./preferences.svelte";

/** What the interface knows of the core before anything is asked. */
class Known {
  reference = $state.raw<Reference | null>(null);

  async load(): Promise<void> {
    if (this.reference) return;
    try {
      const { data } = await api.GET("/api/reference");
      if (data) this.reference = data;
    } catch {
      // No answer: the layout says so and offers to try again.
    }
  }

  get(): Reference {
    if (!this.reference) throw new Error("the reference is not loaded yet");
    return this.reference;
  }
}

export const known = new Known();

export function unitOf(quantity: Quantity): Unit {
  const row = known.get().units.find((shown) => shown.quantity === quantity);
  if (!row) throw new Error(`no unit for ${quantity}`);
  return row[preferences.units];
}

/** A number with so many decimals, thousands apart. Intl takes longer to load than a phone has. */
function decimal(value: number, decimals: number): string {
  const [whole = "", part] = Math.abs(value).toFixed(decimals).split(".");
  const apart = whole.replace(/\B(?=(\d{3})+$)/g, ",");
  return `${value < 0 ? "-" : ""}${apart}${part ? `.${part}` : ""}`;
}

function figureIn(unit: Unit, si: number, finer = 1): string {
  const figure = si / unit.factor;
  const rounding = unit.rounding / (Math.abs(figure) < unit.fine_below ? 10 * finer : finer);
  const decimals = Math.max(0, Math.round(-Math.log10(rounding)));
  const rounded = Math.round(figure / rounding) * rounding;
  return decimal(rounded === 0 ? 0 : rounded, decimals);
}

/** An SI figure in the chosen units, without the unit's name. */
export const figure = (quantity: Quantity, si: number): string => figureIn(unitOf(quantity), si);

/** An SI figure in the chosen units: "11.1 kN". */
export const print = (quantity: Quantity, si: number): string =>
  `${figure(quantity, si)} ${unitOf(quantity).label}`;

/** An SI figure as it stands in a field: fine enough to be typed back unchanged to the eye. */
export function entry(quantity: Quantity, si: number): string {
  const unit = unitOf(quantity);
  const text = figureIn(unit, si, 10).replaceAll(",", "");
  const plain = text.includes(".") ? text.replace(/\.?0+$/, "") : text;
  return quantity === "bearing" ? `${plain}° ${wind(si)}` : `${plain} ${unit.label}`;
}
