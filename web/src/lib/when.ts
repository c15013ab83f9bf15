const minute = 60_000;
const day = 24 * 60 * minute;

/** A moment as people say it: "just now", "12 min ago", "14:05", "3 Nov 2026". */
export function when(iso: string, now = Date.now()): string {
  const then = new Date(iso);
  const past = now - then.getTime();
  if (past < minute) return "just now";
  if (past < 60 * minute) return `${Math.floor(past / minute)} min ago`;
  if (past < day) return then.toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });
  return then.toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
}
