// The archive of a workspace, format 1: a zip of JSON lines, one file a table, with checksums. docs/archive.md is its description
// for people. A field is never renamed and never loses its meaning; what changes that raises FORMAT_VERSION.

import { clockLines } from "./clocks.ts";
import { deviceLines } from "./devices.ts";
import { kitLines } from "./kit.ts";
import { limitLines } from "./limits.ts";
import { photoLines } from "./photos.ts";
import { millis, sha256Schema } from "./primitives.ts";
import { runLines } from "./runs.ts";
import { sessionLines } from "./sessions.ts";
import { walkLines } from "./walks.ts";
import { z } from "zod";

export const ARCHIVE_FORMAT = "keep-rolling-archive";

export const ARCHIVE_VERSION = 1;

/** The largest archive file taken in. */
export const ARCHIVE_MAX_BYTES = 256_000_000;

/** One line of each table, by room; files are named tables/<name>.jsonl. Ids and times as everywhere: UUIDs, integer milliseconds. */
export const archiveLines = {
  ...kitLines,
  ...clockLines,
  ...deviceLines,
  ...runLines,
  ...sessionLines,
  ...walkLines,
  ...limitLines,
  ...photoLines,
} as const;

export type ArchiveTable = keyof typeof archiveLines;

export const ARCHIVE_TABLES = Object.keys(archiveLines) as readonly ArchiveTable[];

export type ArchiveLine<T extends ArchiveTable> = z.infer<(typeof archiveLines)[T]>;

export const archiveManifest = z.object({
  format: z.literal(ARCHIVE_FORMAT),
  formatVersion: z.int().min(1),
  /** The last step of the schema that wrote it. */
  schema: z.string(),
  exportedAtMs: millis,
  files: z.array(z.object({ name: z.string(), sha256: sha256Schema, bytes: z.int().min(0) })),
  /** What could not be written for people; the tables hold it all the same. Absent in archives written before it was told. */
  problems: z.array(z.string()).optional(),
});

export type ArchiveManifest = z.infer<typeof archiveManifest>;
