// Before the tests of the tools: what they start is built.

import { spawnSync } from "node:child_process";
import { ROOT } from "./start.ts";

export default function setup(): void {
  const { status, stderr } = spawnSync(process.execPath, ["tools/build.mjs"], { cwd: ROOT, encoding: "utf8" });
  if (status !== 0) throw new Error(`the build failed: ${stderr}`);
}
