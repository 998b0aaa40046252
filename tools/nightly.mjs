// A copy every night while it runs, by the backup's own program, the last seven kept: made at three, or when the computer is next awake.

import { spawn } from "node:child_process";
import { mkdirSync, readdirSync, rmSync } from "node:fs";
import path from "node:path";

const HOUR = 3;
export const KEPT = 7;
const LOOK_MS = 10 * 60_000;

const dayOf = (now) => [now.getFullYear(), now.getMonth() + 1, now.getDate()].map((n) => String(n).padStart(2, "0")).join("-");
export const copyName = (bench, day) => `${bench}-night-${day}.tar`;
const isCopy = (bench, name) => name.startsWith(`${bench}-night-`) && /-night-\d{4}-\d\d-\d\d\.tar$/.test(name);

/** The file to make now, or null: before three, or made already. `names`: what the folder holds. */
export function dueCopy(now, bench, names) {
  const name = copyName(bench, dayOf(now));
  return now.getHours() < HOUR || names.includes(name) ? null : name;
}

/** What goes once a new copy stands: the oldest beyond seven of this bench, nothing else in the folder. */
export const outdated = (bench, names) =>
  names
    .filter((n) => isCopy(bench, n))
    .sort()
    .slice(0, -KEPT);

/** Looks every ten minutes; a failure is said, and tried again at the next look. Returns its end. */
export function nightlyCopies({ folder, bench, backup, env, say, now = () => new Date(), lookMs = LOOK_MS }) {
  let child = null;
  const look = () => {
    if (child !== null) return;
    let name;
    try {
      mkdirSync(folder, { recursive: true, mode: 0o700 });
      name = dueCopy(now(), bench, readdirSync(folder));
    } catch (error) {
      return say(`The nightly copy cannot be made: ${error.message}. It is tried again.`);
    }
    if (name === null) return;
    // What a copy killed half-way left would stand in the way of every later try of this night.
    rmSync(path.join(folder, `${name}.parts`), { recursive: true, force: true });
    const args = [backup, "backup", ...(bench === "own" ? ["--empty"] : []), path.join(folder, name)];
    child = spawn(process.execPath, args, { env, stdio: ["ignore", "ignore", "inherit"] });
    child.once("error", () => undefined);
    child.once("exit", (code) => {
      child = null;
      if (code !== 0) return say("The nightly copy failed. It is tried again in ten minutes; copies of other nights are untouched.");
      for (const old of outdated(bench, readdirSync(folder)))
        for (const file of [old, `${old}.sha256`]) rmSync(path.join(folder, file), { force: true });
      say(`Copied the bench into ${path.join(folder, name)}.`);
    });
  };
  const timer = setInterval(look, lookMs);
  timer.unref();
  look();
  return () => {
    clearInterval(timer);
    child?.kill();
  };
}
