import type { Fault } from "../api/client";

/** A fault as a sentence: what is wrong, and what is allowed. */
export function say(fault: Fault): string {
  const text = fault.message.charAt(0).toUpperCase() + fault.message.slice(1);
  if (!fault.allowed || text.includes(fault.allowed)) return `${text}.`;
  return `${text}. Allowed: ${fault.allowed}.`;
}

/** The faults of a refusal. */
export function faultsOf(error: unknown): Fault[] {
  if (error && typeof error === "object" && "errors" in error && Array.isArray(error.errors)) {
    return error.errors as Fault[];
  }
  return [];
}
