// One run as a JSON file, format 1: the archive's own lines, those of this run only. It comes in through the same door as an archive.

import { z } from "zod";
import { archiveLines } from "./archive.ts";
import { idSchema, millis, sha256Schema } from "./primitives.ts";

export const RUN_FILE_FORMAT = "keep-rolling-run";
export const RUN_FILE_VERSION = 1;

export const runFile = z.object({
  format: z.literal(RUN_FILE_FORMAT),
  formatVersion: z.int().min(1),
  /** The last step of the schema that wrote it. */
  schema: z.string(),
  exportedAtMs: millis,
  runId: idSchema,
  /** The kit rows it was shot with, its clock, devices, marks, strikes, and what its body's devices said while it ran. */
  tables: z.object({
    kit: z.array(archiveLines.kit),
    clocks: z.array(archiveLines.clocks),
    devices: z.array(archiveLines.devices),
    marks: z.array(archiveLines.marks),
    strikes: z.array(archiveLines.strikes),
    deviceEvents: z.array(archiveLines.deviceEvents),
    channels: z.array(archiveLines.channels),
    readings: z.array(archiveLines.readings),
    blobs: z.array(archiveLines.blobs),
  }),
  /** Bytes of its pictures, base64, by their SHA-256. */
  blobs: z.record(sha256Schema, z.base64()),
});
export type RunFile = z.infer<typeof runFile>;
