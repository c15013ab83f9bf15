/** Ids of the locker that a document refers to, wherever they stand. */
export function itemsOf(value: unknown, found = new Set<string>()): Set<string> {
  if (Array.isArray(value)) for (const one of value) itemsOf(one, found);
  else if (value && typeof value === "object") {
    for (const [key, inner] of Object.entries(value)) {
      if (key === "item" && typeof inner === "string" && inner) found.add(inner);
      else itemsOf(inner, found);
    }
  }
  return found;
}

/** The day by this device's clock, such as 2026-03-31. */
export function today(): string {
  const now = new Date();
  const two = (n: number) => String(n).padStart(2, "0");
  return `${now.getFullYear()}-${two(now.getMonth() + 1)}-${two(now.getDate())}`;
}
