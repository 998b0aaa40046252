// One private MariaDB per test run, in a temporary folder; the tests make a database each.

import { execFileSync } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { pathToFileURL } from "node:url";
import type { TestProject } from "vitest/node";
import { startDatabase } from "../src/db/mariadb.ts";

declare module "vitest" {
  interface ProvidedContext {
    database: { socketPath: string; user: string; password: string };
    /** For files of benches: removed with everything in it when the run is over. */
    scratch: string;
    /** Address of the folder of threads' scripts, built from these sources. */
    workers: string;
  }
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const dataDir = await mkdtemp(path.join(os.tmpdir(), "keep-rolling-test-"));
  const server = await startDatabase({ dataDir, relaxedFlush: true });
  const scratch = await mkdtemp(path.join(os.tmpdir(), "kr-scratch-"));
  project.provide("scratch", scratch);
  const built = path.join(import.meta.dirname, "../dist/test");
  execFileSync(process.execPath, [path.join(import.meta.dirname, "../../../tools/build.mjs"), "workers", built]);
  project.provide("workers", `${pathToFileURL(built).href}/`);
  project.provide("database", { socketPath: server.socketPath, user: server.user, password: server.password });
  return async () => {
    await server.stop();
    for (const folder of [dataDir, scratch]) await rm(folder, { recursive: true, force: true });
  };
}
