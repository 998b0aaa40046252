// One run out as JSON, and such a file opened as the archive it is a part of: what brings archives in brings it in too.

import { readFileSync } from "node:fs";
import type { ArchiveLine, ArchiveTable } from "@keep-rolling/contract/archive";
import type { RunFile } from "@keep-rolling/contract/runFile";
import { ARCHIVE_FORMAT, ARCHIVE_TABLES } from "@keep-rolling/contract/archive";
import { RUN_FILE_FORMAT, RUN_FILE_VERSION, runFile } from "@keep-rolling/contract/runFile";
import type { Mark, StartBody } from "@keep-rolling/core/runs";
import { clockAt } from "@keep-rolling/core/time";
import { foldRun, isForeign } from "@keep-rolling/core/runs";
import type { Tx } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { Refusal } from "../../http/refusal.ts";
import { sha256Of } from "../../media/folder.ts";
import { readClocks } from "../clocks/index.ts";
import { readChannelLines, readDevicesById, readEventLines, readingsWithin } from "../devices/index.ts";
import { readKitVersions } from "../kit/index.ts";
import { readBlobs } from "../photos/index.ts";
import { readMarks, readStrikeLines } from "../runs/index.ts";
import { atOneMoment } from "./dataStore.ts";
import type { Archive } from "./openArchive.ts";

/** What devices said so long after the end still belongs to the run. */
const AFTER_MS = 20 * 60_000;

export async function exportRun(deps: Deps, runId: string): Promise<RunFile> {
  const tables = await atOneMoment(deps.db, (tx) => runTables(tx, runId, deps.now()));
  const blobs: Record<string, string> = {};
  for (const { sha256 } of tables.blobs) {
    const bytes = await deps.media.read(sha256);
    if (bytes !== null) blobs[sha256] = bytes.toString("base64");
  }
  return { format: RUN_FILE_FORMAT, formatVersion: RUN_FILE_VERSION, schema: deps.schema, exportedAtMs: deps.now(), runId, tables, blobs };
}

async function runTables(tx: Tx, runId: string, nowMs: number): Promise<RunFile["tables"]> {
  const marks = (await readMarks(tx, [runId])).get(runId) ?? [];
  const fold = foldRun(marks.map((m) => m.mark));
  const { setup, startMs } = fold;
  if (setup === null || startMs === null)
    throw new Refusal(404, "not-found", "No such run", "There is no run of that id with a start mark here.");
  const untilMs = (fold.end?.hiMs ?? fold.voidedMs ?? nowMs) + AFTER_MS;
  const deviceEvents = await readEventLines(tx, setup.unit.id, startMs, untilMs);
  const { channels, readings } = await channelsOf(tx, setup.unit.id, startMs, untilMs);
  const devices = new Set([
    ...marks.map((m) => m.mark.deviceId),
    ...deviceEvents.map((e) => e.deviceId),
    ...channels.map((c) => c.deviceId),
  ]);
  return {
    kit: await readKitVersions(tx, kitOf(setup)),
    clocks: (await readClocks(tx)).filter((c) => c.id === setup.clockId).map((c) => ({ ...c, nowMs: clockAt(c.segments, nowMs) })),
    devices: await readDevicesById(tx, [...devices]),
    marks,
    strikes: await readStrikeLines(tx, runId),
    deviceEvents,
    channels,
    readings,
    blobs: await readBlobs(tx, [...new Set(marks.flatMap((m) => pictureOf(m.mark)))]),
  };
}

const kitOf = ({ unit, mode, condition, protocol }: StartBody): string[] =>
  [unit.id, unit.modelId, mode.id, condition.id, protocol.id].filter((id) => id !== null);

const pictureOf = (mark: Mark): string[] =>
  isForeign(mark) || (mark.kind !== "photo" && mark.kind !== "correction") || mark.body.sha256 === undefined ? [] : [mark.body.sha256];

async function channelsOf(tx: Tx, unitId: string, fromMs: number, toMs: number): Promise<Pick<RunFile["tables"], "channels" | "readings">> {
  const channels: ArchiveLine<"channels">[] = [];
  const readings: ArchiveLine<"readings">[] = [];
  for (const { streamId, line } of await readChannelLines(tx)) {
    if (!line.uses.some((u) => u.unitId === unitId)) continue;
    const found = await readingsWithin(tx, streamId, line.n, fromMs, toMs);
    if (found.length === 0) continue;
    channels.push({ ...line, uses: line.uses.filter((u) => u.unitId === unitId) });
    readings.push(...found);
  }
  return { channels, readings };
}

const bad = (sentence: string): Refusal =>
  new Refusal(422, "bad-archive", "Not a run file that can be opened", `${sentence} Nothing was changed.`);

/** The file as the part of an archive it is; a Refusal with a sentence when it cannot be. `sha256`: of the file as it was sent. */
export function openRunFile(path: string, sha256: string): Archive {
  const file = parse(readFileSync(path));
  const blobs = new Map(Object.entries(file.blobs).map(([sha256, base64]) => [sha256, Buffer.from(base64, "base64")] as const));
  for (const [sha256, content] of blobs)
    if (sha256Of(content) !== sha256) throw bad("A picture in it does not have the content its name says.");
  if (file.tables.marks.some((m) => m.mark.runId !== file.runId)) throw bad("It holds marks of another run than it names.");
  const tables = file.tables as { readonly [T in ArchiveTable]?: readonly ArchiveLine<T>[] };
  const linesOf = <T extends ArchiveTable>(table: T): readonly ArchiveLine<T>[] => tables[table] ?? [];
  return {
    sha256,
    manifest: { format: ARCHIVE_FORMAT, formatVersion: 1, schema: file.schema, exportedAtMs: file.exportedAtMs, files: [] },
    counts: Object.fromEntries(ARCHIVE_TABLES.map((table) => [table, linesOf(table).length])) as Archive["counts"],
    pages: async function* (table) {
      yield linesOf(table);
    },
    blobs: new Set(blobs.keys()),
    blob: (name, mostBytes) => {
      const bytes = blobs.get(name) ?? new Uint8Array();
      return Promise.resolve(bytes.byteLength > mostBytes ? null : bytes);
    },
    notes: [],
    close: () => undefined,
  };
}

function parse(bytes: Uint8Array): RunFile {
  let json: unknown;
  try {
    json = JSON.parse(Buffer.from(bytes).toString("utf8"));
  } catch {
    throw bad("It is not valid JSON.");
  }
  const version = typeof json === "object" && json !== null && "formatVersion" in json ? json.formatVersion : undefined;
  if (typeof version === "number" && version > RUN_FILE_VERSION)
    throw bad(`It is of format ${version}; this program reads up to ${RUN_FILE_VERSION}. Open it with a newer one.`);
  const parsed = runFile.safeParse(json);
  if (parsed.success) return parsed.data;
  const issue = parsed.error.issues[0];
  throw bad(`It is not a run of this program: ${issue?.path.join(".") ?? ""} ${issue?.message ?? ""}.`.slice(0, 300));
}
