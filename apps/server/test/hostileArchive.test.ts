// Archives and run files that somebody made to do harm, and own archives with anything in them changed: every one is refused or previewed with a sentence,
// nothing is stored that was not shown, and others are served meanwhile.

import { asPng, practiceStart } from "@keep-rolling/demo";
import { randomFrom } from "@keep-rolling/core/statistics";
import type { ImportReport } from "@keep-rolling/contract/data";
import { strFromU8, strToU8, unzipSync, zipSync } from "fflate";
import { v7 as uuidv7 } from "uuid";
import { beforeAll, describe, expect, it } from "vitest";
import { sha256Of } from "../src/media/folder.ts";
import { bring, facts, preview, take } from "./archives.ts";
import type { TestBench } from "./bench.ts";
import { benches, presser } from "./bench.ts";
import type { WholeArchive } from "./wholeArchive.ts";

const WHOLE = process.env.PROOF === "1";
const bench = benches();
type Files = Record<string, Uint8Array>;

/** With its manifest made to fit whatever was changed. */
function packed(files: Files): Uint8Array {
  const manifest = JSON.parse(strFromU8(files["manifest.json"] ?? new Uint8Array())) as WholeArchive["manifest"];
  const names = Object.keys(files).filter((name) => name !== "manifest.json");
  manifest.files = names.map((name) => ({ name, sha256: sha256Of(files[name] as Uint8Array), bytes: (files[name] as Uint8Array).length }));
  return zipSync({ ...files, "manifest.json": strToU8(JSON.stringify(manifest)) }, { level: 0 });
}
const linesOf = (files: Files, table: string): Record<string, unknown>[] =>
  strFromU8(files[`tables/${table}.jsonl`] ?? new Uint8Array())
    .split("\n")
    .filter(Boolean)
    .map((line) => JSON.parse(line) as Record<string, unknown>);
const withLines = (files: Files, table: string, lines: readonly unknown[]): Files => ({
  ...files,
  [`tables/${table}.jsonl`]: strToU8(lines.map((l) => `${JSON.stringify(l)}\n`).join("")),
});

let files: Files = {};
let from: TestBench;
beforeAll(async () => {
  from = await bench();
  const { press, batch } = presser();
  await from.call(
    "POST",
    "/api/marks",
    batch(press("start", 1000, practiceStart()), press("end", 3_000_000, { cause: "thermal shutdown" })),
  );
  const model = { id: uuidv7(), archived: false, name: "Ours", sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 24 };
  await from.call("PUT", `/api/kit/models/${model.id}`, model, { "if-match": '"0"' });
  const picture = asPng(strToU8("pixels"));
  await from.db("blob").insert({ sha256: await from.deps.media.put(picture), bytes: picture.length, mime: "image/png", received_ms: 1 });
  files = unzipSync(await take(from));
});
const reportOf = async (to: TestBench, changed: Files): Promise<ImportReport> => {
  const reply = await preview(to, packed(changed));
  expect(reply.status).toBe(200);
  return reply.json as ImportReport;
};

describe("a hostile archive", () => {
  it("with a page for a picture stores no page: what it is says its content", async () => {
    const to = await bench();
    const page = strToU8("<script>fetch('/api/kit')</script>");
    const sha256 = sha256Of(page);
    const changed = withLines({ ...files, [`blobs/${sha256}`]: page }, "blobs", [
      ...linesOf(files, "blobs"),
      { sha256, bytes: page.length, mime: "text/html" },
    ]);
    expect((await reportOf(to, changed)).notes.join(" ")).toContain("neither a picture nor a path");
    expect((await bring(to, packed(changed))).status).toBe(200);
    expect((await to.call("GET", `/api/photos/${sha256}`)).status).toBe(404);
    expect(await to.db("blob").select("mime")).toEqual([{ mime: "image/png" }]);
    expect(await to.deps.media.read(sha256)).toBeNull();
  });
  it("with clocks of its own moves none of ours unseen, and the real one never", async () => {
    const to = await bench();
    const clock = (id: string, kind: string, nowMs: number) => ({ id, kind, wantedRate: 1, segments: [], nowMs });
    const now = to.deps.now();
    const changed = withLines(files, "clocks", [
      clock("real", "rehearsal", now + 1e10),
      clock("mine", "rehearsal", now),
      clock("rehearsal", "rehearsal", 8_640_000_000_000),
    ]);
    const report = await reportOf(to, changed);
    expect(report.conflicts.map((c) => c.id).sort()).toEqual(["mine", "real", "rehearsal"]);
    expect((await bring(to, packed(changed), "set aside")).status).toBe(200);
    expect(await to.db("clock_segment").where({ clock_id: "real" }).count({ n: "*" }).first()).toEqual({ n: 0 });
    // It can still be taken out.
    expect((await facts(await take(to))) !== null).toBe(true);
    const ahead = withLines(files, "clocks", [clock("rehearsal", "rehearsal", now + 86_400_000)]);
    expect((await reportOf(to, ahead)).notes.join(" ")).toMatch(/The clock of the rehearsal bench (begins|is set ahead)/);
  });
  it("with a limit that is none takes no page with it", async () => {
    const to = await bench();
    const line = {
      id: uuidv7(),
      unitId: uuidv7(),
      anyFirmwareSha: "0".repeat(64),
      recordedAtMs: 1,
      doc: {},
      evidenceSha: "0".repeat(64),
      supersedes: null,
    };
    const report = await reportOf(to, withLines(files, "limits", [line]));
    expect(report.conflicts).toMatchObject([{ table: "limits", reason: "its content is no recorded limit" }]);
    // One that a former version let in is left out of the list, not the list.
    await to.db("statement").insert({
      id: line.id,
      unit_id: line.unitId,
      any_firmware_sha: line.anyFirmwareSha,
      recorded_at_ms: 1,
      doc: "{}",
      evidence_sha: line.evidenceSha,
    });
    expect((await to.call("GET", "/api/limits")).json).toEqual({ limits: [] });
  });
  it("with kit rows of tomorrow replaces none of ours, and with later ones tells each", async () => {
    const to = await bench();
    expect((await bring(to, packed(files))).status).toBe(200);
    const row = linesOf(files, "kit").find((l) => (l.doc as { name?: string }).name === "Ours");
    const renamed = (savedAtMs: number) =>
      withLines(files, "kit", [
        ...linesOf(files, "kit"),
        { ...row, rev: 99, savedAtMs, doc: { ...(row?.doc as object), name: "Hijacked" } },
      ]);
    const names = async (): Promise<unknown[]> => (await to.db("camera_model").where({ id: row?.id }).select("name")) as unknown[];
    const before = await names();
    expect((await reportOf(to, renamed(8e12))).notes.join(" ")).toContain("the version here stays");
    expect((await bring(to, packed(renamed(8e12)))).status).toBe(200);
    expect(await names()).toEqual(before);
    expect((await reportOf(to, renamed(to.deps.now() + 1000))).notes.join(" ")).toContain("is replaced by the archive's later version");
  });
  it.runIf(WHOLE)("is told from one of ours that packs well: a large plan saved over and over comes in again", async () => {
    const busy = await bench();
    // Ids that are the same in every run of this test: how well it packs must not hang on chance.
    const id = (n: number): string => `01900000-0000-7000-8000-${String(n).padStart(12, "0")}`;
    const cell = (_: unknown, n: number) => ({
      id: id(n),
      unitId: id(1000),
      modeId: id(2000 + n),
      conditionId: id(3000 + n),
      protocolId: id(4000),
      trials: 3,
      skip: null,
    });
    const plan = { id: uuidv7(), archived: false, name: "P", bench: "real", cells: Array.from({ length: 90 }, cell) };
    expect((await busy.call("PUT", `/api/kit/plans/${plan.id}`, plan, { "if-match": '"0"' })).status).toBe(200);
    const versions = Array.from({ length: 400 }, (_, i) => ({
      entity: "plans",
      entity_id: plan.id,
      rev: i + 2,
      doc: JSON.stringify({ ...plan, name: `P ${i}` }),
      saved_ms: busy.deps.now() - 1000 + i,
    }));
    await busy.db.batchInsert("kit_version", versions, 50);
    const own = await take(busy);
    expect(Math.max(...Object.values(unzipSync(own)).map((file) => file.length / zipSync({ file }).length))).toBeGreaterThan(100);
    const reply = await preview(await bench(), own);
    expect(reply.status).toBe(200);
    expect((reply.json as ImportReport).tables.find((t) => t.table === "kit")?.add).toBeGreaterThanOrEqual(401);
  });
  it("with anything in it changed at random: refused or previewed, never an error; stored, it can be taken out again", async () => {
    const to = await bench();
    const random = randomFrom(20_261_127);
    const tables = Object.keys(files).filter((n) => n.startsWith("tables/") && (files[n]?.length ?? 0) > 0);
    const odd = [null, "", 1e308, -1, "\ud83d", "x".repeat(5000), [], {}, true, "2026", 8_640_000_000_001, "\u0000", [[[[]]]]];
    const pick = <T>(list: readonly T[]): T => list[random.int(0, list.length - 1)] as T;
    const mutate = (value: unknown): unknown => {
      if (typeof value !== "object" || value === null || random.next() < 0.15) return pick(odd);
      const copy: Record<string, unknown> = Array.isArray(value)
        ? ([...(value as unknown[])] as never)
        : { ...(value as Record<string, unknown>) };
      const key = pick(Object.keys(copy));
      if (key === undefined) return pick(odd);
      if (random.next() < 0.1) delete copy[key];
      else copy[key] = mutate(copy[key]);
      return copy;
    };
    const seen = new Map<number, number>();
    const rounds = WHOLE ? 2000 : 60;
    for (let i = 0; i < rounds; i++) {
      const name = pick(tables).slice("tables/".length, -".jsonl".length);
      const lines = linesOf(files, name);
      const at = random.int(0, lines.length - 1);
      const changed = withLines(files, name, lines.with(at, mutate(lines[at]) as Record<string, unknown>));
      const reply = i % 5 === 0 ? await bring(to, packed(changed), "set aside") : await preview(to, packed(changed));
      seen.set(reply.status, (seen.get(reply.status) ?? 0) + 1);
      expect([200, 409, 413, 422], `${name} line ${at}: ${JSON.stringify(reply.json).slice(0, 300)}`).toContain(reply.status);
    }
    expect(seen.get(200)).toBeGreaterThan(0);
    expect(seen.get(422)).toBeGreaterThan(0);
    for (const page of ["/api/kit", "/api/limits", "/api/clocks", "/api/runs", "/api/set-aside"])
      expect((await to.call("GET", page)).status, page).toBe(200);
    await facts(await take(to));
  });
});
