// Cached columns after an update: made anew from the facts, of runs and of sessions; one that cannot be read keeps nothing else from it.

import { afterAll, beforeAll, describe, expect, it, vi } from "vitest";
import { practiceStart } from "@keep-rolling/demo";
import { v7 as uuidv7 } from "uuid";
import { refreshCaches } from "../src/record/refresh.ts";
import type { TestBench } from "./bench.ts";
import { presser, testBench } from "./bench.ts";

let bench: TestBench;
beforeAll(async () => void (bench = await testBench()));
afterAll(() => bench.close());

async function endedRun(): Promise<string> {
  const run = presser();
  const marks = [run.press("start", 0, practiceStart()), run.press("end", 600_000, { cause: "battery empty" })];
  await bench.call("POST", "/api/marks", run.batch(...marks));
  return run.runId;
}
const age = (table: string, id: string) => bench.db(table).where({ id }).update({ fold_v: 0, status: "none" });
const rowOf = async (table: string, id: string) => (await bench.db(table).where({ id }).first()) as { status: string; fold_v: number };

describe("caches of an older fold", () => {
  it("are made anew, of runs and of sessions, and a second start finds nothing to do", async () => {
    const ids = [await endedRun(), await endedRun()];
    const session = presser();
    const begin = { ...session.press("note", 5, { text: "" }), kind: "begin", sessionId: uuidv7(), runId: undefined };
    const body = { sessionKind: "walk", clockId: "real", place: "towpath", unitIds: [] };
    await bench.call("POST", "/api/marks", session.batch({ ...begin, body }));
    for (const id of ids) await age("run", id);
    await age("session", begin.sessionId);
    expect(await refreshCaches(bench.deps)).toBe(3);
    for (const id of ids) expect(await rowOf("run", id)).toMatchObject({ status: "ended" });
    expect(await rowOf("session", begin.sessionId)).toMatchObject({ status: "open" });
    expect(await refreshCaches(bench.deps)).toBe(0);
  });
  it("stay where a mark can no longer be read, which is logged; all others are renewed", async () => {
    const [before, broken, after] = [await endedRun(), await endedRun(), await endedRun()];
    for (const id of [before, broken, after]) await age("run", id);
    await bench.db("mark").where({ run_id: broken, seq: 2 }).update({ offset_err_ms: -1 });
    const warned = vi.spyOn(bench.deps.log, "warn");
    expect(await refreshCaches(bench.deps)).toBe(2);
    expect(warned).toHaveBeenCalledWith(expect.objectContaining({ runId: broken }), expect.any(String));
    expect(await rowOf("run", before)).toMatchObject({ status: "ended" });
    expect(await rowOf("run", after)).toMatchObject({ status: "ended" });
    expect(await rowOf("run", broken)).toMatchObject({ status: "none", fold_v: 0 });
  });
});
