#!/usr/bin/env node
// Plants the bugs of scripts/planted.tsv one at a time in a copy of the work tree and runs the
// tests of the package they are in, alone: those that live are named.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join, resolve } from "node:path";

const root = resolve(import.meta.dirname, "..");
const copy = mkdtempSync(join(tmpdir(), "planted-"));
execFileSync("git", ["clone", "-q", root, copy]);
const rows = readFileSync(join(root, "scripts/planted.tsv"), "utf8").trim().split("\n").slice(1);
let lived = 0;
for (const row of rows) {
  const [file, what, is, becomes] = row.split("\t");
  const path = join(copy, file);
  const code = readFileSync(path, "utf8");
  if (code.split(is).length !== 2) throw new Error(`${file}: not once in it: ${is}`);
  writeFileSync(path, code.replace(is, () => becomes));
  const run = spawnSync("go", ["test", "-count=1", `./${dirname(file)}`], { cwd: copy, encoding: "utf8" });
  const seen = run.status !== 0;
  const broken = /\[(build|setup) failed\]/.test(run.stdout);
  if (!seen || broken) lived++;
  console.log(`${broken ? "DOES NOT BUILD" : seen ? "seen " : "LIVED"}  ${file}: ${what}`);
  writeFileSync(path, code);
}
console.log(`${rows.length} planted, ${rows.length - lived} seen`);
rmSync(copy, { recursive: true });
process.exitCode = lived ? 1 : 0;
