// The archive of a workspace, format 1: a zip of JSON lines, one file a table, with checksums. docs/archive.md is its description
// for people. A field is never renamed and never loses its meaning; what changes that raises FORMAT_VERSION.

import { z } from "zod";
import { KIT_ENTITIES } from "./kit.ts";
import { idSchema, millis } from "./marks.ts";
import { CLOCK_KINDS, clockSchema, storedMark } from "./runs.ts";

export const ARCHIVE_FORMAT = "keep-rolling-archive";
export const ARCHIVE_VERSION = 1;
/** The largest archive file taken in. */
export const ARCHIVE_MAX_BYTES = 256_000_000;

const sha256 = z.string().regex(/^[0-9a-f]{64}$/);
const doc = z.record(z.string(), z.unknown());

/** One line of each table; files are named tables/<name>.jsonl. Ids and times as everywhere: UUIDs, integer milliseconds. */
export const archiveLines = {
  /** Every version of every kit row; the one with the greatest rev is the row. */
  kit: z.object({ entity: z.enum(KIT_ENTITIES), id: idSchema, rev: z.int().min(1), savedAtMs: millis, doc }),
  unitEvents: z.object({ id: idSchema, unitId: idSchema, atMs: millis, kind: z.string().max(16), body: doc }),
  clocks: clockSchema.extend({
    id: z.string().min(1).max(64),
    kind: z.enum(CLOCK_KINDS),
    /** Bench time when the archive was written. */
    nowMs: millis,
  }),
  devices: z.object({
    id: idSchema,
    kind: z.string().max(16),
    name: z.string().max(120),
    unitId: idSchema.nullable(),
    revokedAtMs: millis.nullable(),
  }),
  /** In delivery order within a run, so what a mark names comes before it. */
  marks: storedMark,
  strikes: z.object({ id: idSchema, runId: idSchema, reason: z.string(), undoes: idSchema.nullable(), atMs: millis }),
  limits: z.object({
    id: idSchema,
    unitId: idSchema,
    anyFirmwareSha: sha256,
    recordedAtMs: millis,
    doc,
    evidenceSha: sha256,
    supersedes: idSchema.nullable(),
  }),
  deviceEvents: z.object({ id: idSchema, deviceId: idSchema, unitId: idSchema, atMs: millis, kind: z.string().max(24), body: doc }),
  /** `n` numbers channels within this archive only. */
  channels: z.object({
    n: z.int(),
    deviceId: idSchema,
    channel: z.string().max(40),
    quantity: z.string().max(24),
    unit: z.string().max(16),
    uses: z.array(z.object({ unitId: idSchema, role: z.string().max(24), fromMs: millis, toMs: millis.nullable() })),
  }),
  /** c: the channel's n, t: milliseconds, v: value. In order of c and t. */
  readings: z.object({ c: z.int(), t: millis, v: z.number() }),
  intakeBatches: z.object({ deviceId: idSchema, key: z.string().max(80), sha256, reply: doc, receivedMs: millis }),
  setAside: z.object({
    deviceId: idSchema.nullable(),
    lineNo: z.int(),
    raw: z.string(),
    code: z.string().max(200),
    receivedMs: millis,
  }),
  /** The bytes are in blobs/<sha256>. */
  blobs: z.object({ sha256, bytes: z.int().min(0), mime: z.string().max(80) }),
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
  files: z.array(z.object({ name: z.string(), sha256, bytes: z.int().min(0) })),
});
export type ArchiveManifest = z.infer<typeof archiveManifest>;

/** What an import adds, finds there already, or cannot reconcile. */
export const importReport = z.object({
  sha256,
  exportedAtMs: millis,
  tables: z.array(z.object({ table: z.string(), lines: z.int(), add: z.int(), same: z.int(), conflict: z.int() })),
  runs: z.object({ fresh: z.int(), grown: z.int() }),
  /** The first fifty; the counts above are whole. */
  conflicts: z.array(z.object({ table: z.string(), id: z.string(), reason: z.string() })),
  notes: z.array(z.string()),
  stored: z.boolean(),
});
export type ImportReport = z.infer<typeof importReport>;

/** What could not be taken in, kept whole with the reason. */
export const setAsideReply = z.object({
  setAside: z.array(
    z.object({
      n: z.int(),
      deviceId: idSchema.nullable(),
      deviceName: z.string().nullable(),
      receivedMs: millis,
      code: z.string(),
      raw: z.string(),
    }),
  ),
});
export type SetAside = z.infer<typeof setAsideReply>["setAside"][number];
