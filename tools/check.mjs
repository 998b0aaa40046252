// npm run check: what a change must pass before it is committed, quickly. Format, types, lint, rules, and the unit tests of what changed.

import { spawnSync } from "node:child_process";
import path from "node:path";
import { ensurePackages, ROOT } from "./setup.mjs";

const bin = (name) => path.join(ROOT, "node_modules", ".bin", name);
const STEPS = [
  ["format", "biome", "format", "."],
  ["types", "tsc", "--build"],
  ["lint", "oxlint"],
  ["who may know whom", "depcruise", "--config", ".dependency-cruiser.cjs", "packages", "apps", "demo"],
  ["unused code", "knip"],
  [
    "tests of what changed",
    "vitest",
    "run",
    "--changed",
    "--passWithNoTests",
    "--project",
    "core",
    "--project",
    "contract",
    "--project",
    "demo",
    "--project",
    "web",
    "--project",
    "pages",
  ],
];

await ensurePackages(console.log);
for (const [name, command, ...args] of STEPS) {
  const from = Date.now();
  const done = spawnSync(bin(command), args, { cwd: ROOT, stdio: "inherit" });
  console.log(`== ${name}: ${done.status === 0 ? "passed" : "failed"} in ${Math.round((Date.now() - from) / 1000)} s`);
  if (done.status !== 0) process.exit(1);
}
