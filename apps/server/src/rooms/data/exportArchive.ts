// The whole workspace as one zip. Tables are read in one transaction, so that they are of one moment; the manifest, with a checksum
// of every file, comes last. Nothing secret leaves: no passphrase secret, no device token.

import { createHash } from "node:crypto";
import type { ArchiveLine, ArchiveManifest, ArchiveTable } from "@keep-rolling/contract/archive";
import { ARCHIVE_FORMAT, ARCHIVE_VERSION } from "@keep-rolling/contract/archive";
import { clockAt } from "@keep-rolling/core/time";
import { Zip, ZipDeflate } from "fflate";
import { readClocks } from "../clocks/index.ts";
import type { Tx } from "../../db/connection.ts";
import { lastStep } from "../../db/migrations.ts";
import type { Deps } from "../../deps.ts";
import { readMarks } from "../runs/index.ts";
import type { RunMarks } from "./csvTwins.ts";
import { csv, marksTwin, READING_HEAD, readingRows, runsTwin, twinOf } from "./csvTwins.ts";
import { atOneMoment, readChannelLines, readDeviceNames, readingPages, readKitVersions, readRunIds } from "./dataStore.ts";
import { PLAIN_TABLES, readPlain } from "./plainStore.ts";
import { ARCHIVE_README } from "./readme.ts";

/** Zip bytes as they come; the first only after all tables were read, so a failure before it is still a plain error. */
export async function* archiveChunks(deps: Deps): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  const zip = new ZipWriter(deps.now());
  const blobs = await atOneMoment(deps.db, (tx) => writeTables(tx, zip, deps.now()));
  yield* zip.drain();
  for (const { sha256 } of blobs) {
    const bytes = await deps.media.read(sha256);
    // A blob whose bytes are gone is named in the table and missing from the folder: the reader says so.
    if (bytes !== null) zip.file(`blobs/${sha256}`, [bytes]);
    yield* zip.drain();
  }
  const manifest: ArchiveManifest = {
    format: ARCHIVE_FORMAT,
    formatVersion: ARCHIVE_VERSION,
    schema: lastStep(),
    exportedAtMs: deps.now(),
    files: zip.files,
  };
  zip.file("manifest.json", [JSON.stringify(manifest, null, 1)]);
  zip.end();
  yield* zip.drain();
}

async function writeTables(tx: Tx, zip: ZipWriter, nowMs: number): Promise<ArchiveLine<"blobs">[]> {
  zip.file("README.txt", [ARCHIVE_README]);
  const kit = await readKitVersions(tx);
  put(zip, "kit", kit);
  zip.file("csv/kit.csv", [twinOf("kit", kit)]);
  const clocks = (await readClocks(tx)).map((c) => ({ ...c, nowMs: clockAt(c.segments, nowMs) }));
  put(zip, "clocks", clocks);
  zip.file("csv/clocks.csv", [twinOf("clocks", clocks)]);
  for (const table of PLAIN_TABLES) {
    const lines = await readPlain(tx, table);
    put(zip, table, lines);
    zip.file(`csv/${table}.csv`, [twinOf(table, lines as never)]);
  }
  await writeRuns(tx, zip);
  await writeReadings(tx, zip);
  return readPlain(tx, "blobs");
}

async function writeRuns(tx: Tx, zip: ZipWriter): Promise<void> {
  const ids = await readRunIds(tx);
  const stored = await readMarks(tx, ids);
  const runs: RunMarks[] = ids.map((runId) => ({ runId, lines: stored.get(runId) ?? [] }));
  put(
    zip,
    "marks",
    runs.flatMap((r) => r.lines),
  );
  zip.file("csv/marks.csv", [marksTwin(runs, await readDeviceNames(tx))]);
  zip.file("csv/runs.csv", [runsTwin(runs)]);
}

async function writeReadings(tx: Tx, zip: ZipWriter): Promise<void> {
  const channels = await readChannelLines(tx);
  const lines = channels.map((c) => c.line);
  put(zip, "channels", lines);
  zip.file("csv/channels.csv", [twinOf("channels", lines)]);
  const truth = zip.open("tables/readings.jsonl");
  for (const c of channels) for await (const page of readingPages(tx, c.streamId, c.line.n)) truth.write(jsonLines(page));
  truth.close();
  // Two passes over the same moment: a zip holds one open file at a time.
  const twin = zip.open("csv/readings.csv");
  twin.write(`${csv([READING_HEAD])}\r\n`);
  for (const c of channels) for await (const page of readingPages(tx, c.streamId, c.line.n)) twin.write(`${csv(readingRows(page))}\r\n`);
  twin.close();
}

const jsonLines = (lines: readonly object[]): string => lines.map((line) => `${JSON.stringify(line)}\n`).join("");
const put = <T extends ArchiveTable>(zip: ZipWriter, table: T, lines: readonly ArchiveLine<T>[]): void =>
  zip.file(`tables/${table}.jsonl`, [jsonLines(lines)]);

const LEVEL = 6;
/** A zip cannot carry an earlier date. */
const EARLIEST_ZIP_MS = Date.UTC(1980, 0, 2);

class ZipWriter {
  readonly files: ArchiveManifest["files"] = [];
  private readonly ready: Uint8Array<ArrayBuffer>[] = [];
  private readonly zip: Zip;

  constructor(private readonly atMs: number) {
    this.zip = new Zip((error, chunk) => {
      if (error !== null) throw error;
      this.ready.push(chunk);
    });
  }

  /** One file at a time: close it before the next is opened. */
  open(name: string): { write(part: string | Uint8Array): void; close(): void } {
    const entry = new ZipDeflate(name, { level: LEVEL });
    entry.mtime = Math.max(this.atMs, EARLIEST_ZIP_MS);
    const hash = createHash("sha256");
    let bytes = 0;
    this.zip.add(entry);
    return {
      write: (part) => {
        const chunk = typeof part === "string" ? Buffer.from(part) : part;
        hash.update(chunk);
        bytes += chunk.byteLength;
        entry.push(new Uint8Array(chunk));
      },
      close: () => {
        entry.push(new Uint8Array(0), true);
        this.files.push({ name, sha256: hash.digest("hex"), bytes });
      },
    };
  }

  file(name: string, parts: readonly (string | Uint8Array)[]): void {
    const writer = this.open(name);
    for (const part of parts) writer.write(part);
    writer.close();
  }

  end(): void {
    this.zip.end();
  }

  *drain(): Generator<Uint8Array<ArrayBuffer>> {
    yield* this.ready.splice(0);
  }
}
