import { spawn } from "node:child_process";
import { existsSync, readFileSync, writeFileSync } from "node:fs";
import { mkdtemp, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { ROOT } from "./testing/start.ts";

const LOCK = path.join(ROOT, ".cache", "test-of-locks.lock");
/** A script of this clone, as whoever installs or builds is one. */
const SCRIPT = path.join(ROOT, ".cache", "test-of-locks.mjs");
let log = "";
let folder = "";
beforeEach(async () => {
  folder = await mkdtemp(path.join(os.tmpdir(), "kr-lock-"));
  log = path.join(folder, "log");
  writeFileSync(log, "");
  writeFileSync(
    SCRIPT,
    `import { appendFileSync } from "node:fs";
    import { alone } from ${JSON.stringify(path.join(ROOT, "tools/lock.mjs"))};
    const [log, name] = process.argv.slice(2);
    await alone("test-of-locks", console.log, async () => {
      appendFileSync(log, "begin " + name + "\\n");
      await new Promise((done) => setTimeout(done, 400));
      appendFileSync(log, "end " + name + "\\n");
    });`,
  );
});
afterEach(async () => {
  await rm(folder, { recursive: true, force: true });
  for (const file of [LOCK, SCRIPT]) await rm(file, { force: true });
});

/** A process of this clone that works for a moment under the lock, and writes when it begins and ends. */
function worker(name: string, cwd = ROOT): { said: () => string; exit: Promise<number | null> } {
  const child = spawn(process.execPath, [path.relative(cwd, SCRIPT), log, name], { cwd });
  let said = "";
  child.stdout.on("data", (chunk: Buffer) => void (said += chunk.toString()));
  return { said: () => said, exit: new Promise((done) => child.once("exit", (code) => done(code))) };
}

describe("what only one process of a clone may do at a time", () => {
  it("is done by one after the other, and whoever waits says for whom", async () => {
    // Begun from wherever.
    const workers = [worker("a"), worker("b", folder), worker("c", os.homedir())];
    expect(await Promise.all(workers.map((w) => w.exit))).toEqual([0, 0, 0]);
    const lines = readFileSync(log, "utf8").trim().split("\n");
    expect(lines).toHaveLength(6);
    for (let i = 0; i < 6; i += 2) expect(lines[i + 1]).toBe(lines[i]?.replace("begin", "end"));
    expect(workers.filter((w) => /Another process of this clone \(\d+\) is at it/.test(w.said()))).not.toEqual([]);
    expect(existsSync(LOCK)).toBe(false);
  });
  it("is not held up by a lock whose process is gone, is another program's, or that says nothing", async () => {
    for (const left of [JSON.stringify({ pid: 2 ** 22 - 3 }), JSON.stringify({ pid: 1 }), "{"]) {
      writeFileSync(LOCK, left);
      const one = worker("a");
      expect(await one.exit).toBe(0);
      expect(one.said()).toBe("");
    }
  });
});
