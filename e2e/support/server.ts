import { execFileSync, spawn, type ChildProcess } from "node:child_process";
import { resolve } from "node:path";

/** Ports from here on are the specs'. */
export const firstPort = 8431;
const root = resolve(import.meta.dirname, "../..");
const binary = resolve(root, "bin/elkstay");

/** The core's own answer on the command line. */
export function core(args: string[], input = ""): unknown {
  return JSON.parse(execFileSync(binary, args, { input, encoding: "utf8" }));
}

/** A server of a spec's own, which it may kill. */
export class OwnServer {
  private child: ChildProcess | undefined;
  readonly url: string;

  constructor(
    private readonly listen: number,
    private readonly folder: string,
    /** Quick, and lost in a power cut: for whoever kills nothing. */
    private readonly throwaway = false,
  ) {
    this.url = `http://127.0.0.1:${listen}`;
  }

  async start(reset = false): Promise<void> {
    const args = ["demo", "--folder", resolve(root, "var/e2e", this.folder), "--listen"];
    args.push(`127.0.0.1:${this.listen}`);
    if (reset) args.push("--reset");
    if (this.throwaway) args.push("--throwaway");
    this.child = spawn(binary, args, {
      stdio: "ignore",
      env: { ...process.env, ELKSTAY_DATABASE_URL: "" },
    });
    for (let tries = 0; tries < 300; tries++) {
      const ready = await fetch(`${this.url}/readyz`).catch(() => null);
      if (ready?.ok) return;
      await new Promise((done) => setTimeout(done, 100));
    }
    throw new Error("the server does not get ready");
  }

  private gone(signal: NodeJS.Signals): Promise<void> {
    const child = this.child;
    if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
    return new Promise((done) => {
      child.once("exit", () => done());
      child.kill(signal);
    });
  }

  kill = () => this.gone("SIGKILL");
  stop = () => this.gone("SIGTERM");
}
