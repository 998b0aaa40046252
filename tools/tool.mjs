// npm run chaos, npm run hostile: set-up and build where needed, then the tool with the arguments given.

import { spawn } from "node:child_process";
import path from "node:path";
import { ensureDebian, ensurePackages, ROOT } from "./setup.mjs";

process.chdir(ROOT);
ensurePackages(console.log);
ensureDebian(["mariadbd"], console.log);
const { build } = await import("./build.mjs");
await build();
const tsx = path.join(ROOT, "node_modules", ".bin", "tsx");
const [tool, ...args] = process.argv.slice(2);
const child = spawn(tsx, [path.join(ROOT, "tools", tool, "main.ts"), ...args], { cwd: ROOT, stdio: "inherit" });
child.once("exit", (code) => (process.exitCode = code ?? 1));
