// Shutter-speed tests as they travel: the bodies of their facts.

import { REFERENCES } from "@keep-rolling/core/exposure";
import type { HoldPlan } from "@keep-rolling/core/holds";
import { GRADES, SETTINGS, STANCES } from "@keep-rolling/core/holds";
import { z } from "zod";

const words = (most: number) => z.string().max(most);
/** log2 of seconds: from 1/65,536 s to an hour. */
const place = z.number().min(-16).max(12);
const span = z
  .strictObject({ fastest: place, slowest: place })
  .refine((s) => s.fastest <= s.slowest, "the fastest time must not be slower");
const grade = z.enum(GRADES);

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
  stepStops: z.union([z.literal(1), z.literal(0.5)]),
  shotsEach: z.int().min(1).max(20),
}) satisfies z.ZodType<HoldPlan>;

export const holdBodies = {
  holdPlan: z.strictObject({ hold: holdPlan }),
  shot: z.strictObject({ setting: z.enum(SETTINGS), x: place, grade }),
};
export const holdCorrections = { grade: grade.optional() };
