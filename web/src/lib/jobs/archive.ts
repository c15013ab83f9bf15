import { newId, type Brought } from "../api/client";

/** Sends an archive to be kept as a new job; asked again after a lost answer, it is kept once. */
export async function takeArchive(file: File): Promise<{ data?: Brought; error?: unknown }> {
  const key = newId();
  for (let tries = 0; ; tries++) {
    try {
      const answer = await fetch("/api/archives", {
        method: "POST",
        headers: { "Content-Type": "application/zip", "Idempotency-Key": key },
        body: file,
      });
      const said = (await answer.json()) as unknown;
      return answer.ok ? { data: said as Brought } : { error: said };
    } catch (lost) {
      if (tries === 2) throw lost;
    }
  }
}
