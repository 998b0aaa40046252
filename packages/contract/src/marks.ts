// The mark on the wire: schemas tied to the core's types. What fails here is set aside, never dropped.

import { factEnvelope } from "./facts.ts";
import { idSchema, millis, sha256Schema } from "./primitives.ts";
import { conditionSnapshot, continuityRule, modeSnapshot, protocolSnapshot, unitSnapshot } from "./snapshots.ts";
import {
  AMBIENT_BASES,
  CHECK_ITEMS,
  CHECK_RESULTS,
  CONDITION_CHANGES,
  END_CAUSES,
  GAP_CAUSES,
  GAP_POWERS,
  KNOWN_KINDS,
  MARK_KINDS,
  MARK_VERSION,
  RUN_KINDS,
  START_STATES,
  START_STATE_BASES,
  TOUCHES,
  WARNING_PHASES,
} from "@keep-rolling/core/runs";
import type { ForeignMark, KnownKind, KnownMark, Mark, MarkBodies, RunSettings, StartBody } from "@keep-rolling/core/runs";
import { z } from "zod";

export const dutyCycle = z.strictObject({
  onMin: z.number("Minutes.").min(0.1, "At least six seconds.").max(1440, "At most a day."),
  offMin: z.number("Minutes.").min(0.1, "At least six seconds.").max(1440, "At most a day."),
  power: z.enum(GAP_POWERS),
});

export const ambientSchema = z.strictObject({
  valueC: z.number().min(-40).max(70),
  plusMinusC: z.number().min(0).max(20),
  basis: z.enum(AMBIENT_BASES),
});

const setting = z.string().trim().max(80, "At most 80 characters.").optional();
export const runSettings = z.strictObject({
  iso: setting,
  shutter: setting,
  whiteBalance: setting,
  focus: setting,
  profile: setting,
  card: setting,
  battery: setting,
}) satisfies z.ZodType<RunSettings>;

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
  settings: runSettings.optional(),
  origin: z.literal("notebook").optional(),
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

const noteText = z.string().max(4000);

/** The body of every kind: one that is missing, or not as the core says, does not compile (and marks.test.ts holds both sides equal). */
export const bodies = {
  start: startBody,
  gap: z.strictObject({ cause: z.enum(GAP_CAUSES), power: z.enum(GAP_POWERS), batteryPct: z.number().min(0).max(100).optional() }),
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
    unit: unitSnapshot.optional(),
    mode: modeSnapshot.optional(),
    condition: conditionSnapshot.optional(),
    settings: runSettings.optional(),
    follows: z
      .strictObject({ runId: idSchema, as: z.enum(["recovery", "fallback"]) })
      .nullable()
      .optional(),
    ambient: ambientSchema.optional(),
    startState: startStateSchema.optional(),
    continuity: continuityRule.optional(),
  }),
  undo: z.strictObject({}),
} satisfies { [K in KnownKind]: z.ZodType<MarkBodies[K]> };

const envelope = { ...factEnvelope, runId: idSchema };
const of = <K extends KnownKind>(kind: K) =>
  z.strictObject({
    ...envelope,
    ...(MARK_KINDS[kind].aimed ? { target: idSchema } : {}),
    v: z.literal(MARK_VERSION),
    kind: z.literal(kind),
    body: bodies[kind],
  });

// One schema a kind, whatever kinds there are; the list is the core's.
export const knownMark = z.discriminatedUnion("kind", KNOWN_KINDS.map(of) as [ReturnType<typeof of>]) as unknown as z.ZodType<KnownMark>;

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

/** On its way out a mark carries every field, so what goes in and what comes out have one type. */
const markOut = markSchema as unknown as z.ZodType<Mark, Mark>;

export const storedMark = z.object({ seq: z.int(), receivedAtMs: millis, mark: markOut });

export type StoredMark = z.infer<typeof storedMark>;
