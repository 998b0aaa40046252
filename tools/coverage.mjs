// npm run coverage [-- --sets N --draws B]: set-up where needed, then the simulation; its table goes to standard output.

import { spawn } from "node:child_process";
import path from "node:path";
import { ensurePackages, ROOT } from "./setup.mjs";

const from = process.cwd();
process.chdir(ROOT);
await ensurePackages(console.error);
const tsx = path.join(ROOT, "node_modules", ".bin", "tsx");
// Arguments as the caller gave them.
const child = spawn(tsx, [path.join(ROOT, "tools/coverage-simulation/main.ts"), ...process.argv.slice(2)], { cwd: from, stdio: "inherit" });
child.once("exit", (code) => (process.exitCode = code ?? 1));
