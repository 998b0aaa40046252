// Plans and test days. A plan is a matrix of wanted trials; a day is its frame and the tester's choices. The schedule itself is never
// stored: it is worked out from these, the kit and what really happened.

import { isZone } from "./zones.ts";
import { ORDER_SCHOOLS } from "@keep-rolling/core/planning";
import { z } from "zod";
import { idSchema } from "./primitives.ts";
import { CLOCK_KINDS } from "./clocks.ts";

const name = z.string().trim().min(1, "Give it a name.").max(120, "At most 120 characters.");
/** Minutes after local midnight; a day may run past the next one. */
const minute = z.int("A time of day.").min(0).max(2880, "At most two days.");
const span = { fromMin: minute, toMin: minute };
const forward = { message: "It ends before it begins.", path: ["toMin"] };

export const planCell = z.strictObject({
  id: idSchema,
  unitId: idSchema,
  modeId: idSchema,
  conditionId: idSchema,
  protocolId: idSchema,
  trials: z.int("A whole number.").min(0, "Zero or more.").max(50, "At most 50."),
  /** Why it is not tested; null: it is. */
  skip: z.string().trim().min(3, "Say why, in a few words.").max(200, "At most 200 characters.").nullable(),
});
export type PlanCell = z.infer<typeof planCell>;
export const planDoc = z.strictObject({
  id: idSchema,
  archived: z.boolean(),
  name,
  /** Real runs and rehearsals are never planned together. */
  bench: z.enum(CLOCK_KINDS),
  cells: z.array(planCell).max(600, "At most 600 trials."),
});
export type PlanDoc = z.infer<typeof planDoc>;

export const sunWindow = z.strictObject(span).refine((s) => s.toMin > s.fromMin, forward);
export const weatherSpan = z
  .strictObject({
    ...span,
    tempC: z.number("Temperature in °C.").min(-40, "−40 to 60 °C.").max(60, "−40 to 60 °C."),
    humidityPct: z.number("Per cent.").min(0, "0 to 100 %.").max(100, "0 to 100 %."),
    sun: z.boolean(),
  })
  .refine((s) => s.toMin > s.fromMin, forward);
export const slotChoice = z.strictObject({
  slot: z.string().min(1).max(80),
  /** Dragged to this minute; null: where the planner puts it. */
  startMin: minute.nullable(),
  cardId: idSchema.nullable(),
  /** Swaps planned; null: as the protocol says. */
  swaps: z.boolean().nullable(),
  /** Left out of this day. */
  out: z.boolean(),
});
export type SlotChoice = z.infer<typeof slotChoice>;
export const dayDoc = z
  .strictObject({
    id: idSchema,
    archived: z.boolean(),
    name,
    planId: idSchema,
    date: z.iso.date("A date as 2031-06-21."),
    /** An IANA time zone; the day's minutes are its own. */
    zone: z.string().min(1).max(64).refine(isZone, "Not a time zone this computer knows, such as Europe/Dublin or UTC."),
    ...span,
    orderSchool: z.enum(ORDER_SCHOOLS),
    seed: z.int().min(0).max(0xffffffff),
    units: z.array(idSchema).max(20, "At most 20 units."),
    sun: z.array(sunWindow).max(12, "At most 12 sun windows."),
    weather: z.array(weatherSpan).max(48, "At most 48 stretches of weather."),
    chargers: z.int("A whole number.").min(0, "Zero or more.").max(20, "At most 20."),
    turnoverMin: z.number("Minutes.").min(0, "Zero or more.").max(600, "At most ten hours."),
    choices: z.array(slotChoice).max(1000),
  })
  .refine((d) => d.toMin > d.fromMin, forward);
export type DayDoc = z.infer<typeof dayDoc>;
