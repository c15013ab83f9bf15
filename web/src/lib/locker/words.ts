import type { Item, Standing } from "../api/client";

/** The kinds of gear as a crew says them, in the order in which a load meets them. */
export const kinds: readonly (readonly [Item["kind"], string, string])[] = [
  ["rope", "Rope", "Ropes"],
  ["block", "Block", "Blocks"],
  ["sling", "Sling", "Slings"],
  ["connector", "Connector", "Connectors"],
  ["pulley", "Pulley", "Pulleys"],
  ["device", "Lowering device", "Lowering devices"],
  ["winch", "Winch", "Winches"],
  ["crane", "Crane", "Cranes"],
  ["vehicle", "Vehicle", "Vehicles"],
];

export const kindWord = (kind: string) => kinds.find(([id]) => id === kind)?.[1] ?? kind;

/** How a standing reads at a glance: its own shape as well as its colour. */
export function standingMark(standing: Standing): { shape: string; tone: string } {
  switch (standing.state) {
    case "ready":
      return { shape: "●", tone: "text-success" };
    case "due soon":
      return { shape: "◐", tone: "text-warning" };
    case "not inspected":
      return { shape: "○", tone: "text-warning" };
    case "overdue":
      return { shape: "▲", tone: "text-error" };
    case "set aside":
      return { shape: "■", tone: "text-error" };
    default:
      return { shape: "✕", tone: "text-error" };
  }
}
