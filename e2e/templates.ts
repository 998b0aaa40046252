// A bench is made once a run of the specs, empty or with the demo, and each server begins with a copy of it: making one takes longer than most specs.

import { existsSync, mkdirSync } from "node:fs";
import { mkdtemp, rename, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { launchServer } from "../tools/launch.ts";

const FOLDER = "KEEP_ROLLING_TEMPLATES";

/** Before all specs: where the templates lie; removed after them. When all specs run, both are made at once: no test should wait for them. */
export default async function setup(): Promise<() => Promise<void>> {
  const folder = await mkdtemp(path.join(os.tmpdir(), "kr-templates-"));
  process.env[FOLDER] = folder;
  if (process.env.PLAYWRIGHT_JSON_OUTPUT_FILE) await Promise.all([template({ empty: false }), template({ empty: true })]);
  return () => rm(folder, { recursive: true, force: true });
}

/** Data folder of a bench that was made and stopped, to be copied. Whichever worker asks first makes it. */
export async function template({ empty }: { empty: boolean }): Promise<string> {
  const ready = path.join(process.env[FOLDER] ?? "", empty ? "empty" : "demo");
  if (!path.isAbsolute(ready)) throw new Error(`${FOLDER} must name a folder: the specs' setup sets it`);
  try {
    mkdirSync(`${ready}-making`);
  } catch {
    for (let waitedMs = 0; !existsSync(ready); waitedMs += 100) {
      if (waitedMs > 240_000) throw new Error(`no worker has made the bench in ${ready}`);
      await new Promise((done) => setTimeout(done, 100));
    }
    return ready;
  }
  const server = await launchServer({ empty });
  await server.halt();
  await rename(server.dataDir, ready);
  return ready;
}
