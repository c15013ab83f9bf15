import type { Job, Merged } from "../../api/client";

type Ask = (question: string, document: string, asked: string, crew: string) => string;

let asking: Promise<Ask> | undefined;

/** The core itself, as the page's worker runs it: the merge that is tested is the real one. */
export function theCore(): Promise<Ask> {
  asking ??= (async () => {
    await import("../../core/wasm_exec.js");
    const inside = globalThis as unknown as {
      Go: new () => {
        importObject: WebAssembly.Imports;
        run(instance: WebAssembly.Instance): Promise<void>;
      };
      elkstay: Ask;
    };
    // Of Node, which runs the tests; the page has no such thing.
    const files = (await import("node:fs/promises" as string)) as {
      readFile: (at: URL) => Promise<Uint8Array<ArrayBuffer>>;
    };
    const runtime = new inside.Go();
    const code = await files.readFile(new URL("../../core/elkstay.wasm", import.meta.url));
    const { instance } = await WebAssembly.instantiate(code, runtime.importObject);
    void runtime.run(instance);
    return inside.elkstay;
  })();
  return asking;
}

export async function merge(base: Job, mine: Job, theirs: Job): Promise<Merged | null> {
  const ask = await theCore();
  const reply = JSON.parse(ask("merge", JSON.stringify({ base, mine, theirs }), "{}", "")) as {
    status: number;
    body: Merged;
  };
  return reply.status === 200 ? reply.body : null;
}
