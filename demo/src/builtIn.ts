// What every bench has from the first minute: conditions, protocols, and a practice body to rehearse with.

import type { ConditionDoc, Kit, ProtocolDoc } from "@keep-rolling/contract/kit";
import { demoId } from "./ids.ts";

export type KitDocs = { [E in keyof Kit]: Omit<Kit[E][number], "rev">[] };

const condition = (n: number, name: string, more: Partial<ConditionDoc>): ConditionDoc => ({
  id: demoId("kit", n),
  archived: false,
  name,
  ambientC: 21,
  toleranceC: 3,
  sun: "none",
  air: "still",
  screen: "lit",
  power: "internal",
  powerOffSetting: "normal",
  ...more,
});

const SCHOOLS: NonNullable<ProtocolDoc["schools"]> = {
  load: "not said",
  coolDown: { to: "ambient" },
  tauMin: 30,
  stopAfterMin: null,
  swaps: "none",
};

const protocol = (n: number, name: string, more: Partial<ProtocolDoc>): ProtocolDoc => ({
  id: demoId("kit", n),
  archived: false,
  name,
  continuity: { poweredOff: "strict", bridgeBodyOnMs: 20_000 },
  checkpointSec: 300,
  checkpointAfterWarningSec: 60,
  onWarning: "run on",
  schools: SCHOOLS,
  ...more,
});

export const ROOM = condition(1, "Room, screen lit", {});
export const UNTIL_IT_STOPS = protocol(11, "Until it stops", {});

export const PRACTICE_UNIT_ID = demoId("kit", 21);
const PRACTICE_MODEL_ID = demoId("kit", 20);

/** The practice body's recording modes: one that ends by heat in a good half hour, one that hardly warms. */
const practiceModes: KitDocs["modes"] = [
  {
    id: demoId("kit", 22),
    modelId: PRACTICE_MODEL_ID,
    name: "UHD 50, hot",
    archived: false,
    widthPx: 3840,
    heightPx: 2160,
    fpsNum: 50,
    fpsDen: 1,
    readout: "oversampled",
    readoutCrop: 1,
    codec: "H.264",
    compression: "all-intra",
    bits: 10,
    mbps: 200,
    target: "slot 1",
    clipLimitSec: null,
  },
  {
    id: demoId("kit", 23),
    modelId: PRACTICE_MODEL_ID,
    name: "HD 25, mild",
    archived: false,
    widthPx: 1920,
    heightPx: 1080,
    fpsNum: 25,
    fpsDen: 1,
    readout: "binned",
    readoutCrop: 1,
    codec: "H.264",
    compression: "long-GOP",
    bits: 8,
    mbps: 50,
    target: "slot 1",
    clipLimitSec: 1800,
  },
];

export const builtInKit: KitDocs = {
  models: [{ id: PRACTICE_MODEL_ID, name: "Practice body", archived: false, sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 24 }],
  units: [
    {
      id: PRACTICE_UNIT_ID,
      modelId: PRACTICE_MODEL_ID,
      name: "Practice body",
      serialLabel: "stand-in",
      firmware: "1.0",
      notes: "A simulated camera to rehearse with. Its runs never mix with real ones.",
      bench: "rehearsal",
      archived: false,
    },
  ],
  modes: practiceModes,
  figures: [],
  items: [],
  conditions: [
    ROOM,
    condition(2, "Shade outdoors", { ambientC: 25, toleranceC: 4, sun: "shade", air: "breeze" }),
    condition(3, "Direct sun", { ambientC: 30, toleranceC: 4, sun: "direct", air: "breeze" }),
    condition(4, "Room, screen dark, mains", { screen: "dark", power: "dummy or mains", powerOffSetting: "high" }),
  ],
  protocols: [
    UNTIL_IT_STOPS,
    protocol(12, "Stop at the first warning", { onWarning: "stop" }),
    protocol(13, "Until it stops, short power cuts ignored", { continuity: { poweredOff: "lenient", bridgeBodyOnMs: 20_000 } }),
    protocol(14, "Worst case until it stops", { schools: { ...SCHOOLS, load: "worst case", swaps: "as needed" } }),
    protocol(15, "Typical use until it stops", { schools: { ...SCHOOLS, load: "typical use" } }),
    protocol(16, "Two hours is enough", { schools: { ...SCHOOLS, stopAfterMin: 120 } }),
    protocol(17, "Fixed rest of 45 min", { schools: { ...SCHOOLS, coolDown: { to: "rest", restMin: 45 } } }),
  ],
  plans: [],
  days: [],
};
