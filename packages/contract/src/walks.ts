// Walking tests as they travel: the bodies of their facts, and what was measured of each clip.

import type { WalkPlan } from "@keep-rolling/core/walks";
import {
  AFTERWARDS,
  ANSWERS,
  ASSIGNED_BY,
  ELECTRONIC_MODES,
  LOCKED,
  MOVES,
  PRICES,
  QUESTIONS,
  SENSOR_MODES,
  SUPPORTS,
  USES,
  VERDICTS,
} from "@keep-rolling/core/walks";
import { z } from "zod";
import { idSchema, millis, sha256Schema } from "./primitives.ts";

const words = (most: number) => z.string().max(most);
const setup = z.strictObject({
  id: idSchema,
  name: z.string().min(1).max(120),
  lens: z.boolean(),
  sensor: z.enum(SENSOR_MODES),
  electronic: z.enum(ELECTRONIC_MODES),
  horizon: z.boolean(),
  support: z.enum(SUPPORTS),
  afterwards: z.enum(AFTERWARDS),
  note: words(500),
  shutterSec: z.number().gt(0).max(60).optional(),
  sharpening: z.enum(["off", "on"]).optional(),
});
const locked = z.strictObject(Object.fromEntries(LOCKED.map((l) => [l, words(40)])) as Record<(typeof LOCKED)[number], z.ZodString>);
const above = (most: number) => z.number().gt(0).max(most).nullable();

export const walkPlan = z.strictObject({
  routeM: above(10_000),
  ground: words(120),
  walker: words(20),
  lensName: words(120),
  focalMm: above(5000),
  equivalentMm: above(20_000),
  locked,
  rateHz: above(2000),
  shutterSec: above(60),
  moves: z.array(z.strictObject({ id: idSchema, kind: z.enum(MOVES) })).max(20),
  setups: z.array(setup).max(30),
  controlId: idSchema.nullable(),
  takesWanted: z.int().min(1).max(20),
  seed: z.int().min(0).max(0xffffffff),
}) satisfies z.ZodType<WalkPlan>;

const empty = z.strictObject({});
/** Milliseconds within a clip. */
const moment = z.int().min(0).max(360_000_000);
const answers = z.strictObject(
  Object.fromEntries(QUESTIONS.map((q) => [q, z.enum(ANSWERS)])) as Record<
    (typeof QUESTIONS)[number],
    z.ZodEnum<{ left: "left"; right: "right"; none: "none" }>
  >,
);
/** A share of the picture's width. */
const frac = z.number().min(0).max(100);
const frame = z.int().min(0).max(10_000_000);
export const walkBodies = {
  plan: z.strictObject({ walk: walkPlan }),
  take: z.strictObject({
    setupId: idSchema,
    moveId: idSchema,
    unitId: idSchema.nullable(),
    untimed: z.boolean().optional(),
    of: idSchema.optional(),
  }),
  takeEnded: empty,
  takeBad: z.strictObject({ reason: words(200) }),
  clip: z.strictObject({
    sha256: sha256Schema,
    name: words(300),
    bytes: z.int().min(0),
    startMs: millis.nullable(),
    durationMs: moment,
    unitId: idSchema.optional(),
  }),
  assign: z.strictObject({ sha256: sha256Schema, takeId: idSchema.nullable(), by: z.enum(ASSIGNED_BY) }),
  trim: z.strictObject({ sha256: sha256Schema, inFrame: frame, outFrame: frame.nullable() }),
  segment: z.strictObject({ sha256: sha256Schema, takeId: idSchema, fromMs: moment.nullable(), toMs: moment.nullable() }),
  judgement: z.strictObject({ moveId: idSchema, judge: z.string().min(1).max(20), left: idSchema, right: idSchema, answers }),
  price: z.strictObject({ setupId: idSchema, price: z.enum(PRICES), value: z.number().min(-1_000_000).max(1_000_000).nullable() }),
  conclusion: z.strictObject({
    use: z.enum(USES),
    moveId: idSchema,
    verdict: z.enum(VERDICTS),
    setupId: idSchema.nullable(),
    why: words(1000),
    unitId: idSchema.nullable(),
    firmware: words(60),
    lensName: words(120),
    said: words(2000),
    shake: z.strictObject({ point: frac, low90: frac, high90: frac }).nullable(),
    notToldApart: z.array(idSchema).max(30),
    steadierThen: z.array(idSchema).max(30),
    takeIds: z.array(idSchema).max(600),
    judgements: z.int().min(0).max(1_000_000),
    method: words(60),
  }),
};
export const walkCorrections = {
  setupId: idSchema.optional(),
  moveId: idSchema.optional(),
  reason: words(200).optional(),
};

/** The path of a clip, packed; see core's motion/pack. */
export const PACK_TYPE = "application/x-keep-rolling-path";
export const PACK_MAX_BYTES = 16_000_000;
/** A small copy of a clip for looking at, without sound. */
export const PROXY_TYPE = "video/webm";
export const PROXY_MAX_BYTES = 64_000_000;
/** The largest clip the server decodes for a browser that cannot. */
export const SERVER_CLIP_MAX_BYTES = 8_000_000_000;

/** Half an hour at 50 a second, in base64. */
const ENVELOPE_MAX = 120_000;

/** How far the server is with a clip it decodes; "none": it knows of no such clip. Share of the stage, 0 to 1. */
export const decodeProgress = z.object({ stage: z.enum(["none", "waiting", "receiving", "decoding"]), share: z.number().min(0).max(1) });
export type DecodeProgress = z.infer<typeof decodeProgress>;

/** What is kept of a clip besides its facts in the session. */
export const measuredClip = z.strictObject({
  sha256: sha256Schema,
  /** Of the packed path. */
  packSha256: sha256Schema,
  method: words(60),
  methodVersion: z.int().min(1),
  widthPx: z.int().min(1).max(20_000),
  heightPx: z.int().min(1).max(20_000),
  codec: words(60),
  /** Where it was decoded. */
  by: z.enum(["browser", "server", "made"]),
  /** Pictures at fixed moments from the first frame; empty when none could be kept. */
  stills: z.array(z.strictObject({ timeSec: z.number().min(0).max(36_000), sha256: sha256Schema })).max(12),
  /** A small copy for looking at; null: none could be made. Absent before there were any. */
  proxySha256: sha256Schema.nullish(),
  /** Against the control's clip named; null: not compared, or nothing in common. */
  crop: z.strictObject({ against: sha256Schema, factor: z.number().gt(0).max(20).nullable() }).nullable(),
  /** Microphone: level of the quietest tenth, dB below full scale; null: no sound. */
  sound: z
    .strictObject({
      floorDb: z.number().min(-200).max(20),
      peaks: z.array(z.strictObject({ hz: z.number().min(0).max(96_000), overDb: z.number().min(0).max(200) })).max(12),
      /** Loudness all along, see core's sound; absent in measurements before it was kept. */
      envelope: z.base64().max(ENVELOPE_MAX).optional(),
    })
    .nullable(),
  notes: z.array(words(40)).max(12),
});
export type MeasuredClip = z.infer<typeof measuredClip>;
export const measuredClips = z.object({ clips: z.array(measuredClip) });

/** Lines of the archive. */
export const walkLines = {
  walkClips: z.object({ sessionId: idSchema, sha256: sha256Schema, clip: measuredClip }),
};
