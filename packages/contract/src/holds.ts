// Shutter-speed tests as they travel: the bodies of their facts.

import { REFERENCES } from "@keep-rolling/core/exposure";
import type { StoredPlan } from "@keep-rolling/core/holds";
import { GRADES, JUDGED, LIGHTS, ORDERS, SETTING_SOURCES, SETTINGS, SHARPNESS, STANCES } from "@keep-rolling/core/holds";
import { z } from "zod";
import { sha256Schema } from "./primitives.ts";

const words = (most: number) => z.string().max(most);
/** log2 of seconds: from 1/65,536 s to an hour. */
const place = z.number().min(-16).max(12);
const span = z
  .strictObject({ fastest: place, slowest: place })
  .refine((s) => s.fastest <= s.slowest, "the fastest time must not be slower");
const grade = z.enum(GRADES);
const sensitivity = z.number().gt(0).max(10_000_000);
const aperture = z.number().min(0.5).max(128);
const metered = z
  .strictObject({
    x: place,
    iso: sensitivity,
    fNumber: aperture,
    isoLeast: sensitivity,
    isoMost: sensitivity,
    fWidest: aperture,
    fNarrowest: aperture,
    filters: z.array(z.number().gt(0).max(24)).max(10),
  })
  .refine((m) => m.isoLeast <= m.iso && m.iso <= m.isoMost, "the sensitivity metered must lie within its limits")
  .refine((m) => m.fWidest <= m.fNumber && m.fNumber <= m.fNarrowest, "the aperture metered must lie within its limits");
const sensor = z.strictObject({
  widthMm: z.number().gt(0).max(200),
  heightMm: z.number().gt(0).max(200),
  pixelsWide: z.int().min(1).max(100_000),
});

export const holdPlan = z.strictObject({
  lensName: words(120),
  focalMm: z.number().gt(0).max(5000),
  equivalentMm: z.number().gt(0).max(20_000).nullable(),
  stance: z.enum(STANCES),
  by: words(20),
  state: words(200),
  reference: z.enum(REFERENCES),
  claimStops: z.number().gt(0).max(12).nullable(),
  spans: z.strictObject({ off: span.nullable(), on: span.nullable() }),
  stepStops: z.union([z.literal(1), z.literal(0.5), z.literal(1 / 3)]),
  shotsEach: z.int().min(1).max(20),
  // What plans of the first version do not say.
  order: z.enum(ORDERS).optional(),
  seed: z.int().min(0).max(0xffff_ffff).optional(),
  judged: z.enum(JUDGED).optional(),
  share: z.number().min(0.5).max(0.95).optional(),
  light: z.enum(LIGHTS).optional(),
  subjectMoves: z.boolean().optional(),
  metered: metered.nullable().optional(),
  brightness: z.enum(["equal", "fixed"]).optional(),
  sensor: sensor.nullable().optional(),
}) satisfies z.ZodType<StoredPlan>;

const setting = z.enum(SETTINGS);
const share = z.number().min(0).max(1);
const cuts = z.array(z.strictObject({ u: share, v: share, sha256: sha256Schema })).max(40);
const picture = z.strictObject({
  sha256: sha256Schema,
  name: words(200),
  camera: words(200),
  exposureSec: z
    .number()
    .min(2 ** -16)
    .max(2 ** 12),
  takenAt: words(40).nullable(),
  focalMm: z.number().gt(0).max(20_000).nullable(),
  iso: sensitivity.nullable(),
  fNumber: z.number().gt(0).max(1000).nullable(),
  widthPx: z.int().min(1).max(200_000),
  heightPx: z.int().min(1).max(200_000),
  setting: setting.nullable(),
  settingBy: z.enum(SETTING_SOURCES).nullable(),
  preview: sha256Schema,
  sidePx: z.int().min(16).max(4000),
  cuts,
  counted: z.boolean().nullable(),
});
const notLost = z.enum(["sharp", "usable", "soft"]);

export const holdBodies = {
  holdPlan: z.strictObject({ hold: holdPlan }),
  shot: z.strictObject({ setting, x: place, grade }),
  picture,
  sharpness: z.strictObject({ by: z.string().trim().min(1).max(20), sharpness: z.enum(SHARPNESS), blind: z.boolean() }),
  keptFrom: z.strictObject({ keptFrom: z.strictObject({ print: notLost, "half size": notLost, screen: notLost }) }),
};
export const holdCorrections = {
  grade: grade.optional(),
  setting: setting.nullable().optional(),
  settingBy: z.enum(SETTING_SOURCES).nullable().optional(),
  cuts: cuts.optional(),
  counted: z.boolean().nullable().optional(),
};
