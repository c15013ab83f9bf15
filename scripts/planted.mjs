#!/usr/bin/env node
// Plants the bugs of scripts/planted.tsv one at a time in a copy of the work tree and runs the
// tests that reason about them: of the package they are in, and for the rooms under the walk of
// the order those of the walk too. Kept answers are left out, for they cannot say which answer is
// right. Those that live are named.
import { execFileSync, spawnSync } from "node:child_process";
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { dirname, join, resolve } from "node:path";

const root = resolve(import.meta.dirname, "..");
const copy = mkdtempSync(join(tmpdir(), "planted-"));
execFileSync("git", ["clone", "-q", root, copy]);
const rows = readFileSync(join(root, "scripts/planted.tsv"), "utf8").trim().split("\n").slice(1);
const kept = "SayWhatTheySaid|AreThoseOf";
const walk = /^core\/(space|hold|course|ways|drop|fell|spar|line|swing)/;
const packages = (file) => {
  const own = `./${dirname(file)}`;
  return walk.test(file) ? [own, "./core/ways/...", "./core/assess", "./core/propose"] : [own];
};
let lived = 0;
for (const row of rows) {
  const [file, what, ...sides] = row.split("\t");
  const [is, becomes] = sides.map((side) => side.replaceAll("\\n", "\n").replaceAll("\\t", "\t"));
  const path = join(copy, file);
  const code = readFileSync(path, "utf8");
  if (code.split(is).length !== 2) throw new Error(`${file}: not once in it: ${is}`);
  writeFileSync(path, code.replace(is, () => becomes));
  const run = spawnSync("go", ["test", "-count=1", "-failfast", "-skip", kept, ...packages(file)], { cwd: copy, encoding: "utf8" });
  const seen = run.status !== 0;
  const broken = /\[(build|setup) failed\]/.test(run.stdout);
  if (!seen || broken) lived++;
  console.log(`${broken ? "DOES NOT BUILD" : seen ? "seen " : "LIVED"}  ${file}: ${what}`);
  writeFileSync(path, code);
}
console.log(`${rows.length} planted, ${rows.length - lived} seen`);
rmSync(copy, { recursive: true });
process.exitCode = lived ? 1 : 0;
