/** Figures that somebody said are so though they seldom are, kept on this device. */
const slot = "elkstay.sure";
const most = 200;

function read(): string[] {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(slot) ?? "[]");
    return Array.isArray(kept) ? kept.filter((one) => typeof one === "string") : [];
  } catch {
    return [];
  }
}

let said = $state<string[] | null>(null);

/** Whether a question about a place of a job was answered; another figure asks another question. */
export const isSure = (job: string, location: string, ask: string): boolean =>
  (said ?? read()).includes(`${job} ${location} ${ask}`);

export function beSure(job: string, location: string, ask: string): void {
  said = [...read(), `${job} ${location} ${ask}`].slice(-most);
  try {
    localStorage.setItem(slot, JSON.stringify(said));
  } catch {
    // A browser that keeps nothing asks again next time.
  }
}
