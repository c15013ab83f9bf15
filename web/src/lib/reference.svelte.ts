import { api, type Quantity, type Reference, type Unit } from "./api/client";
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

// Making a number format costs more than using it a thousand times.
const formats: Record<number, Intl.NumberFormat> = {};

function formatOf(decimals: number): Intl.NumberFormat {
  formats[decimals] ??= new Intl.NumberFormat("en", {
    minimumFractionDigits: decimals,
    maximumFractionDigits: decimals,
  });
  return formats[decimals];
}

function figureIn(unit: Unit, si: number, finer = 1): string {
  const figure = si / unit.factor;
  const rounding = unit.rounding / (Math.abs(figure) < unit.fine_below ? 10 * finer : finer);
  const decimals = Math.max(0, Math.round(-Math.log10(rounding)));
  const rounded = Math.round(figure / rounding) * rounding;
  return formatOf(decimals).format(rounded === 0 ? 0 : rounded);
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
  return `${text.includes(".") ? text.replace(/\.?0+$/, "") : text} ${unit.label}`;
}
