// The whole workspace as one zip. Tables are read in one transaction, so that they are of one moment; the manifest, with a checksum
// of every file, comes last. Nothing secret leaves: no passphrase secret, no device token.

import { createHash } from "node:crypto";
import type { ArchiveLine, ArchiveManifest } from "@keep-rolling/contract/archive";
import { ARCHIVE_FORMAT, ARCHIVE_VERSION } from "@keep-rolling/contract/archive";
import { Zip, ZipDeflate } from "fflate";
import type { Tx } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { readBlobs } from "../photos/index.ts";
import { csv } from "./csv.ts";
import { atOneMoment } from "./dataStore.ts";
import { ARCHIVE_README } from "./readme.ts";

/** Zip bytes as they come; the first only after all tables were read, so a failure before it is still a plain error. */
export async function* archiveChunks(deps: Deps): AsyncGenerator<Uint8Array<ArrayBuffer>> {
  const zip = new ZipWriter(deps.now());
  const blobs = await atOneMoment(deps.db, (tx) => writeTables(tx, deps, zip));
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
    schema: deps.schema,
    exportedAtMs: deps.now(),
    files: zip.files,
  };
  zip.file("manifest.json", [JSON.stringify(manifest, null, 1)]);
  zip.end();
  yield* zip.drain();
}

async function writeTables(tx: Tx, deps: Deps, zip: ZipWriter): Promise<ArchiveLine<"blobs">[]> {
  const nowMs = deps.now();
  zip.file("README.txt", [ARCHIVE_README]);
  for (const part of deps.archive) {
    const truth = zip.open(`tables/${part.table}.jsonl`);
    for await (const lines of part.pages(tx, nowMs)) truth.write(jsonLines(lines));
    truth.close();
    // Another pass over the same moment: a zip holds one open file at a time.
    for (const twin of part.csv) {
      const file = zip.open(`csv/${twin.name}.csv`);
      file.write(`${csv([twin.head])}\r\n`);
      for await (const rows of twin.rows(tx, nowMs)) if (rows.length > 0) file.write(`${csv(rows)}\r\n`);
      file.close();
    }
  }
  return readBlobs(tx);
}

const jsonLines = (lines: readonly object[]): string => lines.map((line) => `${JSON.stringify(line)}\n`).join("");

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
