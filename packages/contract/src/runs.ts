// Runs as lists and pages read them, and what is said about a run beside its marks.

import { CLOCK_KINDS } from "./clocks.ts";
import type { DeviceEvent } from "./devices.ts";
import { deviceEvent } from "./devices.ts";
import type { StoredMark } from "./marks.ts";
import { storedMark } from "./marks.ts";
import { idSchema, millis } from "./primitives.ts";
import { z } from "zod";

const interval = z.object({ lo: z.int(), hi: z.int() });

/** The cached summary of a run: enough for lists; the marks are the truth. */
export const runRow = z.object({
  id: idSchema,
  clockId: z.string(),
  clockKind: z.enum(CLOCK_KINDS),
  provenance: z.enum(["live", "simulated"]),
  unitId: idSchema,
  modeId: idSchema,
  status: z.enum(["none", "rolling", "gap", "ended", "void"]),
  lastSeq: z.int(),
  startedMs: millis,
  /** Null while it is under way. */
  endedMs: millis.nullable(),
  recordedMs: interval.nullable(),
  endCause: z.string().nullable(),
  struck: z.string().nullable(),
});
export type RunRow = z.infer<typeof runRow>;

export const channelReading = z.object({ atMs: millis, value: z.number() });

export const channelSchema = z.object({ channel: z.string(), unit: z.string(), readings: z.array(channelReading) });

export const runReply = z.object({
  run: runRow,
  marks: z.array(storedMark),
  channels: z.array(channelSchema),
  events: z.array(deviceEvent),
});

export type RunReply = z.infer<typeof runReply>;

/** One page of summaries, newest first; `next` asks for the following page, null: there is none. */
export const runPage = z.object({ runs: z.array(runRow), next: z.string().nullable() });
export type RunPage = z.infer<typeof runPage>;
export const RUNS_A_PAGE = 500;

/** Marks, gauge and the warnings that devices told: what strips and statements are made from. Runs that are not here are left out. */
export const runMarks = z.object({ id: idSchema, marks: z.array(storedMark), gauge: z.array(channelReading), told: z.array(deviceEvent) });
export type RunMarks = z.infer<typeof runMarks>;
export const runMarksReply = z.object({ runs: z.array(runMarks) });
/** A reply of so many runs stays below half a megabyte. */
export const RUNS_AT_ONCE = 40;

/** A run of a list as a screen holds it. */
export interface ListedRun {
  run: RunRow;
  marks: StoredMark[];
  gauge: z.infer<typeof channelReading>[];
  told: DeviceEvent[];
}

export const marksAfterReply = z.object({ marks: z.array(storedMark) });

/** The clips on a simulated body's card. */
export const cardReply = z.object({ files: z.array(z.object({ name: z.string(), bytes: z.number(), modifiedMs: z.number() })) });

export type CardReply = z.infer<typeof cardReply>;

export const strikeBody = z.strictObject({ id: idSchema, reason: z.string().trim().min(3, "Say why, in a few words.").max(500) });

export const strikeReply = z.object({ id: idSchema });

/** Lines of the archive. */
export const runLines = {
  /** In delivery order within a run, so what a mark names comes before it. */
  marks: storedMark,
  strikes: z.object({ id: idSchema, runId: idSchema, reason: z.string(), undoes: idSchema.nullable(), atMs: millis }),
};
