// Locks of this clone: who starts it, who installs, who builds. A lock names its process, so that one left by a kill holds nobody up.

import { linkSync, mkdirSync, readFileSync, readlinkSync, renameSync, rmSync, writeFileSync } from "node:fs";
import path from "node:path";
import { fileURLToPath } from "node:url";
import { SetupError } from "./setupError.mjs";

const ROOT = path.resolve(path.dirname(fileURLToPath(import.meta.url)), "..");
const LOOK_AGAIN_MS = 300;

/** True when the process of a lock still lives and runs a script of this clone, from wherever: a pid alone may belong to anybody by now. */
function runsHere(lock, program) {
  try {
    const args = readFileSync(`/proc/${lock.pid}/cmdline`, "utf8").split("\0");
    const cwd = readlinkSync(`/proc/${lock.pid}/cwd`);
    return args.some((arg) => arg.includes(program)) && args.some((arg) => path.resolve(cwd, arg).startsWith(ROOT + path.sep));
  } catch {
    return false;
  }
}

export function readLock(file) {
  try {
    return JSON.parse(readFileSync(file, "utf8"));
  } catch {
    return null;
  }
}

/**
 * The lock of another that runs, or null when it is ours now. It appears with its content, and a stale one is moved aside before it is judged, so
 * that two in the same moment cannot both take it. `program`: part of the command line of whoever may hold it.
 */
export function takeLock(file, program) {
  const mine = `${file}.${process.pid}`;
  try {
    for (let attempt = 0; attempt < 20; attempt++) {
      try {
        writeFileSync(mine, JSON.stringify({ pid: process.pid }), { mode: 0o600 });
        linkSync(mine, file);
        return null;
      } catch (error) {
        if (error.code !== "EEXIST") throw new SetupError(`Cannot write ${file}: ${error.message}. Nothing was started.`);
        const lock = readLock(file);
        if (lock !== null && runsHere(lock, program)) return lock;
        const aside = `${mine}.stale`;
        try {
          renameSync(file, aside);
          const moved = readLock(aside);
          // Another was quicker: what we moved is its lock.
          if (moved !== null && runsHere(moved, program)) {
            linkSync(aside, file);
            return moved;
          }
        } catch {
          // Gone or taken meanwhile: look again.
        } finally {
          rmSync(aside, { force: true });
        }
      }
    }
  } finally {
    rmSync(mine, { force: true });
  }
  throw new SetupError(`The lock ${file} cannot be taken. Remove it if nothing of this clone is running.`);
}

export const releaseLock = (file) => readLock(file)?.pid === process.pid && rmSync(file, { force: true });

/**
 * Works when no other process of this clone is at the same: two that install, or build, at once leave neither whole.
 * @param what names the lock: "install", "build"
 * @param say is told once when another must be waited for
 */
export async function alone(what, say, work) {
  const file = path.join(ROOT, ".cache", `${what}.lock`);
  mkdirSync(path.dirname(file), { recursive: true });
  let waits = false;
  for (let other = takeLock(file, "node"); other !== null; other = takeLock(file, "node")) {
    if (!waits) say(`Another process of this clone (${other.pid}) is at it (${what}); waiting for it ...`);
    waits = true;
    await new Promise((done) => setTimeout(done, LOOK_AGAIN_MS));
  }
  try {
    return await work();
  } finally {
    releaseLock(file);
  }
}
