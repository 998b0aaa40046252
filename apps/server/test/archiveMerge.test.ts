// Two benches become one by id, in either order, all or nothing.

import type { ImportReport } from "@keep-rolling/contract/data";
import type { RunReply } from "@keep-rolling/contract/runs";
import type { Mark } from "@keep-rolling/core/runs";
import { foldRun } from "@keep-rolling/core/runs";
import { asPng, practiceStart } from "@keep-rolling/demo";
import fc from "fast-check";
import { v7 as uuidv7 } from "uuid";
import { describe, expect, it } from "vitest";
import { bring, conflictsOf, facts, foldsOf, preview, take } from "./archives.ts";
import type { TestBench } from "./bench.ts";
import { benches, presser, testBench } from "./bench.ts";

const bench = benches();

const anyPress = fc.oneof(
  fc.record({ kind: fc.constant("reading" as const), body: fc.record({ gauge: fc.integer({ min: 0, max: 9 }) }) }),
  fc.record({ kind: fc.constant("note" as const), body: fc.record({ text: fc.string({ maxLength: 40, unit: "binary" }) }) }),
  fc.record({ kind: fc.constant("gap" as const), body: fc.constant({ cause: "card swap" as const, power: "on" as const }) }),
  fc.record({ kind: fc.constant("resume" as const), body: fc.constant({}) }),
  fc.record({ kind: fc.constant("undo" as const), body: fc.constant({}) }),
  fc.record({ kind: fc.constant("end" as const), body: fc.constant({ cause: "thermal shutdown" as const }) }),
);
const anyWorkspace = fc.record({
  runs: fc.array(fc.array(anyPress, { maxLength: 6 }), { minLength: 1, maxLength: 3 }),
  names: fc.array(
    fc.string({ minLength: 1, maxLength: 20 }).filter((s) => s.trim() !== ""),
    { maxLength: 3 },
  ),
  readings: fc.uniqueArray(fc.tuple(fc.integer({ min: 0, max: 10_000_000 }), fc.double({ noNaN: true, min: -1e6, max: 1e6 })), {
    selector: (r) => r[0],
    maxLength: 8,
  }),
  blob: fc.uint8Array({ maxLength: 60 }),
  reason: fc.string({ minLength: 3, maxLength: 30 }).filter((s) => s.trim().length > 2),
});
type Made = typeof anyWorkspace extends fc.Arbitrary<infer T> ? T : never;

async function fill(to: TestBench, made: Made): Promise<void> {
  for (const presses of made.runs) {
    const { press, batch, runId } = presser();
    const marks: Mark[] = [press("start", 1000, practiceStart())];
    for (const [i, p] of presses.entries())
      marks.push(press(p.kind, 2000 + 500 * i, p.body as never, p.kind === "undo" ? { target: marks.at(-1)?.id } : {}));
    await to.call("POST", "/api/marks", batch(...marks));
    await to.call("POST", `/api/runs/${runId}/strikes`, { id: uuidv7(), reason: made.reason });
  }
  const model = { id: uuidv7(), archived: false, sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 24 };
  for (const [i, name] of made.names.entries())
    await to.call("PUT", `/api/kit/models/${model.id}`, { ...model, name }, { "if-match": `"${i}"` });
  const { token } = (await to.call("POST", "/api/devices", { id: uuidv7(), unitId: practiceStart().unit.id, name: "probe" })).json as {
    token: string;
  };
  const lines = made.readings.map(([atMs, value]) => ({
    type: "reading",
    atMs,
    channel: "probe-1",
    quantity: "ambient",
    unit: "C",
    value,
  }));
  await to.call(
    "POST",
    "/intake/v1/batches",
    { idempotencyKey: uuidv7(), lines: [...lines, { nonsense: 1 }] },
    { authorization: `Bearer ${token}` },
  );
  const picture = asPng(made.blob);
  const sha256 = await to.deps.media.put(picture);
  await to.db("blob").insert({ sha256, bytes: picture.length, mime: "image/png", received_ms: 5 }).onConflict("sha256").ignore();
}

/** As a set: the order of lines that have no id is the order they came in. */
const asSets = (tables: object): Record<string, string[]> =>
  Object.fromEntries(
    Object.entries(tables).map(([table, lines]) => [
      table,
      (lines as object[])
        .map((line) => JSON.stringify("seq" in line ? { ...line, seq: 0 } : "c" in line || "n" in line ? { ...line, c: 0, n: 0 } : line))
        .sort(),
    ]),
  );

describe("any workspace", () => {
  it("comes back whole, and two merge to the same facts in either order", async () => {
    await fc.assert(
      fc.asyncProperty(anyWorkspace, anyWorkspace, async (one, two) => {
        const [a, b, c] = [await testBench(), await testBench(), await testBench()];
        try {
          await fill(a, one);
          await fill(b, two);
          const [fromA, fromB] = [await take(a), await take(b)];
          await bring(c, fromA);
          expect(await facts(await take(c))).toEqual(await facts(fromA));
          expect((await bring(a, fromB)).status).toBe(200);
          expect((await bring(b, fromA)).status).toBe(200);
          expect(asSets(await facts(await take(a)))).toEqual(asSets(await facts(await take(b))));
          expect(await foldsOf(a)).toEqual(await foldsOf(b));
        } finally {
          await Promise.all([a, b, c].map((x) => x.close()));
        }
      }),
      // The first that fails is told with its seed: to look for a smaller one makes three benches each time.
      { numRuns: process.env.PROOF === "1" ? 20 : 2, endOnFailure: true },
    );
  });
});

describe("a merge", () => {
  it("gives both devices' marks on one run, and the kit's later version with the other in its history", async () => {
    const [a, b] = [await bench(), await bench()];
    const { press, batch, runId } = presser();
    const start = press("start", 1000, practiceStart());
    for (const x of [a, b]) await x.call("POST", "/api/marks", batch(start));
    const phone = presser(runId);
    await a.call("POST", "/api/marks", batch(press("gap", 5000, { cause: "card swap", power: "on" })));
    await b.call("POST", "/api/marks", phone.batch(phone.press("warning", 6000, { phase: "shown" })));
    const { rev: _, ...model } = ((await a.call("GET", "/api/kit")).json as { models: { id: string; rev: number; name: string }[] })
      .models[0] ?? { id: "", rev: 0 };
    await a.call("PUT", `/api/kit/models/${model.id}`, { ...model, name: "Renamed at A" }, { "if-match": '"1"' });
    await new Promise((done) => setTimeout(done, 5));
    await b.call("PUT", `/api/kit/models/${model.id}`, { ...model, name: "Renamed at B" }, { "if-match": '"1"' });
    const look = (await preview(a, await take(b))).json as ImportReport;
    expect(look).toMatchObject({ stored: false, runs: { fresh: 0, grown: 1 }, conflicts: [] });
    expect(look.tables.find((t) => t.table === "marks")).toMatchObject({ add: 1, same: 1, conflict: 0 });
    const fromA = await take(a);
    await bring(a, await take(b));
    await bring(b, fromA);
    expect(await foldsOf(a)).toEqual(await foldsOf(b));
    const fold = foldRun(((await a.call("GET", `/api/runs/${runId}`)).json as RunReply).marks.map((m) => m.mark));
    expect([fold.state, fold.warnings.length]).toEqual(["gap", 1]);
    for (const x of [a, b]) {
      const kit = (await x.call("GET", "/api/kit")).json as { models: { name: string }[] };
      expect(kit.models[0]?.name).toBe("Renamed at B");
      const { versions } = (await x.call("GET", `/api/kit/models/${model.id}/history`)).json as { versions: { doc: { name: string } }[] };
      expect(versions.map((v) => v.doc.name)).toContain("Renamed at A");
    }
  });

  it("takes what was made out of the row here, whatever the row's date: one that came with the app bears the demo's", async () => {
    const [ours, theirs] = [await bench(), await bench()];
    const model = { id: uuidv7(), archived: false, name: "As it came", sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 24 };
    const save = async (to: TestBench, name: string, rev: number): Promise<void> => {
      expect((await to.call("PUT", `/api/kit/models/${model.id}`, { ...model, name }, { "if-match": `"${rev}"` })).status).toBe(200);
    };
    for (const to of [ours, theirs]) {
      await save(to, "As it came", 0);
      await to
        .db("kit_version")
        .where({ entity_id: model.id })
        .update({ saved_ms: Date.UTC(2031, 5, 10) });
    }
    await save(ours, "Changed", 1);
    const name = async (of: TestBench): Promise<string> =>
      of
        .db("camera_model")
        .where({ id: model.id })
        .first<{ name: string }>("name")
        .then((row) => row.name);
    expect((await bring(theirs, await take(ours))).status).toBe(200);
    expect(await name(theirs)).toBe("Changed");
    // And the other way round: what is here and newer is not turned back by an archive that does not know it.
    const before = await take(theirs);
    await save(theirs, "Changed again", 2);
    expect((await bring(theirs, before)).status).toBe(200);
    expect(await name(theirs)).toBe("Changed again");
  });
  it("refuses what contradicts facts here, changing nothing, or keeps it aside when told to", async () => {
    const [a, b] = [await bench(), await bench()];
    const { press, batch, runId } = presser();
    const start = press("start", 1000, practiceStart());
    const note = press("note", 2000, { text: "door closed" });
    await a.call("POST", "/api/marks", batch(start, note));
    await b.call("POST", "/api/marks", batch(start, { ...note, body: { text: "door open" } }));
    const fromB = await take(b);
    const before = await facts(await take(a));
    expect(conflictsOf((await preview(a, fromB)).json)).toEqual([
      { table: "marks", id: note.id, reason: "another mark of the same id is on record" },
    ]);
    expect(await bring(a, fromB)).toMatchObject({ status: 409, json: { code: "archive-conflicts" } });
    expect(await facts(await take(a))).toEqual(before);
    expect((await bring(a, fromB, "set aside")).status).toBe(200);
    const { setAside } = (await a.call("GET", "/api/set-aside")).json as { setAside: { raw: string; code: string }[] };
    expect(setAside).toHaveLength(1);
    expect(setAside[0]?.raw).toContain("door open");
    expect(((await a.call("GET", `/api/runs/${runId}`)).json as { marks: unknown[] }).marks).toHaveLength(2);
  });

  it("sets a simulated clock ahead to where the archive's stood, never back", async () => {
    const [a, b] = [await bench(), await bench()];
    const { clocks } = (await a.call("POST", "/api/clocks/rehearsal/rate", { rate: 1, skipSec: 3000 })).json as {
      clocks: { id: string; segments: { clockMs: number }[] }[];
    };
    const aheadMs = clocks.find((c) => c.id === "rehearsal")?.segments.at(-1)?.clockMs ?? 0;
    await b.call("POST", "/api/clocks/rehearsal/rate", { rate: 1 });
    const readB = async (): Promise<number[]> => {
      const reply = (await b.call("GET", "/api/clocks")).json as typeof clocks extends never ? never : { clocks: typeof clocks };
      return reply.clocks.find((c) => c.id === "rehearsal")?.segments.map((s) => s.clockMs) ?? [];
    };
    const before = await readB();
    await bring(b, await take(a));
    const after = await readB();
    expect(after.slice(0, before.length)).toEqual(before);
    expect(after.at(-1)).toBeGreaterThanOrEqual(aheadMs);
    await bring(a, await take(b));
    const now = (await a.call("GET", "/api/clocks")).json as { clocks: typeof clocks };
    const pieces = now.clocks.find((c) => c.id === "rehearsal")?.segments ?? [];
    expect([...pieces].sort((x, y) => x.clockMs - y.clockMs)).toEqual(pieces);
  });
});
