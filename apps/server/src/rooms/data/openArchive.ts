// An archive from outside, opened with care: size and ratio caps before anything is unpacked, no path that leaves the archive, every checksum, every
// line against its schema. It is read from the disk a piece at a time, twice: once to know that it is whole, and again as it is merged.

import { createHash } from "node:crypto";
import type { Readable } from "node:stream";
import type { ArchiveLine, ArchiveManifest, ArchiveTable } from "@keep-rolling/contract/archive";
import { ARCHIVE_FORMAT, ARCHIVE_TABLES, ARCHIVE_VERSION, archiveLines, archiveManifest } from "@keep-rolling/contract/archive";
import type { Entry, ZipFile } from "yauzl";
import { openPromise } from "yauzl";
import { Refusal } from "../../http/refusal.ts";

export interface Archive {
  sha256: string;
  manifest: ArchiveManifest;
  /** Lines of each table. */
  counts: Readonly<Record<ArchiveTable, number>>;
  /** Of one table, a page at a time, in the archive's order. */
  pages<T extends ArchiveTable>(table: T): AsyncIterable<readonly ArchiveLine<T>[]>;
  /** Names of the files by content that are in it. */
  blobs: ReadonlySet<string>;
  /** Null: it is larger. */
  blob(sha256: string, mostBytes: number): Promise<Uint8Array | null>;
  notes: string[];
  close(): void;
}

export const UNPACKED_MAX_BYTES = 1_000_000_000;
/** Text packs well, but not without end: versions of one large plan, each a little different, to a hundredth and less. */
const RATIO_MAX = 400;
const RATIO_FROM_BYTES = 1_000_000;
const FILES_MAX = 20_000;
const MANIFEST_MAX_BYTES = 10_000_000;
const LINE_MAX_CHARS = 2_000_000;
const NAME = /^(?:README\.txt|manifest\.json|tables\/[a-zA-Z]+\.jsonl|csv\/[a-zA-Z]+\.csv|blobs\/[0-9a-f]{64})$/;
const PAGE = 1000;

export const bad = (sentence: string): Refusal =>
  new Refusal(422, "bad-archive", "Not an archive that can be opened", `${sentence} Nothing was changed.`);

/** The tables of the very first archives: what they lack was lost. A later table may be missing, its archive is older than it. */
const FIRST_TABLES: readonly ArchiveTable[] = [
  "kit",
  "unitEvents",
  "clocks",
  "devices",
  "deviceEvents",
  "channels",
  "readings",
  "intakeBatches",
  "setAside",
  "marks",
  "strikes",
  "limits",
  "blobs",
];

const fileOf = (table: ArchiveTable): string => `tables/${table}.jsonl`;

/** Throws a Refusal with a sentence. `sha256`: of the file as it was sent. */
export async function openArchive(file: string, sha256: string): Promise<Archive> {
  const zip = await openPromise(file, { lazyEntries: true, autoClose: false }).catch(() =>
    Promise.reject(bad("The file is not a whole zip.")),
  );
  try {
    return await check(zip, sha256);
  } catch (error) {
    zip.close();
    throw error;
  }
}

async function check(zip: ZipFile, sha256: string): Promise<Archive> {
  const entries = await readDirectory(zip);
  const manifest = await readManifest(zip, entries);
  const listed = new Map(manifest.files.map((f) => [f.name, f]));
  const counts = Object.fromEntries(ARCHIVE_TABLES.map((t) => [t, 0])) as Record<ArchiveTable, number>;
  for (const [name, promised] of listed) {
    const entry = entries.get(name);
    if (entry === undefined) throw bad(`The archive is not whole: ${name.slice(0, 80)} is missing.`);
    const actual = await hashOf(zip, entry);
    if (actual.bytes !== promised.bytes || actual.sha256 !== promised.sha256)
      throw bad(`${name.slice(0, 80)} was changed or damaged: its checksum does not fit.`);
    if (name.startsWith("blobs/") && actual.sha256 !== name.slice("blobs/".length))
      throw bad(`${name} does not have the content its name says.`);
  }
  const tableOf = (table: ArchiveTable): Entry | undefined => (listed.has(fileOf(table)) ? entries.get(fileOf(table)) : undefined);
  for (const table of ARCHIVE_TABLES) {
    const entry = tableOf(table);
    // Every table is always written, an empty one as an empty file.
    if (entry === undefined && FIRST_TABLES.includes(table)) throw bad(`The archive is not whole: ${fileOf(table)} is missing.`);
    if (entry !== undefined) for await (const page of pagesOf(zip, entry, table)) counts[table] += page.length;
  }
  return {
    sha256,
    manifest,
    counts,
    pages: async function* (table) {
      const entry = tableOf(table);
      if (entry !== undefined) yield* pagesOf(zip, entry, table);
    },
    blobs: new Set([...listed.keys()].flatMap((name) => (name.startsWith("blobs/") ? [name.slice("blobs/".length)] : []))),
    blob: async (sha, mostBytes) => {
      const entry = entries.get(`blobs/${sha}`);
      if (entry === undefined) throw new RangeError(`sha256 must name a file of the archive, got ${sha}`);
      return entry.uncompressedSize > mostBytes ? null : whole(zip, entry);
    },
    notes: [...entries.keys()]
      .filter((name) => name !== "manifest.json" && !listed.has(name))
      .map((name) => `${name.slice(0, 80)} is not listed in the manifest and was left out.`),
    close: () => zip.close(),
  };
}

async function readDirectory(zip: ZipFile): Promise<Map<string, Entry>> {
  const entries = new Map<string, Entry>();
  let total = 0;
  try {
    for await (const entry of zip.eachEntry()) {
      total += entry.uncompressedSize;
      if (entries.size >= FILES_MAX) throw bad(`It holds more than ${FILES_MAX} files.`);
      if (total > UNPACKED_MAX_BYTES) throw bad(`Unpacked it is larger than ${UNPACKED_MAX_BYTES / 1e6} MB.`);
      if (entry.uncompressedSize > RATIO_FROM_BYTES && entry.uncompressedSize > RATIO_MAX * entry.compressedSize)
        throw bad("A file in it unpacks to far more than it should.");
      if (!NAME.test(entry.fileName)) throw bad(`It holds a file that has no place in an archive: ${entry.fileName.slice(0, 80)}.`);
      entries.set(entry.fileName, entry);
    }
  } catch (error) {
    if (error instanceof Refusal) throw error;
    // The reader itself refuses names that climb out of the archive.
    const climbs =
      error instanceof Error && /(?:invalid relative path|absolute path|invalid characters in fileName): (.*)/.exec(error.message);
    throw climbs
      ? bad(`It holds a file that has no place in an archive: ${(climbs[1] ?? "").slice(0, 80)}.`)
      : bad("The file is not a whole zip.");
  }
  return entries;
}

/** The bytes of one entry; a broken one ends in a Refusal. The reader checks that it unpacks to the size it states. */
async function* bytesOf(zip: ZipFile, entry: Entry): AsyncGenerator<Buffer> {
  let stream: Readable;
  try {
    stream = await zip.openReadStreamPromise(entry);
    for await (const chunk of stream) yield chunk as Buffer;
  } catch {
    throw bad(`${entry.fileName.slice(0, 80)} was changed or damaged: it cannot be unpacked.`);
  }
}

async function hashOf(zip: ZipFile, entry: Entry): Promise<{ sha256: string; bytes: number }> {
  const hash = createHash("sha256");
  let bytes = 0;
  for await (const chunk of bytesOf(zip, entry)) {
    hash.update(chunk);
    bytes += chunk.byteLength;
  }
  return { sha256: hash.digest("hex"), bytes };
}

async function whole(zip: ZipFile, entry: Entry): Promise<Uint8Array> {
  const chunks: Buffer[] = [];
  for await (const chunk of bytesOf(zip, entry)) chunks.push(chunk);
  return Buffer.concat(chunks);
}

async function readManifest(zip: ZipFile, entries: ReadonlyMap<string, Entry>): Promise<ArchiveManifest> {
  const entry = entries.get("manifest.json");
  if (entry === undefined) throw bad("There is no manifest.json in it, so it is not an archive of Keep Rolling.");
  if (entry.uncompressedSize > MANIFEST_MAX_BYTES) throw bad("Its manifest.json is far too large.");
  let json: unknown;
  try {
    json = JSON.parse(Buffer.from(await whole(zip, entry)).toString("utf8"));
  } catch (error) {
    throw error instanceof Refusal ? error : bad("Its manifest.json is not valid JSON.");
  }
  const version = typeof json === "object" && json !== null && "formatVersion" in json ? json.formatVersion : undefined;
  if (typeof version === "number" && version > ARCHIVE_VERSION)
    throw bad(`It is of format ${version}; this program reads up to ${ARCHIVE_VERSION}. Open it with a newer one.`);
  const parsed = archiveManifest.safeParse(json);
  if (!parsed.success) throw bad(`Its manifest.json is not of the format ${ARCHIVE_FORMAT}.`);
  return parsed.data;
}

async function* pagesOf<T extends ArchiveTable>(zip: ZipFile, entry: Entry, table: T): AsyncGenerator<ArchiveLine<T>[]> {
  let page: ArchiveLine<T>[] = [];
  let n = 0;
  for await (const line of linesOf(zip, entry, table)) {
    page.push(readLine(table, line, ++n));
    if (page.length < PAGE) continue;
    yield page;
    page = [];
  }
  if (page.length > 0) yield page;
}

/** Lines, each closed by its newline; the last one too. */
async function* linesOf(zip: ZipFile, entry: Entry, table: ArchiveTable): AsyncGenerator<string> {
  const decoder = new TextDecoder();
  let rest = "";
  for await (const chunk of bytesOf(zip, entry)) {
    const lines = (rest + decoder.decode(chunk, { stream: true })).split("\n");
    rest = lines.pop() ?? "";
    if (rest.length > LINE_MAX_CHARS) throw bad(`${fileOf(table)} has a line that is far too long.`);
    yield* lines;
  }
  if (rest + decoder.decode() !== "") throw bad(`${fileOf(table)} ends in the middle of a line.`);
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
