// The mark on the wire: schemas tied to the core's types. What fails here is set aside, never dropped.

import type { ForeignMark, KnownMark, Mark, StartBody } from "@keep-rolling/core/runs";
import {
  AIRS,
  AUTOFOCUS_LOADS,
  COMPRESSIONS,
  FINDERS,
  LOADS,
  POWERS,
  POWER_OFF_SETTINGS,
  READOUTS,
  SCREENS,
  SUNS,
  TARGETS,
} from "@keep-rolling/core/kit";
import {
  AMBIENT_BASES,
  CHECK_ITEMS,
  CHECK_RESULTS,
  CONDITION_CHANGES,
  END_CAUSES,
  GAP_CAUSES,
  GAP_POWERS,
  KNOWN_KINDS,
  MARK_SOURCES,
  MARK_VERSION,
  RUN_KINDS,
  START_STATES,
  START_STATE_BASES,
  TOUCHES,
  WARNING_PHASES,
} from "@keep-rolling/core/runs";
import { z } from "zod";

export const idSchema = z.uuid();
export const millis = z.int().min(-8_640_000_000_000).max(8_640_000_000_000);
const shortText = z.string().max(200);

export const unitSnapshot = z.strictObject({
  id: idSchema,
  name: shortText,
  serialLabel: shortText,
  firmware: shortText,
  modelId: idSchema,
  modelName: shortText,
  simulated: z.boolean(),
});
export const modeSnapshot = z.strictObject({
  id: idSchema,
  name: shortText,
  widthPx: z.int().positive(),
  heightPx: z.int().positive(),
  fpsNum: z.int().positive(),
  fpsDen: z.int().positive(),
  readout: z.enum(READOUTS),
  readoutCrop: z.number().min(0.5).max(10),
  codec: shortText,
  compression: z.enum(COMPRESSIONS),
  bits: z.int().min(8).max(16),
  mbps: z.number().positive(),
  target: z.enum(TARGETS),
  clipLimitSec: z.int().positive().nullable(),
});
export const conditionSettings = z.strictObject({
  humidityPct: z.number("Per cent.").min(0, "0 to 100 %.").max(100, "0 to 100 %.").nullish(),
  support: shortText.optional(),
  finder: z.enum(FINDERS).optional(),
  displayTimeoutSec: z.int("Whole seconds.").min(0).max(36_000, "At most ten hours.").nullish(),
  autofocus: z.enum(AUTOFOCUS_LOADS).optional(),
  profile: shortText.optional(),
  sharpening: shortText.optional(),
  noiseReduction: shortText.optional(),
});
export const conditionSnapshot = z.strictObject({
  id: idSchema.nullable(),
  name: shortText,
  ambientC: z.number().min(-40).max(70),
  toleranceC: z.number().min(0).max(30),
  sun: z.enum(SUNS),
  air: z.enum(AIRS),
  screen: z.enum(SCREENS),
  power: z.enum(POWERS),
  powerOffSetting: z.enum(POWER_OFF_SETTINGS),
  settings: conditionSettings.nullish(),
});
export const protocolSchools = z.strictObject({
  load: z.enum(LOADS),
  coolDown: z.union([
    z.strictObject({ to: z.literal("ambient") }),
    z.strictObject({ to: z.literal("rest"), restMin: z.number("Minutes.").min(0, "Zero or more.").max(1440, "At most a day.") }),
  ]),
  tauMin: z.number("Minutes.").min(1, "At least one minute.").max(600, "At most ten hours."),
  stopAfterMin: z.number("Minutes.").min(1, "At least one minute.").max(1440, "At most a day.").nullable(),
  swaps: z.enum(["none", "as needed"]),
});
export const continuityRule = z.strictObject({ poweredOff: z.enum(["strict", "lenient"]), bridgeBodyOnMs: z.int().min(0) });
export const dutyCycle = z.strictObject({
  onMin: z.number("Minutes.").min(0.1, "At least six seconds.").max(1440, "At most a day."),
  offMin: z.number("Minutes.").min(0.1, "At least six seconds.").max(1440, "At most a day."),
  power: z.enum(GAP_POWERS),
});
export const protocolSnapshot = z.strictObject({
  id: idSchema.nullable(),
  name: shortText,
  continuity: continuityRule,
  checkpointSec: z.int().min(0).max(7200),
  checkpointAfterWarningSec: z.int().min(0).max(7200),
  onWarning: z.enum(["run on", "stop"]),
  schools: protocolSchools.nullish(),
});
export const ambientSchema = z.strictObject({
  valueC: z.number().min(-40).max(70),
  plusMinusC: z.number().min(0).max(20),
  basis: z.enum(AMBIENT_BASES),
});
export const startStateSchema = z.strictObject({
  state: z.enum(START_STATES),
  by: z.enum(START_STATE_BASES),
  value: z.number().optional(),
});

export const startBody = z.strictObject({
  runKind: z.enum(RUN_KINDS),
  clockId: z.string().min(1).max(64),
  unit: unitSnapshot,
  mode: modeSnapshot,
  condition: conditionSnapshot,
  protocol: protocolSnapshot,
  ambient: ambientSchema,
  startState: startStateSchema,
  parentRunId: idSchema.optional(),
  slot: z.strictObject({ dayId: idSchema, slot: z.string().min(1).max(80) }).optional(),
  duty: dutyCycle.optional(),
}) satisfies z.ZodType<StartBody>;

const readingFields = {
  ambientC: z.number().optional(),
  humidityPct: z.number().optional(),
  shellC: z.number().optional(),
  gauge: z.number().optional(),
  batteryPct: z.number().optional(),
  countdownSec: z.number().optional(),
  freeGb: z.number().optional(),
};
export const sha256Schema = z.string().regex(/^[0-9a-f]{64}$/);
const noteText = z.string().max(4000);

const bodies = {
  start: startBody,
  gap: z.strictObject({ cause: z.enum(GAP_CAUSES), power: z.enum(GAP_POWERS) }),
  resume: z.strictObject({}),
  split: z.strictObject({}),
  reading: z.strictObject(readingFields),
  touch: z.strictObject({ feel: z.enum(TOUCHES) }),
  warning: z.strictObject({ phase: z.enum(WARNING_PHASES), minutesLeft: z.number().min(0).max(600).optional() }),
  condition: z.strictObject({ change: z.enum(CONDITION_CHANGES), text: noteText.optional() }),
  end: z.strictObject({
    cause: z.enum(END_CAUSES),
    foundOff: z.strictObject({ lastSeenMs: millis }).optional(),
    becauseHot: z.boolean().optional(),
  }),
  check: z.strictObject({ item: z.enum(CHECK_ITEMS), result: z.enum(CHECK_RESULTS), minutes: z.number().min(0).max(1000).optional() }),
  note: z.strictObject({ text: noteText }),
  photo: z.strictObject({
    sha256: sha256Schema.optional(),
    caption: noteText.optional(),
  }),
  correction: z.strictObject({
    ...readingFields,
    atMs: millis.optional(),
    cause: z.enum([...END_CAUSES, ...GAP_CAUSES]).optional(),
    power: z.enum(GAP_POWERS).optional(),
    feel: z.enum(TOUCHES).optional(),
    phase: z.enum(WARNING_PHASES).optional(),
    minutesLeft: z.number().min(0).max(600).optional(),
    change: z.enum(CONDITION_CHANGES).optional(),
    item: z.enum(CHECK_ITEMS).optional(),
    result: z.enum(CHECK_RESULTS).optional(),
    minutes: z.number().min(0).max(1000).optional(),
    text: noteText.optional(),
    caption: noteText.optional(),
    sha256: sha256Schema.optional(),
    lastSeenMs: millis.nullable().optional(),
    becauseHot: z.boolean().optional(),
    ambient: ambientSchema.optional(),
    startState: startStateSchema.optional(),
    continuity: continuityRule.optional(),
  }),
  undo: z.strictObject({}),
};

const envelope = {
  id: idSchema,
  runId: idSchema,
  deviceId: idSchema,
  deviceSeq: z.int().min(0),
  atMs: millis,
  madeAtMs: millis,
  source: z.enum(MARK_SOURCES),
  deviceMs: millis,
  offsetMs: millis,
  offsetErrMs: z.int().min(0).max(86_400_000_000),
  target: idSchema.optional(),
  replaces: idSchema.optional(),
  accepts: idSchema.optional(),
};
const of = <K extends keyof typeof bodies>(kind: K) =>
  z.strictObject({ ...envelope, v: z.literal(MARK_VERSION), kind: z.literal(kind), body: bodies[kind] });
const aimed = <K extends "correction" | "undo">(kind: K) =>
  z.strictObject({ ...envelope, target: idSchema, v: z.literal(MARK_VERSION), kind: z.literal(kind), body: bodies[kind] });

export const knownMark = z.discriminatedUnion("kind", [
  of("start"),
  of("gap"),
  of("resume"),
  of("split"),
  of("reading"),
  of("touch"),
  of("warning"),
  of("condition"),
  of("end"),
  of("check"),
  of("note"),
  of("photo"),
  aimed("correction"),
  aimed("undo"),
]) satisfies z.ZodType<KnownMark>;

const isFuture = (m: { kind: string; v: number }): boolean => m.v > MARK_VERSION || !(KNOWN_KINDS as readonly string[]).includes(m.kind);
/** A kind or version this program does not know: kept whole, shown as not understood. */
export const foreignMark = z
  .looseObject({
    ...envelope,
    v: z.int().min(1),
    kind: z.string().min(1).max(40),
    body: z.record(z.string(), z.unknown()),
    foreign: z.literal(true).default(true),
  })
  .refine(isFuture, "a known kind of this version must have the body of its kind") satisfies z.ZodType<ForeignMark>;

export const markSchema = z.union([knownMark, foreignMark]) satisfies z.ZodType<Mark>;

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
