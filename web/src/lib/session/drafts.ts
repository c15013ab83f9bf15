/** Texts that were typed and refused: kept on this device until they are mended. */
const slot = (job: string, path: string) => `elkstay.draft.${job}.${path}`;

export function draft(job: string, path: string): string | null {
  try {
    return localStorage.getItem(slot(job, path));
  } catch {
    return null;
  }
}

export function keepDraft(job: string, path: string, text: string | null): void {
  try {
    if (text === null) localStorage.removeItem(slot(job, path));
    else localStorage.setItem(slot(job, path), text);
  } catch {
    // A browser that keeps nothing: the field itself still does.
  }
}
