// The whole workspace as one zip. Tables are read in one transaction, so that they are of one moment and lock nothing; the manifest, with a
// checksum of every file, comes last. Nothing secret leaves: no passphrase secret, no device token.

import type { ArchiveLine, ArchiveManifest } from "@keep-rolling/contract/archive";
import { ARCHIVE_FORMAT, ARCHIVE_VERSION } from "@keep-rolling/contract/archive";
import type { Tx } from "../../db/connection.ts";
import type { Deps } from "../../deps.ts";
import { readBlobs } from "../photos/index.ts";
import { csv } from "./csv.ts";
import { atOneMoment } from "./dataStore.ts";
import { ARCHIVE_README } from "./readme.ts";
import { takeTurns } from "./turns.ts";
import { ZipWriter } from "./zipWriter.ts";

/** Writes the archive to `file`, which must not exist. */
export async function exportArchive(deps: Deps, file: string): Promise<void> {
  const zip = new ZipWriter(file, deps.now());
  const problems: string[] = [];
  const blobs = await atOneMoment(deps.db, (tx) => writeTables(tx, deps, zip, problems));
  const turn = takeTurns();
  for (const { sha256 } of blobs) {
    const bytes = await deps.media.read(sha256);
    // A blob whose bytes are gone is named in the table and missing from the folder: the reader says so.
    if (bytes !== null) zip.file(`blobs/${sha256}`, [bytes]);
    await turn();
  }
  const manifest: ArchiveManifest = {
    format: ARCHIVE_FORMAT,
    formatVersion: ARCHIVE_VERSION,
    schema: deps.schema,
    exportedAtMs: deps.now(),
    files: zip.files,
    problems: [...new Set(problems)].slice(0, PROBLEMS_MOST),
  };
  zip.file("manifest.json", [JSON.stringify(manifest, null, 1)]);
  zip.end();
}

/** More would only repeat themselves. */
const PROBLEMS_MOST = 1000;

async function writeTables(tx: Tx, deps: Deps, zip: ZipWriter, problems: string[]): Promise<ArchiveLine<"blobs">[]> {
  const nowMs = deps.now();
  const turn = takeTurns();
  zip.file("README.txt", [ARCHIVE_README]);
  for (const part of deps.archive) {
    const truth = zip.open(`tables/${part.table}.jsonl`);
    for await (const lines of part.pages(tx, nowMs, problems)) {
      truth.write(jsonLines(lines));
      await turn();
    }
    truth.close();
    // Another pass over the same moment: a zip holds one open file at a time.
    for (const twin of part.csv) {
      const out = zip.open(`csv/${twin.name}.csv`);
      out.write(`${csv([twin.head])}\r\n`);
      for await (const rows of twin.rows(tx, nowMs, problems)) {
        if (rows.length > 0) out.write(`${csv(rows)}\r\n`);
        await turn();
      }
      out.close();
    }
  }
  return readBlobs(tx);
}

const jsonLines = (lines: readonly object[]): string => lines.map((line) => `${JSON.stringify(line)}\n`).join("");
