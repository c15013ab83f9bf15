import type { System } from "./api/client";

type Theme = "daylight" | "dusk";

function stored(key: string): string | null {
  try {
    return localStorage.getItem(key);
  } catch {
    return null;
  }
}

function keep(key: string, value: string): void {
  try {
    localStorage.setItem(key, value);
  } catch {
    // A browser that keeps nothing: the choice holds until the page is left.
  }
}

/** What one person chose on this device: units and theme. */
class Preferences {
  units = $state<System>(stored("elkstay.units") === "us" ? "us" : "metric");
  theme = $state<Theme>(document.documentElement.dataset.theme === "dusk" ? "dusk" : "daylight");

  switchUnits(): void {
    this.units = this.units === "us" ? "metric" : "us";
    keep("elkstay.units", this.units);
  }

  switchTheme(): void {
    this.theme = this.theme === "dusk" ? "daylight" : "dusk";
    document.documentElement.dataset.theme = this.theme;
    keep("elkstay.theme", this.theme);
  }
}

export const preferences = new Preferences();
