/** Pictures that could not be sent yet, kept on this device until they are. */
export interface Waiting {
  id: string;
  job: string;
  about: string;
  note: string;
  picture: Blob;
}

const name = "elkstay";
const store = "pictures";

function open(): Promise<IDBDatabase> {
  return new Promise((done, fail) => {
    const asked = indexedDB.open(name, 1);
    asked.onupgradeneeded = () => asked.result.createObjectStore(store, { keyPath: "id" });
    asked.onsuccess = () => done(asked.result);
    asked.onerror = () => fail(new Error("this browser keeps nothing"));
  });
}

async function run<T>(
  mode: IDBTransactionMode,
  work: (held: IDBObjectStore) => IDBRequest<T>,
): Promise<T> {
  const base = await open();
  return new Promise((done, fail) => {
    const asked = work(base.transaction(store, mode).objectStore(store));
    asked.onsuccess = () => done(asked.result);
    asked.onerror = () => fail(new Error("this browser keeps nothing"));
  });
}

export const keep = (one: Waiting) => run("readwrite", (held) => held.put(one));
export const drop = (id: string) => run("readwrite", (held) => held.delete(id));
export const waiting = async (job: string) =>
  (await run<Waiting[]>("readonly", (held) => held.getAll())).filter((one) => one.job === job);

/** As many pixels a side as a picture is sent with. */
const side = 2000;

/** Draws a picture anew, no larger than is needed; what the camera noted of the place goes. */
export async function smaller(file: File): Promise<Blob> {
  const image = await createImageBitmap(file);
  const scale = Math.min(1, side / Math.max(image.width, image.height));
  const canvas = document.createElement("canvas");
  canvas.width = Math.max(1, Math.round(image.width * scale));
  canvas.height = Math.max(1, Math.round(image.height * scale));
  canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
  return new Promise((done, fail) =>
    canvas.toBlob(
      (blob) => (blob ? done(blob) : fail(new Error("it cannot be drawn"))),
      "image/jpeg",
      0.85,
    ),
  );
}

/** Sends one picture; an answer that refuses it is said in words. */
export async function send(one: Waiting): Promise<string> {
  const query = new URLSearchParams({ about: one.about, note: one.note });
  const answer = await fetch(`/api/jobs/${one.job}/photos/${one.id}?${query}`, {
    method: "PUT",
    headers: { "Content-Type": "application/octet-stream" },
    body: one.picture,
  });
  if (answer.ok) return "";
  if (answer.status >= 500) throw new Error("not now");
  const body = (await answer.json()) as { errors?: { message: string }[]; detail?: string };
  return body.errors?.[0]?.message ?? body.detail ?? "it was refused";
}
