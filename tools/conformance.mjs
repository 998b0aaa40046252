// npm run conformance -- FILE.json [--families a,b]: set-up where needed, then the checker with the arguments given.

import { spawn } from "node:child_process";
import path from "node:path";
import { ensurePackages, ROOT } from "./setup.mjs";

const from = process.cwd();
process.chdir(ROOT);
await ensurePackages(console.error);
const tsx = path.join(ROOT, "node_modules", ".bin", "tsx");
// File names are the caller's, from where the caller stands.
const child = spawn(tsx, [path.join(ROOT, "tools/conformance/main.ts"), ...process.argv.slice(2)], { cwd: from, stdio: "inherit" });
child.once("exit", (code) => (process.exitCode = code ?? 1));
