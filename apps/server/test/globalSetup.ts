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
    /** Address of the archive worker, built from these sources. */
    archiveWorker: string;
  }
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const dataDir = await mkdtemp(path.join(os.tmpdir(), "keep-rolling-test-"));
  const server = await startDatabase({ dataDir, relaxedFlush: true });
  const scratch = await mkdtemp(path.join(os.tmpdir(), "kr-scratch-"));
  project.provide("scratch", scratch);
  const built = path.join(import.meta.dirname, "../dist/test");
  execFileSync(process.execPath, [path.join(import.meta.dirname, "../../../tools/build.mjs"), "worker", built]);
  project.provide("archiveWorker", pathToFileURL(path.join(built, "archiveWorker.mjs")).href);
  project.provide("database", { socketPath: server.socketPath, user: server.user, password: server.password });
  return async () => {
    await server.stop();
    for (const folder of [dataDir, scratch]) await rm(folder, { recursive: true, force: true });
  };
}
