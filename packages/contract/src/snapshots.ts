// Kit as a start mark carries it, tied to the core's types.

import { idSchema, shortText } from "./primitives.ts";
import {
  AIRS,
  AUTOFOCUS_LOADS,
  CHROMAS,
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
import { z } from "zod";

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
  chroma: z.enum(CHROMAS).nullish(),
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

export const protocolSnapshot = z.strictObject({
  id: idSchema.nullable(),
  name: shortText,
  continuity: continuityRule,
  checkpointSec: z.int().min(0).max(7200),
  checkpointAfterWarningSec: z.int().min(0).max(7200),
  onWarning: z.enum(["run on", "stop"]),
  schools: protocolSchools.nullish(),
});
