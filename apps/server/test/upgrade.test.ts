// Benches of earlier versions, as their databases were dumped: opened by this version, with every mark as it was pressed. A dump is never written again.

import { readFile } from "node:fs/promises";
import path from "node:path";
import { gunzipSync } from "node:zlib";
import type { Mark } from "@keep-rolling/core/runs";
import { foldRun } from "@keep-rolling/core/runs";
import { createConnection } from "mysql2/promise";
import { describe, expect, inject, it } from "vitest";
import { targetOfDb } from "../src/db/connection.ts";
import { refreshCaches } from "../src/record/refresh.ts";
import { migrateUp } from "../src/db/migrations.ts";
import { STEPS } from "../src/rooms.ts";
import type { TestBench } from "./bench.ts";
import { allRuns, benches, freshDatabase, presser } from "./bench.ts";

const FIXTURES = path.join(import.meta.dirname, "fixtures");
const open = benches();

interface PressedRun {
  runId: string;
  marks: Mark[];
}

/** A bench on the database as it was dumped, brought up to today by the steps that came since; `killed` after each, done and not written down. */
async function upgraded(name: string, killed: boolean): Promise<TestBench> {
  const db = await freshDatabase();
  const { database } = targetOfDb(db);
  const loader = await createConnection({ ...inject("database"), database, multipleStatements: true });
  await loader.query(gunzipSync(await readFile(path.join(FIXTURES, `${name}.sql.gz`))).toString("utf8"));
  await loader.end();
  const written = new Set((await db<{ name: string }>("schema_step").select("name")).map((r) => r.name));
  for (const [i, step] of killed ? STEPS.entries() : []) {
    if (written.has(step.name)) continue;
    await db.raw(step.up);
    await migrateUp(db, STEPS.slice(0, i + 1));
  }
  const bench = await open({ db });
  await refreshCaches(bench.deps);
  return bench;
}

describe("a bench of an earlier version", () => {
  it.each([
    ["schema-037", "the first one", false],
    ["schema-037", "the first one, killed after every step", true],
    ["schema-041", "with archives and pairing", false],
    ["schema-041", "with archives and pairing, killed after every step", true],
    ["schema-049", "with plans, photos and the Heat room", false],
    ["schema-049", "with plans, photos and the Heat room, killed after every step", true],
  ])("%s, %s: opens with every mark and reading, and goes on", async (name, _, killed) => {
    const bench = await upgraded(name, killed);
    const pressed = JSON.parse(await readFile(path.join(FIXTURES, `${name}.json`), "utf8")) as PressedRun[];
    expect(await bench.db("schema_step").count({ n: "*" }).first()).toEqual({ n: STEPS.length });
    const runs = await allRuns(bench);
    expect(new Set(runs.map((r) => r.run.id))).toEqual(new Set(pressed.map((p) => p.runId)));
    for (const { run, marks } of runs) {
      const wanted = pressed.find((p) => p.runId === run.id)?.marks ?? [];
      expect(marks.map((m) => m.mark)).toEqual(wanted);
      // What lists show is cached anew by today's fold.
      const fold = foldRun(wanted);
      expect([run.status, run.endCause, run.startedMs]).toEqual([fold.state, fold.end?.cause, fold.startMs]);
    }
    expect(await bench.db("reading").count({ n: "*" }).first()).toEqual({ n: 5 });
    const archive = await bench.app.request("http://127.0.0.1/api/archive", { headers: { host: "127.0.0.1" } });
    expect(archive.status).toBe(200);
    await archive.arrayBuffer();
    const setup = foldRun(pressed[0]?.marks ?? []).setup;
    const { press, batch } = presser();
    const reply = await bench.call("POST", "/api/marks", batch(press("start", 5000, setup as never), press("note", 6000, { text: "on" })));
    expect(reply.json).toMatchObject({ outcomes: [{ outcome: "stored" }, { outcome: "stored" }] });
  });
});
