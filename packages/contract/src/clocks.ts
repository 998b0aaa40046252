// Bench clocks as they travel.

import { millis } from "./primitives.ts";
import { z } from "zod";

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

/** Lines of the archive. */
export const clockLines = {
  clocks: clockSchema.extend({
    id: z.string().min(1).max(64),
    kind: z.enum(CLOCK_KINDS),
    /** Bench time when the archive was written. */
    nowMs: millis,
  }),
};
