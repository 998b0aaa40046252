// The supervisor on scripts that die as they are told, and the nightly copies' calendar.

import { mkdir, mkdtemp, readdir, rm, writeFile } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import { afterEach, beforeEach, describe, expect, it, vi } from "vitest";
import { dueCopy, KEPT, nightlyCopies, outdated } from "./nightly.mjs";
import { supervise } from "./supervise.mjs";

let folder = "";
beforeEach(async () => {
  folder = await mkdtemp(path.join(os.tmpdir(), "kr-supervise-"));
});
afterEach(() => rm(folder, { recursive: true, force: true }));
const script = async (text: string): Promise<string> => {
  const file = path.join(folder, "server.mjs");
  await writeFile(file, text);
  return file;
};

describe("a server that dies", () => {
  it("is started again after ever longer pauses, and its own stop is the end", async () => {
    const said: string[] = [];
    const up: number[] = [];
    // Dies three times after it stood, then stops in order.
    const file = await script(`
      import { appendFileSync, readFileSync } from "node:fs";
      appendFileSync(new URL("times", import.meta.url), "x");
      process.send({ address: "here" }, () => process.exit(readFileSync(new URL("times", import.meta.url), "utf8").length > 3 ? 0 : 7));`);
    const onUp = ({ pid }: { pid: number }): void => void up.push(pid);
    const before = Date.now();
    expect(await supervise({ script: file, env: process.env, onUp, say: (line: string) => said.push(line), firstPauseMs: 100 })).toBe(0);
    expect(new Set(up).size).toBe(4);
    expect(said).toHaveLength(3);
    expect(said[0]).toContain("ended unexpectedly (code 7). Nothing saved is lost");
    // 100, 200 and 400 ms.
    expect(Date.now() - before).toBeGreaterThan(700);
  });
  it("before it ever stood is not: its own sentence says what is wrong", async () => {
    const said: string[] = [];
    const file = await script("process.exit(1);");
    expect(await supervise({ script: file, env: process.env, onUp: () => undefined, say: (line: string) => said.push(line) })).toBe(1);
    expect(said).toEqual([]);
  });
});

describe("a copy every night", () => {
  const at = (day: number, hour: number): Date => new Date(2026, 10, day, hour, 10);
  it("is due once from three o'clock on, of each bench by itself", () => {
    expect(dueCopy(at(28, 2), "own", [])).toBeNull();
    expect(dueCopy(at(28, 3), "own", [])).toBe("own-night-2026-11-28.tar");
    expect(dueCopy(at(28, 15), "own", ["own-night-2026-11-28.tar"])).toBeNull();
    expect(dueCopy(at(28, 15), "own", ["demo-night-2026-11-28.tar", "own-night-2026-11-27.tar"])).toBe("own-night-2026-11-28.tar");
  });
  it("keeps the last seven, and touches nothing else in the folder", () => {
    const names = Array.from({ length: 10 }, (_, i) => `own-night-2026-11-${10 + i}.tar`);
    const others = ["own-night-2026-11-01.tar.sha256", "own-2026-11-01.tar", "demo-night-2020-01-01.tar", "letters.txt"];
    expect(outdated("own", [...names, ...others])).toEqual(names.slice(0, names.length - KEPT));
    expect(outdated("own", names.slice(0, 7))).toEqual([]);
  });
  it("is made by the backup's program; a failed one is said, removes nothing, and is tried again", async () => {
    const copies = path.join(folder, "copies");
    await mkdir(path.join(copies, "own-night-2026-11-01.tar.parts"), { recursive: true });
    const backup = await script(`
      import { existsSync, writeFileSync } from "node:fs";
      const failed = new URL("failed", import.meta.url);
      if (!existsSync(failed)) { writeFileSync(failed, ""); process.exit(1); }
      if (existsSync(process.argv[4] + ".parts")) process.exit(1);
      if (process.argv[2] !== "backup" || process.argv[3] !== "--empty") process.exit(1);
      writeFileSync(process.argv[4], "copy");
      writeFileSync(process.argv[4] + ".sha256", "sum");`);
    const said: string[] = [];
    let day = 1;
    const now = (): Date => at(day, 4);
    const end = nightlyCopies({
      folder: copies,
      bench: "own",
      backup,
      env: process.env,
      say: (line: string) => said.push(line),
      now,
      lookMs: 20,
    });
    try {
      await vi.waitFor(() => expect(said.join(" ")).toContain("own-night-2026-11-01.tar"), { timeout: 20_000 });
      expect(said[0]).toContain("failed. It is tried again");
      for (day = 2; day <= 9; day++) {
        const name = `own-night-2026-11-0${day}.tar`;
        await vi.waitFor(() => expect(said.at(-1)).toContain(name), { timeout: 20_000 });
      }
      const kept = (await readdir(copies)).sort();
      expect(kept).toHaveLength(2 * KEPT);
      expect(kept[0]).toBe("own-night-2026-11-03.tar");
    } finally {
      end();
    }
  });
});
