// The road of facts: what a device sends in one go, and what became of each.

import { idSchema, millis } from "./primitives.ts";
import { FACT_SOURCES } from "@keep-rolling/core/facts";
import { z } from "zod";

/** What every fact carries, whatever it belongs to. */
export const factEnvelope = {
  id: idSchema,
  deviceId: idSchema,
  deviceSeq: z.int().min(0),
  atMs: millis,
  madeAtMs: millis,
  source: z.enum(FACT_SOURCES),
  deviceMs: millis,
  offsetMs: millis,
  offsetErrMs: z.int().min(0).max(86_400_000_000),
  target: idSchema.optional(),
  replaces: idSchema.optional(),
  accepts: idSchema.optional(),
};

/** One mark at most this many bytes as JSON. */
export const MARK_MAX_BYTES = 32_768;

export const markBatch = z.strictObject({
  deviceId: idSchema,
  /** The device's wall clock when the batch left. */
  sentDeviceMs: millis,
  offsetMs: millis,
  marks: z.array(z.unknown()).min(1).max(500),
});

export const markOutcome = z.object({
  id: z.string().nullable(),
  outcome: z.enum(["stored", "duplicate", "not yet", "set aside"]),
  seq: z.int().optional(),
  reason: z.string().optional(),
  /** With "not yet": this device used the number for another mark of the run; draw another and send again. */
  renumber: z.literal(true).optional(),
});

export type MarkOutcome = z.infer<typeof markOutcome>;

export const markBatchReply = z.object({ outcomes: z.array(markOutcome), serverMs: millis });
