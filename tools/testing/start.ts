// Test support: npm start of this clone in a data folder of its own, ended with the test.

import type { ChildProcess } from "node:child_process";
import { spawn } from "node:child_process";
import { existsSync, readFileSync } from "node:fs";
import { mkdtemp, readFile, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { expect } from "vitest";

export const ROOT = path.resolve(import.meta.dirname, "../..");
const running: ChildProcess[] = [];

export const freshFolder = (): Promise<string> => mkdtemp(path.join(os.tmpdir(), "kr-start-"));

/** Ends what a test left running and removes its folder. */
export async function clearUp(dataDir: string): Promise<void> {
  for (const child of running.splice(0)) if (child.exitCode === null && child.signalCode === null) child.kill("SIGKILL");
  const pid = Number(await readFile(path.join(dataDir, "own/mariadb/mariadbd.pid"), "utf8").catch(() => ""));
  if (pid > 1 && lives(pid)) process.kill(pid, "SIGKILL");
  await rm(dataDir, { recursive: true, force: true });
}

/** A killed process may stay as an entry until its parent looks; without a command line it is gone. */
export const lives = (pid: number, program = "mariadbd"): boolean =>
  existsSync(`/proc/${pid}`) && readFileSync(`/proc/${pid}/cmdline`, "utf8").includes(program);

export interface Started {
  child: ChildProcess;
  output: () => string;
  exit: Promise<number | null>;
  says: (words: RegExp) => Promise<void>;
}

export const start = (dataDir: string, ...args: string[]): Started => tool(dataDir, "tools/start.mjs", "--empty", ...args);

/** Any program of tools/ in this data folder. */
export function tool(dataDir: string, ...args: string[]): Started {
  const child = spawn(process.execPath, args, { cwd: ROOT, env: { ...process.env, DATA_DIR: dataDir, PWD: ROOT } });
  running.push(child);
  let output = "";
  const hear = (chunk: Buffer): void => void (output += chunk.toString());
  child.stdout.on("data", hear);
  child.stderr.on("data", hear);
  const exit = new Promise<number | null>((done) => child.once("exit", (code) => done(code)));
  const says = async (words: RegExp): Promise<void> => {
    for (let i = 0; i < 1700 && !words.test(output); i++) {
      if (child.exitCode !== null) break;
      await new Promise((done) => setTimeout(done, 100));
    }
    expect(output).toMatch(words);
  };
  return { child, output: () => output, exit, says };
}
