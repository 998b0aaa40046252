// npm run chaos, hostile, measure, read-shots: set-up where needed, then the tool with the arguments given.

import { spawn } from "node:child_process";
import path from "node:path";
import { ensureReady, ROOT } from "./setup.mjs";

const [tool, ...args] = process.argv.slice(2);
// Only the answer goes to standard output; a file is named from where the command was given.
const say = (line) => console.error(line);
const from = process.env.INIT_CWD ?? process.cwd();
process.chdir(ROOT);
const READERS = { measure: ["ffmpeg"], "read-shots": [] };
const needs = READERS[tool];
await ensureReady(needs ?? ["mariadbd"], say);
if (needs === undefined) {
  const { build } = await import("./build.mjs");
  await build();
}
const tsx = path.join(ROOT, "node_modules", ".bin", "tsx");
const cwd = needs !== undefined ? from : ROOT;
const child = spawn(tsx, [path.join(ROOT, "tools", tool, "main.ts"), ...args], { cwd, stdio: "inherit" });
child.once("exit", (code) => (process.exitCode = code ?? 1));
