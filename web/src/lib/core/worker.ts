/// <reference lib="webworker" />
// The core, in a worker of its own: the page never waits for a sum.
import "./wasm_exec.js";
import address from "./elkstay.wasm?url";

interface Runtime {
  importObject: WebAssembly.Imports;
  run(instance: WebAssembly.Instance): Promise<void>;
}

const inside = globalThis as unknown as {
  Go: new () => Runtime;
  elkstay: (question: string, document: string, asked: string, crew: string) => string;
} & DedicatedWorkerGlobalScope;

export interface Call {
  id: number;
  question: string;
  document: string;
  asked: string;
  crew: string;
}

async function begin(): Promise<void> {
  const runtime = new inside.Go();
  const loaded = await WebAssembly.instantiateStreaming(fetch(address), runtime.importObject);
  void runtime.run(loaded.instance);
  inside.postMessage({ ready: true });
  inside.onmessage = (event: MessageEvent<Call>) => {
    const { id, question, document, asked, crew } = event.data;
    const began = performance.now();
    const reply = inside.elkstay(question, document, asked, crew);
    inside.postMessage({ id, reply, took: performance.now() - began });
  };
}

begin().catch((error: unknown) => inside.postMessage({ failed: String(error) }));
