// What the one event stream of a tab carries, and the pulse that compares cursors.

import { clockSchema } from "./clocks.ts";
import { deviceEvent } from "./devices.ts";
import { storedMark } from "./marks.ts";
import { idSchema, millis } from "./primitives.ts";
import { runRow } from "./runs.ts";
import { storedFact } from "./sessions.ts";
import { z } from "zod";

/** One stream per tab for all runs. Marks carry per-run seq, so a reader sees a hole and asks for it. */
export const streamMessage = z.discriminatedUnion("type", [
  /** `resumed`: everything since the cursor the reader named follows; else it must read again. */
  z.object({ type: z.literal("hello"), serverMs: millis, resumed: z.boolean() }),
  /** `row`: the run's summary as it reads now; null: as before. */
  z.object({
    type: z.literal("marks"),
    runId: idSchema,
    marks: z.array(storedMark),
    row: runRow.pick({ status: true, startedMs: true, endedMs: true, recordedMs: true, endCause: true }).nullable(),
  }),
  z.object({
    type: z.literal("events"),
    runId: idSchema,
    events: z.array(deviceEvent),
    readings: z.array(z.object({ channel: z.string(), unit: z.string(), atMs: millis, value: z.number() })),
  }),
  z.object({ type: z.literal("facts"), sessionId: idSchema, facts: z.array(storedFact) }),
  z.object({ type: z.literal("clocks"), clocks: z.array(clockSchema) }),
  z.object({ type: z.literal("changed"), what: z.enum(["kit", "limits", "runs", "devices", "walks"]), ids: z.array(idSchema).optional() }),
]);

export type StreamMessage = z.infer<typeof streamMessage>;

export const pulseReply = z.object({
  serverMs: millis,
  runs: z.array(z.object({ id: idSchema, lastSeq: z.int(), status: z.string() })),
  /** Absent from older servers. */
  sessions: z.array(z.object({ id: idSchema, lastSeq: z.int() })).default([]),
});
