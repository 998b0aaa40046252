// Files that are no whole archive, and the thread that opens them: nothing half-read ever changes anything.

import { readdir } from "node:fs/promises";
import fc from "fast-check";
import { strToU8, unzipSync, zipSync } from "fflate";
import { describe, expect, it } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
import { rowsOf } from "../src/rooms/data/index.ts";
import { facts, send, take } from "./archives.ts";
import type { TestBench } from "./bench.ts";
import { benches } from "./bench.ts";
import type { WholeArchive } from "./wholeArchive.ts";
import { readWhole } from "./wholeArchive.ts";

const bench = benches();

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

describe("rows that cannot be written", () => {
  it("are named in the archive's own list, whole, and stop neither the truth nor the export", async () => {
    const from = await bench();
    const id = "01900000-0000-7000-8000-00000000abcd";
    // What no schema of today would let in: a time after the end of all dates.
    await from
      .db("unit_event")
      .insert({ id, unit_id: id, at_ms: 8_800_000_000_000_000, kind: "fault", body: JSON.stringify({ text: "kept" }) });
    const { manifest, tables } = await readWhole(await take(from));
    expect(manifest.problems).toHaveLength(1);
    expect(manifest.problems?.[0]).toContain(id);
    expect(manifest.problems?.[0]).toContain("kept");
    expect(tables.unitEvents).toEqual([]);
    expect(tables.kit.length).toBeGreaterThan(0);
  });
  it("leave their name behind in the CSV", () => {
    const problems: string[] = [];
    const row = (n: number): string[] => {
      if (n === 2) throw new RangeError("Invalid time value");
      return [String(n), "whole"];
    };
    expect(rowsOf([1, 2, 3], row, (n) => `Line ${n}`, problems)).toEqual([["1", "whole"], ["Line 2"], ["3", "whole"]]);
    expect(problems).toEqual(["Line 2 cannot be written as CSV: Invalid time value"]);
  });
});
