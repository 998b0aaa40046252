// Lenses, cards, batteries and the rest of the kit, and the traits of a model that decide what fits it.

import type { ItemSpec, ModelTraits } from "@keep-rolling/core/kit";
import { ELECTRONIC_LEVELS, LENS_STABILISERS, RIG_KINDS } from "@keep-rolling/core/kit";
import { z } from "zod";
import { idSchema } from "./primitives.ts";

const word = z.string().trim().max(40, "At most 40 characters.");
const positive = (what: string, most: number) => z.number(what).gt(0, "More than zero.").max(most, `At most ${most}.`);

export const modelTraits = z.strictObject({
  mount: word,
  slots: z.array(word).min(1, "At least one card slot.").max(2, "At most two card slots."),
  batteryFits: word,
  sensorStabiliser: z.boolean(),
  electronic: z.array(z.enum(ELECTRONIC_LEVELS)).max(2),
  electronicNeedsOther: z.boolean(),
}) satisfies z.ZodType<ModelTraits>;

const medium = { capacityGb: positive("Gigabytes.", 1_000_000), writeMBps: positive("Megabytes per second.", 100_000).nullable() };
export const itemSpec = z.discriminatedUnion("kind", [
  z
    .strictObject({
      kind: z.literal("lens"),
      focalMinMm: positive("Millimetres.", 5000),
      focalMaxMm: positive("Millimetres.", 5000),
      stabiliser: z.enum(LENS_STABILISERS),
    })
    .refine((s) => s.focalMaxMm >= s.focalMinMm, { message: "The longest focal length is below the shortest.", path: ["focalMaxMm"] }),
  z.strictObject({ kind: z.literal("card"), ...medium }),
  z.strictObject({
    kind: z.literal("battery"),
    wh: positive("Watt-hours.", 10_000),
    chargeMin: positive("Minutes.", 1440).nullable(),
  }),
  z.strictObject({ kind: z.literal("power supply"), watts: positive("Watts.", 10_000) }),
  z.strictObject({ kind: z.literal("recorder"), ...medium }),
  z.strictObject({ kind: z.literal("rig"), type: z.enum(RIG_KINDS) }),
  z.strictObject({
    kind: z.literal("filter"),
    diameterMm: positive("Millimetres.", 500),
    stops: z.number("Stops, 0 for none.").min(0, "Zero or more.").max(30, "At most 30 stops."),
  }),
]) satisfies z.ZodType<ItemSpec>;

export const itemDoc = z.strictObject({
  id: idSchema,
  archived: z.boolean(),
  name: z.string().trim().min(1, "Give it a name.").max(120, "At most 120 characters."),
  count: z.int("How many, a whole number.").min(0, "Zero or more.").max(999, "At most 999."),
  fits: word,
  notes: z.string().trim().max(2000, "At most 2000 characters."),
  spec: itemSpec,
});
