// An archive from outside, opened with care: size and ratio caps before anything is unpacked, no path that leaves the archive, every
// checksum, every line against its schema. What comes out is whole or a sentence that says why not.

import type { ArchiveLine, ArchiveManifest, ArchiveTable } from "@keep-rolling/contract/archive";
import { ARCHIVE_FORMAT, ARCHIVE_TABLES, ARCHIVE_VERSION, archiveLines, archiveManifest } from "@keep-rolling/contract/archive";
import { unzip } from "fflate";
import type { Unzipped } from "fflate";
import { Refusal } from "../../http/refusal.ts";
import { sha256Of } from "../../media/folder.ts";

export interface Archive {
  sha256: string;
  manifest: ArchiveManifest;
  tables: { readonly [T in ArchiveTable]: ArchiveLine<T>[] };
  blobs: ReadonlyMap<string, Uint8Array>;
  notes: string[];
}

export const UNPACKED_MAX_BYTES = 1_000_000_000;
/** Text packs well, but not without end. */
const RATIO_MAX = 400;
const RATIO_FROM_BYTES = 1_000_000;
const FILES_MAX = 20_000;
const NAME = /^(?:README\.txt|manifest\.json|tables\/[a-zA-Z]+\.jsonl|csv\/[a-zA-Z]+\.csv|blobs\/[0-9a-f]{64})$/;

const bad = (sentence: string): Refusal =>
  new Refusal(422, "bad-archive", "Not an archive that can be opened", `${sentence} Nothing was changed.`);

/** Throws a Refusal with a sentence; `bytes` as uploaded. */
export async function readArchive(bytes: Uint8Array): Promise<Archive> {
  const files = await unpack(bytes);
  const manifest = readManifest(files);
  const listed = new Map(manifest.files.map((f) => [f.name, f]));
  const notes = Object.keys(files)
    .filter((name) => name !== "manifest.json" && !listed.has(name))
    .map((name) => `${name.slice(0, 80)} is not listed in the manifest and was left out.`);
  const blobs = new Map<string, Uint8Array>();
  for (const [name, { sha256, bytes: size }] of listed) {
    const file = files[name];
    if (file === undefined) throw bad(`The archive is not whole: ${name.slice(0, 80)} is missing.`);
    if (file.byteLength !== size || sha256Of(file) !== sha256)
      throw bad(`${name.slice(0, 80)} was changed or damaged: its checksum does not fit.`);
    if (name.startsWith("blobs/")) {
      if (sha256 !== name.slice("blobs/".length)) throw bad(`${name} does not have the content its name says.`);
      blobs.set(sha256, file);
    }
  }
  const tables: Record<string, unknown[]> = {};
  for (const table of ARCHIVE_TABLES) tables[table] = await readTable(table, listed.has(fileOf(table)) ? files[fileOf(table)] : undefined);
  return { sha256: sha256Of(bytes), manifest, tables: tables as Archive["tables"], blobs, notes };
}

const fileOf = (table: ArchiveTable): string => `tables/${table}.jsonl`;

function unpack(bytes: Uint8Array): Promise<Unzipped> {
  return new Promise((done, fail) => {
    let [total, count] = [0, 0];
    let refused: Refusal | null = null;
    const refuse = (sentence: string): false => {
      refused ??= bad(sentence);
      return false;
    };
    const whole = (error: Error | null, files: Unzipped): void => {
      if (refused !== null) fail(refused);
      else if (error !== null) fail(bad("The file is not a whole zip."));
      else done(files);
    };
    try {
      unzip(
        bytes,
        {
          filter: (file) => {
            total += file.originalSize;
            if (++count > FILES_MAX) return refuse(`It holds more than ${FILES_MAX} files.`);
            if (total > UNPACKED_MAX_BYTES) return refuse(`Unpacked it is larger than ${UNPACKED_MAX_BYTES / 1e6} MB.`);
            if (file.originalSize > RATIO_FROM_BYTES && file.originalSize > RATIO_MAX * file.size)
              return refuse("A file in it unpacks to far more than it should.");
            if (!NAME.test(file.name)) return refuse(`It holds a file that has no place in an archive: ${file.name.slice(0, 80)}.`);
            return true;
          },
        },
        whole,
      );
    } catch {
      whole(new Error("not a zip"), {});
    }
  });
}

function readManifest(files: Unzipped): ArchiveManifest {
  const file = files["manifest.json"];
  if (file === undefined) throw bad("There is no manifest.json in it, so it is not an archive of Keep Rolling.");
  let json: unknown;
  try {
    json = JSON.parse(Buffer.from(file).toString("utf8"));
  } catch {
    throw bad("Its manifest.json is not valid JSON.");
  }
  const version = typeof json === "object" && json !== null && "formatVersion" in json ? json.formatVersion : undefined;
  if (typeof version === "number" && version > ARCHIVE_VERSION)
    throw bad(`It is of format ${version}; this program reads up to ${ARCHIVE_VERSION}. Open it with a newer one.`);
  const parsed = archiveManifest.safeParse(json);
  if (!parsed.success) throw bad(`Its manifest.json is not of the format ${ARCHIVE_FORMAT}.`);
  return parsed.data;
}

/** Tables that came after the first archives. */
const LATER: readonly ArchiveTable[] = ["facts"];

/** Other requests get their turn this often. */
const LINES_AT_ONCE = 2000;

async function readTable<T extends ArchiveTable>(table: T, file: Uint8Array | undefined): Promise<ArchiveLine<T>[]> {
  // Every table is always written, an empty one as an empty file; those of later versions are not in an older archive.
  if (file === undefined && LATER.includes(table)) return [];
  if (file === undefined) throw bad(`The archive is not whole: ${fileOf(table)} is missing.`);
  const lines = Buffer.from(file).toString("utf8").split("\n");
  if (lines.pop() !== "") throw bad(`${fileOf(table)} ends in the middle of a line.`);
  const out: ArchiveLine<T>[] = [];
  for (const [i, line] of lines.entries()) {
    if (i % LINES_AT_ONCE === 0) await new Promise((done) => setImmediate(done));
    out.push(readLine(table, line, i + 1));
  }
  return out;
}

function readLine<T extends ArchiveTable>(table: T, line: string, n: number): ArchiveLine<T> {
  let json: unknown;
  try {
    json = JSON.parse(line);
  } catch {
    throw bad(`${fileOf(table)}, line ${n}: not valid JSON.`);
  }
  const parsed = archiveLines[table].safeParse(json);
  if (parsed.success) return parsed.data as ArchiveLine<T>;
  const issue = parsed.error.issues[0];
  throw bad(`${fileOf(table)}, line ${n}: ${issue?.path.join(".") ?? ""} ${issue?.message ?? "not understood"}.`.slice(0, 300));
}
