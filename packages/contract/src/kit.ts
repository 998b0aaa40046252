// Kit, conditions and protocols as they travel. Each row carries `rev` for optimistic locking; ids are made by the client.

import {
  AIRS,
  CHROMAS,
  COMPRESSIONS,
  FIGURE_KINDS,
  FIGURE_STATED,
  POWERS,
  POWER_OFF_SETTINGS,
  READOUTS,
  SCREENS,
  SUNS,
  TARGETS,
} from "@keep-rolling/core/kit";
import { z } from "zod";
import { itemDoc, modelTraits } from "./items.ts";
import { conditionSnapshot, protocolSnapshot } from "./snapshots.ts";
import { idSchema, millis, jsonObject } from "./primitives.ts";
import { dayDoc, planDoc } from "./plan.ts";
import { CLOCK_KINDS } from "./clocks.ts";

const name = z.string().trim().min(1, "Give it a name.").max(120, "At most 120 characters.");
const optionalText = z.string().trim().max(2000, "At most 2000 characters.");
const row = { id: idSchema, archived: z.boolean() };

export const modelDoc = z.strictObject({
  ...row,
  name,
  sensorWidthMm: z.number("Width in millimetres.").min(1, "A sensor is at least 1 mm wide.").max(100, "At most 100 mm."),
  sensorHeightMm: z.number("Height in millimetres.").min(1, "A sensor is at least 1 mm high.").max(100, "At most 100 mm."),
  megapixels: z.number("Million pixels.").min(0.1, "At least 0.1 million pixels.").max(1000, "At most 1000 million pixels."),
  /** Absent in kits written before these existed. */
  traits: modelTraits.nullish(),
});
export const unitDoc = z.strictObject({
  ...row,
  modelId: idSchema,
  name,
  serialLabel: z.string().trim().max(80, "At most 80 characters."),
  firmware: z.string().trim().min(1, "Say which firmware is on it; every run records it.").max(40, "At most 40 characters."),
  notes: optionalText,
  /** Which clock its runs are on: a real body, or a stand-in of the rehearsal or the demo. */
  bench: z.enum(CLOCK_KINDS),
  /** How it stamps its clips, and how far its clock was off when last compared (bench minus camera); null: not asked yet. */
  clips: z.strictObject({ stamp: z.enum(["start", "close"]), zone: z.enum(["UTC", "local"]), offsetMs: z.int().nullable() }).nullish(),
});
export const modeDoc = z.strictObject({
  ...row,
  modelId: idSchema,
  name,
  widthPx: z.int("Whole pixels.").min(160).max(20_000),
  heightPx: z.int("Whole pixels.").min(120).max(20_000),
  fpsNum: z.int("A frame rate, e.g. 25 or 29.97.").min(1).max(1_000_000),
  fpsDen: z.int("Whole number.").min(1).max(10_000),
  readout: z.enum(READOUTS),
  readoutCrop: z.number("A factor, 1 for none.").min(0.5).max(10),
  codec: z.string().trim().min(1, "Name the codec.").max(40),
  compression: z.enum(COMPRESSIONS),
  bits: z.int("Bits per sample.").min(8, "8 to 16 bits.").max(16, "8 to 16 bits."),
  /** Absent or null: not said. */
  chroma: z.enum(CHROMAS).nullish(),
  mbps: z.number("Mbit/s.").min(0.1, "At least 0.1 Mbit/s.").max(50_000, "At most 50,000 Mbit/s."),
  target: z.enum(TARGETS),
  clipLimitSec: z.int().min(1, "At least one second.").max(86_400, "At most 24 hours.").nullable(),
});
const said = <T extends string>(words: readonly T[]) => z.enum(["not said", ...words]).optional();
export const figureSays = z.strictObject({
  start: said(["cold", "warm"]),
  compression: said(COMPRESSIONS),
  sun: said(SUNS),
  air: said(AIRS),
  screen: said(SCREENS),
  power: said(POWERS),
  powerOffSetting: said(POWER_OFF_SETTINGS),
});
export const figureDoc = z
  .strictObject({
    ...row,
    modeId: idSchema,
    kind: z.enum(FIGURE_KINDS),
    ambientC: z.number("Temperature in °C.").min(-40, "−40 to 70 °C.").max(70, "−40 to 70 °C.").nullable(),
    limitSec: z.int("Give the time, e.g. 40 min.").min(1, "A time above zero.").max(360_000, "At most 100 hours.").nullable(),
    /** Absent: a time, as before it was asked. */
    stated: z.enum(FIGURE_STATED).nullish(),
    conditions: optionalText,
    source: optionalText,
    /** What the figure tells of its conditions; what is absent was not said. */
    says: figureSays.nullish(),
  })
  .superRefine(({ limitSec, stated }, ctx) => {
    if (stated === "no limit" && limitSec !== null)
      ctx.addIssue({ code: "custom", path: ["limitSec"], message: "No limit is stated: leave the time empty." });
    if (stated !== "no limit" && limitSec === null)
      ctx.addIssue({ code: "custom", path: ["limitSec"], message: "Give the time, e.g. 40 min." });
  });
export const conditionDoc = conditionSnapshot.extend({ id: idSchema, name, archived: z.boolean() });
export const protocolDoc = protocolSnapshot.extend({ id: idSchema, name, archived: z.boolean() });

export const KIT_ENTITIES = ["models", "units", "modes", "figures", "items", "conditions", "protocols", "plans", "days"] as const;
export type KitEntity = (typeof KIT_ENTITIES)[number];
export const kitDocs = {
  models: modelDoc,
  units: unitDoc,
  modes: modeDoc,
  figures: figureDoc,
  items: itemDoc,
  conditions: conditionDoc,
  protocols: protocolDoc,
  plans: planDoc,
  days: dayDoc,
};

const rev = { rev: z.int() };
export const kitReply = z.object({
  models: z.array(modelDoc.extend(rev)),
  units: z.array(unitDoc.extend(rev)),
  modes: z.array(modeDoc.extend(rev)),
  figures: z.array(figureDoc.safeExtend(rev)),
  items: z.array(itemDoc.extend(rev)),
  conditions: z.array(conditionDoc.extend(rev)),
  protocols: z.array(protocolDoc.extend(rev)),
  plans: z.array(planDoc.extend(rev)),
  days: z.array(dayDoc.safeExtend(rev)),
});
export type Kit = z.infer<typeof kitReply>;
export type ConditionDoc = z.infer<typeof conditionDoc>;
export type ProtocolDoc = z.infer<typeof protocolDoc>;

/** The kit as a file: rows of each kind, without plans and days. */
export const BUNDLE_ENTITIES = ["models", "units", "modes", "figures", "items", "conditions", "protocols"] as const;
export const kitBundle = z.object({
  format: z.literal("keep-rolling-kit", "This is no kit file of Keep Rolling."),
  formatVersion: z.literal(1, "This kit file was written by a later version."),
  kit: z.strictObject({
    models: z.array(modelDoc).max(2000).default([]),
    units: z.array(unitDoc).max(2000).default([]),
    modes: z.array(modeDoc).max(5000).default([]),
    figures: z.array(figureDoc).max(5000).default([]),
    items: z.array(itemDoc).max(5000).default([]),
    conditions: z.array(conditionDoc).max(2000).default([]),
    protocols: z.array(protocolDoc).max(2000).default([]),
  }),
});
export type KitBundle = z.infer<typeof kitBundle>;
export const bundleReport = z.object({
  rows: z.array(z.object({ entity: z.enum(BUNDLE_ENTITIES), id: idSchema, name: z.string(), what: z.enum(["new", "changed", "same"]) })),
  stored: z.boolean(),
});
export type BundleReport = z.infer<typeof bundleReport>;

export const UNIT_EVENT_KINDS = ["repair", "fault", "out of service"] as const;
/** What happened to a body. `toMs` null: until further notice (out of service) or a moment (the others). */
export const unitEventBody = z.strictObject({
  id: idSchema,
  kind: z.enum(UNIT_EVENT_KINDS),
  atMs: millis,
  toMs: millis.nullable(),
  text: z.string().trim().max(500, "At most 500 characters."),
});
/** Ends or takes back an event; the event itself stays on record. */
export const unitEventAfterBody = z.strictObject({ id: idSchema, event: z.enum(["taken back", "ended"]), atMs: millis });
export const unitEventSchema = z.object({
  id: idSchema,
  unitId: idSchema,
  atMs: millis,
  kind: z.string(),
  body: z.record(z.string(), z.unknown()),
});
export const unitEventsReply = z.object({ events: z.array(unitEventSchema) });
export type UnitEvent = z.infer<typeof unitEventSchema>;

export const savedReply = z.object({ id: idSchema, rev: z.int() });
export const historyReply = z.object({
  versions: z.array(z.object({ rev: z.int(), savedAtMs: z.number(), doc: z.record(z.string(), z.unknown()) })),
});

/** Lines of the archive. */
export const kitLines = {
  /** Every version of every kit row; the one with the greatest rev is the row. */
  kit: z.object({ entity: z.enum(KIT_ENTITIES), id: idSchema, rev: z.int().min(1), savedAtMs: millis, doc: jsonObject }),
  unitEvents: z.object({ id: idSchema, unitId: idSchema, atMs: millis, kind: z.string().max(16), body: jsonObject }),
};
