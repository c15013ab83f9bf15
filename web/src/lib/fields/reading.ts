/** Fields whose text is being read, or was read and refused, by their ids. */
const open: Record<string, Promise<boolean>> = {};

/** Notes that a field reads its text; it answers whether the text was understood. */
export function reading(id: string, read: Promise<boolean>): void {
  open[id] = read;
}

/** A field that is gone holds nobody up. */
export function forget(id: string): void {
  Reflect.deleteProperty(open, id);
}

/** Whether every field was understood, once all have been read. */
export async function allRead(): Promise<boolean> {
  const answers = await Promise.all(Object.values(open));
  return answers.every(Boolean);
}
