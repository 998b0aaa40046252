// The database's disk runs full in the middle of a run: it is said, nothing is half stored, and once there is room everything is taken.

import { execFileSync } from "node:child_process";
import { mkdtemp, rm } from "node:fs/promises";
import os from "node:os";
import path from "node:path";
import type { Mark } from "@keep-rolling/core/runs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { connect } from "../src/db/connection.ts";
import type { DatabaseServer } from "../src/db/mariadb.ts";
import { startDatabase } from "../src/db/mariadb.ts";
import type { TestBench } from "./bench.ts";
import { practiceStart } from "@keep-rolling/demo";
import { presser, testBench } from "./bench.ts";

/** Small files of its own, so that a limit on the size of files bites soon and only where tables grow. */
const SMALL = ["--innodb-log-file-size=4M", "--innodb-data-file-path=ibdata1:12M:autoextend"];
/** A full disk is an error to a write; a limit on sizes would kill as well, if its signal were not ignored. */
const WITHOUT_SIGNAL = ["sh", "-c", 'trap "" XFSZ; exec "$0" "$@"'];
const FULL_BYTES = 14_000_000;

let folder = "";
let server: DatabaseServer;
let bench: TestBench;
beforeAll(async () => {
  folder = await mkdtemp(path.join(os.tmpdir(), "kr-full-"));
  server = await startDatabase({ dataDir: folder, relaxedFlush: false, args: SMALL, through: WITHOUT_SIGNAL });
  const db = connect({ socketPath: server.socketPath, user: server.user, password: server.password, database: server.database });
  bench = await testBench({ db });
});
afterAll(async () => {
  await bench.close();
  await server.stop();
  await rm(folder, { recursive: true, force: true });
});

const limitFiles = (bytes: number | "unlimited"): void =>
  void execFileSync("prlimit", ["--pid", String(server.pid()), `--fsize=${bytes}:unlimited`]);

describe("a full disk", () => {
  it("is answered with 503 and a sentence; nothing is half stored; with room again every mark is taken", async () => {
    const { runId, press, batch } = presser();
    await bench.call("POST", "/api/marks", batch(press("start", 0, practiceStart({ clockId: "real" }))));
    limitFiles(FULL_BYTES);
    const sent: Mark[] = [];
    let refused: Awaited<ReturnType<TestBench["call"]>> | null = null;
    for (let i = 0; i < 60 && refused === null; i++) {
      const marks = Array.from({ length: 100 }, (_, k) => press("note", 1000 * i + k, { text: "x".repeat(3900) }));
      const reply = await bench.call("POST", "/api/marks", batch(...marks));
      sent.push(...marks);
      if (reply.status !== 200) refused = reply;
    }
    expect(refused?.status).toBe(503);
    expect(refused?.headers.get("retry-after")).not.toBeNull();
    expect(refused?.json).toMatchObject({ code: "storage-full" });
    expect((refused?.json as { detail: string }).detail).toContain("disk");
    // A single press, the quick way, is refused alike.
    const single = press("touch", 9_000_000, { feel: "warm" });
    const alone = await bench.call("POST", "/api/marks", batch(single));
    expect([200, 503]).toContain(alone.status);
    limitFiles("unlimited");
    for (let i = 0; i < sent.length; i += 100) {
      const again = await bench.call("POST", "/api/marks", batch(...sent.slice(i, i + 100)));
      expect(again.status).toBe(200);
    }
    expect((await bench.call("POST", "/api/marks", batch(single))).status).toBe(200);
    const { marks } = (await bench.call("GET", `/api/runs/${runId}/marks`)).json as { marks: { seq: number; mark: { id: string } }[] };
    expect(new Set(marks.map((m) => m.mark.id))).toEqual(new Set([...sent, single].map((m) => m.id).concat(marks[0]?.mark.id ?? "")));
    expect(marks.map((m) => m.seq)).toEqual(marks.map((_, i) => i + 1));
  });
});
