// Runs, clocks, devices' facts and the live stream as they travel.

import type { Rung } from "@keep-rolling/core/reading";
import type { Mark } from "@keep-rolling/core/runs";
import { ENDPOINTS } from "@keep-rolling/core/runs";
import { z } from "zod";
import { idSchema, markSchema, millis, sha256Schema } from "./marks.ts";

export const CLOCK_KINDS = ["real", "rehearsal", "demo"] as const;
export const clockSchema = z.object({
  id: z.string(),
  kind: z.enum(CLOCK_KINDS),
  wantedRate: z.number(),
  segments: z.array(z.object({ wallMs: millis, clockMs: millis, rate: z.number() })),
});
export type Clock = z.infer<typeof clockSchema>;
export const clocksReply = z.object({ clocks: z.array(clockSchema), serverMs: millis });
export const timeReply = z.object({ serverMs: millis });
/** `skipSec` sets a simulated clock ahead once. */
export const rateBody = z.strictObject({ rate: z.number().min(1).max(120), skipSec: z.number().min(0).max(3600).default(0) });

/** On its way out a mark carries every field, so what goes in and what comes out have one type. */
const markOut = markSchema as unknown as z.ZodType<Mark, Mark>;
export const storedMark = z.object({ seq: z.int(), receivedAtMs: millis, mark: markOut });
export type StoredMark = z.infer<typeof storedMark>;

/** The cached summary of a run: enough for lists and strips; the marks are the truth. */
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
  struck: z.string().nullable(),
});
export type RunRow = z.infer<typeof runRow>;

export const channelReading = z.object({ atMs: millis, value: z.number() });
export const deviceEvent = z.object({
  id: idSchema,
  deviceId: idSchema,
  atMs: millis,
  kind: z.string(),
  body: z.record(z.string(), z.unknown()),
});
export type DeviceEvent = z.infer<typeof deviceEvent>;
export const channelSchema = z.object({ channel: z.string(), unit: z.string(), readings: z.array(channelReading) });

export const runReply = z.object({
  run: runRow,
  marks: z.array(storedMark),
  channels: z.array(channelSchema),
  events: z.array(deviceEvent),
});
export type RunReply = z.infer<typeof runReply>;
/** Several runs with their marks: what strips and statements are made from. */
export const runsReply = z.object({ runs: z.array(z.object({ run: runRow, marks: z.array(storedMark), gauge: z.array(channelReading) })) });
export type RunsReply = z.infer<typeof runsReply>;
export const marksAfterReply = z.object({ marks: z.array(storedMark) });

/** The clips on a simulated body's card. */
export const cardReply = z.object({ files: z.array(z.object({ name: z.string(), bytes: z.number(), modifiedMs: z.number() })) });
export type CardReply = z.infer<typeof cardReply>;

/** A picture of rig or screen, without its metadata. */
export const PHOTO_MAX_BYTES = 6_000_000;
export const photoReply = z.object({ sha256: sha256Schema });

export const strikeBody = z.strictObject({ id: idSchema, reason: z.string().trim().min(3, "Say why, in a few words.").max(500) });

export const limitBody = z.strictObject({
  /** Any run of the cell: the server reads the whole cell itself. */
  id: idSchema,
  ofRunId: idSchema,
  endpoint: z.enum(ENDPOINTS),
  confidence: z.number().gt(0).lt(1),
  /** Without assuming a shape, or by the evidence ladder. */
  method: z.enum(["shortest-of-n", "ladder"]).default("shortest-of-n"),
  /** Log standard deviation of the ladder's last rung, as chosen; without it the ladder's own. */
  assumedSd: z.number().min(0.01, "At least one per cent.").max(1, "At most a hundred per cent.").optional(),
  share: z.number().gt(0).lt(1),
});
export const evidenceRun = z.object({
  runId: idSchema,
  startedMs: millis,
  timeMs: z.object({ lo: z.int(), hi: z.int() }),
  event: z.union([z.literal(0), z.literal(1)]),
  because: z.string(),
});
const limitBasis = z.object({
  // The words alone: the first view must not load the statistics for them.
  rung: z.enum(["own", "pooled", "assumed"] satisfies Rung[]),
  by: z.string(),
  sd: z.number(),
  runs: z.int(),
  shutdowns: z.int(),
  cells: z.int(),
  runIds: z.array(idSchema),
});
export const limitSchema = z.object({
  id: idSchema,
  unitId: idSchema,
  unitName: z.string(),
  modelName: z.string(),
  modeName: z.string(),
  conditionName: z.string(),
  protocolName: z.string(),
  firmware: z.string(),
  endpoint: z.enum(ENDPOINTS),
  valueMs: z.int(),
  share: z.number(),
  confidence: z.number(),
  n: z.int(),
  events: z.int(),
  askedShare: z.number(),
  method: z.string(),
  methodVersion: z.int(),
  /** What a limit by the ladder stands on; absent for the shortest of n. */
  basis: limitBasis.optional(),
  recordedAtMs: millis,
  clockKind: z.enum(CLOCK_KINDS),
  condition: z.record(z.string(), z.unknown()),
  protocol: z.record(z.string(), z.unknown()),
  mode: z.record(z.string(), z.unknown()),
  leftOut: z.array(z.object({ runId: idSchema, because: z.string() })),
  ambients: z.object({ minC: z.number(), maxC: z.number(), guessed: z.int() }),
  evidence: z.array(evidenceRun),
  evidenceSha: z.string(),
  supersedes: idSchema.nullable(),
  supersededBy: idSchema.nullable(),
  retest: z.array(z.object({ code: z.string(), runIds: z.array(idSchema), text: z.string() })),
});
export type Limit = z.infer<typeof limitSchema>;
export const limitsReply = z.object({ limits: z.array(limitSchema) });

export const strikeReply = z.object({ id: idSchema });

export const deviceBody = z.strictObject({ id: idSchema, unitId: idSchema, name: z.string().trim().min(1, "Give it a name.").max(120) });
/** What a browser calls itself, so that a history can say which device did what. */
export const deviceNameBody = z.strictObject({ name: z.string().trim().min(1, "Give it a name.").max(60, "At most 60 characters.") });
/** The token is shown once; only its hash is kept. */
export const deviceTokenReply = z.object({ id: idSchema, token: z.string() });
export const devicesReply = z.object({
  devices: z.array(z.object({ id: idSchema, kind: z.string(), name: z.string(), unitId: idSchema.nullable(), revoked: z.boolean() })),
});

/** Where other devices reach this server, and whether it asks for a passphrase. */
export const pairingReply = z.object({ addresses: z.array(z.string()), passphrase: z.boolean() });
export const pairingCode = z.object({ code: z.string(), untilMs: millis });
export const pairBody = z.strictObject({ code: z.string().min(10).max(100) });

/** One stream per tab for all runs. Marks carry per-run seq, so a reader sees a hole and asks for it. */
export const streamMessage = z.discriminatedUnion("type", [
  /** `resumed`: everything since the cursor the reader named follows; else it must read again. */
  z.object({ type: z.literal("hello"), serverMs: millis, resumed: z.boolean() }),
  z.object({ type: z.literal("marks"), runId: idSchema, marks: z.array(storedMark) }),
  z.object({
    type: z.literal("events"),
    runId: idSchema,
    events: z.array(deviceEvent),
    readings: z.array(z.object({ channel: z.string(), unit: z.string(), atMs: millis, value: z.number() })),
  }),
  z.object({ type: z.literal("clocks"), clocks: z.array(clockSchema) }),
  z.object({ type: z.literal("changed"), what: z.enum(["kit", "limits", "runs", "devices"]) }),
]);
export type StreamMessage = z.infer<typeof streamMessage>;
export const pulseReply = z.object({ serverMs: millis, runs: z.array(z.object({ id: idSchema, lastSeq: z.int(), status: z.string() })) });
