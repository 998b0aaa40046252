// The archive: what leaves comes back whole, two workspaces merge by id, and nothing half-read ever changes anything.

import { readdir } from "node:fs/promises";
import type { ImportReport } from "@keep-rolling/contract/data";
import type { RunReply } from "@keep-rolling/contract/runs";
import type { Mark } from "@keep-rolling/core/runs";
import { foldRun } from "@keep-rolling/core/runs";
import { longDay } from "@keep-rolling/demo";
import fc from "fast-check";
import { strToU8, unzipSync, zipSync } from "fflate";
import { v7 as uuidv7 } from "uuid";
import { afterAll, describe, expect, it } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
import type { TestBench } from "./bench.ts";
import { practiceStart } from "@keep-rolling/demo";
import { allRuns, presser, testBench } from "./bench.ts";
import type { WholeArchive } from "./wholeArchive.ts";
import { readWhole } from "./wholeArchive.ts";

const opened: TestBench[] = [];
const bench = async (options: Parameters<typeof testBench>[0] = {}): Promise<TestBench> => {
  const made = await testBench(options);
  opened.push(made);
  return made;
};
afterAll(() => Promise.all(opened.map((b) => b.close())));

async function take(from: TestBench): Promise<Uint8Array> {
  const reply = await from.app.request("http://127.0.0.1/api/archive", { headers: { host: "127.0.0.1" } });
  expect(reply.status).toBe(200);
  return new Uint8Array(await reply.arrayBuffer());
}
async function send(to: TestBench, where: string, bytes: Uint8Array): Promise<{ status: number; json: unknown }> {
  const reply = await to.app.request(`http://127.0.0.1${where}`, {
    method: "POST",
    headers: { host: "127.0.0.1", origin: "http://127.0.0.1", "content-type": "application/zip" },
    body: new Uint8Array(bytes),
  });
  return { status: reply.status, json: await reply.json() };
}
const preview = (to: TestBench, bytes: Uint8Array) => send(to, "/api/archive/preview", bytes);
const bring = (to: TestBench, bytes: Uint8Array, conflicts = "refuse") =>
  send(to, `/api/archive/import?sha256=${sha256Of(bytes)}&conflicts=${encodeURIComponent(conflicts)}`, bytes);

/** Every fact of a workspace; clocks of a simulated bench run on by themselves and are compared apart. */
const facts = async (bytes: Uint8Array): Promise<Omit<WholeArchive["tables"], "clocks"> & { blobs: unknown }> => {
  const { tables } = await readWhole(bytes);
  const { clocks: _, ...rest } = tables;
  return rest;
};
const deliver = (to: TestBench, marks: readonly Mark[]) =>
  to.call("POST", "/api/marks", { deviceId: marks[0]?.deviceId, sentDeviceMs: 0, offsetMs: marks[0]?.offsetMs ?? 0, marks });
const foldsOf = async (of: TestBench): Promise<Map<string, unknown>> => {
  const runs = await allRuns(of);
  return new Map(runs.map((r) => [r.run.id, { row: r.run, fold: foldRun(r.marks.map((m) => m.mark)) }]));
};
const conflictsOf = (json: unknown): ImportReport["conflicts"] => (json as ImportReport).conflicts;

describe("the archive of a long made day", () => {
  it("opens in an empty workspace with identical folds, and leaves it as it came", async () => {
    const day = longDay();
    const from = await bench({ demo: true });
    for (let i = 0; i < day.deliveries.length; ) {
      const device = day.deliveries[i]?.deviceId;
      const next = day.deliveries.findIndex((m, k) => k > i && m.deviceId !== device);
      const until = Math.min(next === -1 ? day.deliveries.length : next, i + 500);
      const reply = await deliver(from, day.deliveries.slice(i, until));
      expect((reply.json as { outcomes: { outcome: string }[] }).outcomes.every((o) => o.outcome === "stored")).toBe(true);
      i = until;
    }
    for (const bytes of day.blobs) {
      await from
        .db("blob")
        .insert({ sha256: await from.deps.media.put(bytes), bytes: bytes.length, mime: "application/octet-stream", received_ms: 1 });
    }
    const archive = await take(from);
    const to = await bench();
    const report = (await bring(to, archive)).json as ImportReport;
    expect(report.stored).toBe(true);
    expect(report.conflicts).toEqual([]);
    expect(report.runs.fresh).toBeGreaterThanOrEqual(day.runIds.length);
    const [before, after] = [await foldsOf(from), await foldsOf(to)];
    expect(after.size).toBe(before.size);
    for (const id of day.runIds) expect(before.has(id)).toBe(true);
    expect(after).toEqual(before);
    const again = await take(to);
    expect(await facts(again)).toEqual(await facts(archive));
    for (const bytes of day.blobs) expect(await to.deps.media.read(sha256Of(bytes))).toEqual(Buffer.from(bytes));
    const second = (await bring(to, archive)).json as ImportReport;
    expect(second.tables.map((t) => [t.table, t.add])).toEqual(second.tables.map((t) => [t.table, 0]));
    const limits = (bench: TestBench) => bench.call("GET", "/api/limits").then((r) => r.json);
    expect(await limits(to)).toEqual(await limits(from));

    // Runs begin and roll while all this comes in elsewhere: they wait for none of it.
    const busy = await bench();
    const fromMs = Date.now();
    let over = false;
    const merging = preview(busy, archive).finally(() => (over = true));
    const waitsMs: number[] = [];
    while (!over) {
      const { press, batch } = presser();
      const sentMs = Date.now();
      const reply = await busy.call("POST", "/api/marks", batch(press("start", 0, practiceStart()), press("note", 1, { text: "on" })));
      waitsMs.push(Date.now() - sentMs);
      expect(reply.json).toMatchObject({ outcomes: [{ outcome: "stored" }, { outcome: "stored" }] });
      await new Promise((next) => setTimeout(next, 20));
    }
    expect(Math.max(...waitsMs)).toBeLessThan((Date.now() - fromMs) / 5);
    expect((await merging).status).toBe(200);
  });

  it("has twins for people: one line a run, times in seconds, and no cell that a spreadsheet would run", async () => {
    const from = await bench();
    const { press, batch } = presser();
    await from.call(
      "POST",
      "/api/marks",
      batch(press("start", 0, practiceStart()), press("note", 5000, { text: "=cmd()" }), press("end", 900_500, { cause: "card full" })),
    );
    const files = unzipSync(await take(from));
    const read = (name: string): string => Buffer.from(files[name] ?? new Uint8Array()).toString();
    const [head, run] = read("csv/runs.csv").split("\r\n");
    expect(head).toContain("recorded s, at least");
    expect(run).toContain(",900.5,900.5,900.5,0,card full,900.5,0,ended otherwise");
    expect(read("csv/marks.csv")).toContain(`"'=cmd()"`);
    expect(read("README.txt")).toContain("archive format 1");
  });

  it("carries no secret", async () => {
    const from = await bench({ passphrase: "long enough words" });
    await from.db("device").insert({ id: uuidv7(), kind: "sensor", name: "probe", unit_id: uuidv7(), token_hash: "f".repeat(64) });
    const secret = (await from.db<{ secret: string }>("workspace").first("secret"))?.secret ?? "";
    const open = await from.call("POST", "/api/session", { passphrase: "long enough words" });
    const cookie = open.headers.get("set-cookie")?.split(";")[0] ?? "";
    const reply = await from.app.request("http://127.0.0.1/api/archive", { headers: { host: "127.0.0.1", cookie } });
    const all = Object.values(unzipSync(new Uint8Array(await reply.arrayBuffer())))
      .map((f) => Buffer.from(f).toString())
      .join("\n");
    expect(all).toContain("probe");
    expect(all).not.toContain("f".repeat(64));
    expect(secret).toHaveLength(64);
    expect(all).not.toContain(secret);
  });
});

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
  const sha256 = await to.deps.media.put(made.blob);
  await to.db("blob").insert({ sha256, bytes: made.blob.length, mime: "text/plain", received_ms: 5 }).onConflict("sha256").ignore();
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
      { numRuns: 6 },
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

let smallBench: Promise<TestBench> | undefined;
const small = (): Promise<TestBench> => (smallBench ??= bench());

describe("a file that is no whole archive", () => {
  const refused = async (bytes: Uint8Array, words: RegExp): Promise<void> => {
    const to = await small();
    for (const where of ["/api/archive/preview", `/api/archive/import?sha256=${sha256Of(bytes)}`]) {
      const reply = await send(to, where, bytes);
      expect(reply).toMatchObject({ status: 422, json: { code: "bad-archive" } });
      expect((reply.json as { detail: string }).detail).toMatch(words);
    }
  };
  const remade = async (change: (files: Record<string, Uint8Array>) => void): Promise<Uint8Array> => {
    const files = { ...unzipSync(await take(await small())) };
    change(files);
    return zipSync(files, { level: 0 });
  };
  /** Changes a table and its checksum, as somebody would who edits an archive by hand. */
  const edited = (table: string, text: string) =>
    remade((files) => {
      const name = `tables/${table}.jsonl`;
      files[name] = strToU8(text);
      const manifest = JSON.parse(Buffer.from(files["manifest.json"] ?? []).toString()) as WholeArchive["manifest"];
      for (const f of manifest.files)
        if (f.name === name) Object.assign(f, { sha256: sha256Of(strToU8(text)), bytes: strToU8(text).length });
      files["manifest.json"] = strToU8(JSON.stringify(manifest));
    });

  it("is refused with a sentence, whatever is wrong with it", async () => {
    const whole = await take(await small());
    await refused(strToU8("hello"), /not a whole zip/);
    await refused(new Uint8Array(0), /not a whole zip/);
    await refused(whole.slice(0, whole.length - 40), /not a whole zip/);
    await refused(zipSync({ "readme.md": strToU8("x") }), /has no place in an archive: readme\.md/);
    await refused(await remade((f) => (f["../../evil"] = strToU8("x"))), /has no place in an archive/);
    await refused(await remade((f) => delete f["manifest.json"]), /no manifest\.json/);
    await refused(await remade((f) => delete f["tables/kit.jsonl"]), /tables\/kit\.jsonl is missing/);
    await refused(await remade((f) => (f["tables/kit.jsonl"] = strToU8("{}\n"))), /checksum does not fit/);
    await refused(await remade((f) => (f["manifest.json"] = strToU8('{"formatVersion":2}'))), /format 2; this program reads up to 1/);
    await refused(await edited("strikes", '{"id":1}\n'), /strikes\.jsonl, line 1: id/);
    await refused(await edited("strikes", '{"id"'), /middle of a line/);
    await refused(await edited("readings", '{"c":99,"t":1,"v":1}\n'), /channel 99/);
    await refused(zipSync({ "tables/marks.jsonl": new Uint8Array(30_000_000) }), /unpacks to far more/);
  });
  it("is refused when a damaged byte got in anywhere", async () => {
    const whole = await take(await small());
    const before = await facts(whole);
    await fc.assert(
      fc.asyncProperty(fc.nat(), fc.integer({ min: 1, max: 255 }), async (at, flip) => {
        const damaged = whole.slice();
        damaged[at % damaged.length] = (damaged[at % damaged.length] ?? 0) ^ flip;
        const read = await readWhole(damaged).then(
          async (archive) => {
            const { clocks: _, ...rest } = archive.tables;
            return rest;
          },
          () => "refused",
        );
        // A byte that carries nothing (a date in the directory, say) may change; a fact may not.
        if (read !== "refused") expect(read).toEqual(before);
      }),
      { numRuns: 60 },
    );
  });
  it("ends with the one who asked for it, and leaves nothing behind", async () => {
    const to = await bench({ demo: true });
    const leaving = new AbortController();
    const asked = to.app.request("http://127.0.0.1/api/archive", { headers: { host: "127.0.0.1" }, signal: leaving.signal });
    await new Promise((next) => setTimeout(next, 30));
    leaving.abort();
    expect((await asked).status).toBe(409);
    expect(await readdir(to.deps.spool)).toEqual([]);
    expect(Object.keys((await facts(await take(to))).marks)).not.toHaveLength(0);
    expect(await readdir(to.deps.spool)).toEqual([]);
  });
  it("goes through one thread, which is kept from job to job and listened to once", async () => {
    const warnings: string[] = [];
    const note = (warning: Error): void => void warnings.push(warning.message);
    process.on("warning", note);
    for (let i = 0; i < 14; i++) await take(await small());
    await new Promise((next) => setImmediate(next));
    process.off("warning", note);
    expect(warnings).toEqual([]);
  });
  it("must be the file that was looked at", async () => {
    const to = await small();
    const whole = await take(to);
    expect(await send(to, `/api/archive/import?sha256=${"0".repeat(64)}`, whole)).toMatchObject({
      status: 409,
      json: { code: "changed-meanwhile" },
    });
    expect(await send(to, "/api/archive/import", whole)).toMatchObject({ status: 422 });
  });
});
