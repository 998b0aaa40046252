// One private MariaDB per test run, in a temporary folder; the tests make a database each.

import { mkdtemp, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import type { TestProject } from "vitest/node";
import { startDatabase } from "../src/db/mariadb.ts";

declare module "vitest" {
  interface ProvidedContext {
    database: { socketPath: string; user: string; password: string };
  }
}

export default async function setup(project: TestProject): Promise<() => Promise<void>> {
  const dataDir = await mkdtemp(path.join(os.tmpdir(), "keep-rolling-test-"));
  const server = await startDatabase({ dataDir, relaxedFlush: true });
  project.provide("database", { socketPath: server.socketPath, user: server.user, password: server.password });
  return async () => {
    await server.stop();
    await rm(dataDir, { recursive: true, force: true });
  };
}
