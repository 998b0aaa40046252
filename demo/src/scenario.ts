// The scenario: a rowing league's volunteer video crew readies three bodies for a summer regatta. Everything is invented.

import type { ConditionDoc, Kit } from "@keep-rolling/contract/kit";
import type { KitDocs } from "./builtIn.ts";
import { demoId } from "./ids.ts";
import { ITEMS, PLOVER_TRAITS, TERN_TRAITS, WADER_TRAITS } from "./items.ts";
import { planOf, sundayOf } from "./plan.ts";

const id = (n: number): string => demoId("kit", n);
export const PLOVER = id(101);
export const TERN = id(102);
export const WADER = id(103);

type Mode = Kit["modes"][number];
const mode = (n: number, modelId: string, name: string, more: Partial<Mode>): Omit<Mode, "rev"> => ({
  id: id(n),
  modelId,
  name,
  archived: false,
  widthPx: 3840,
  heightPx: 2160,
  fpsNum: 25,
  fpsDen: 1,
  readout: "oversampled",
  readoutCrop: 1,
  codec: "H.265",
  compression: "long-GOP",
  bits: 10,
  mbps: 150,
  target: "slot 1",
  clipLimitSec: null,
  ...more,
});

const condition = (n: number, name: string, more: Partial<ConditionDoc>): ConditionDoc => ({
  id: id(n),
  archived: false,
  name,
  ambientC: 22,
  toleranceC: 2,
  sun: "none",
  air: "still",
  screen: "lit",
  power: "internal",
  powerOffSetting: "normal",
  ...more,
});

export const MODES = {
  ploverHot: mode(111, id(91), "UHD 50 oversampled", { fpsNum: 50, compression: "all-intra", codec: "H.264", mbps: 400 }),
  ploverLong: mode(117, id(91), "UHD 50 oversampled, long-GOP", { fpsNum: 50, mbps: 200 }),
  ploverDay: mode(112, id(91), "UHD 25 oversampled", {}),
  ternFast: mode(113, id(92), "UHD 100 cropped", { fpsNum: 100, readout: "pixel for pixel", readoutCrop: 1.18, mbps: 280 }),
  ternDay: mode(114, id(92), "UHD 25 binned", { readout: "binned", bits: 8, mbps: 100 }),
  waderDay: mode(115, id(93), "UHD 25 line-skipped", { readout: "line-skipped", bits: 8, codec: "H.264", mbps: 120 }),
  waderLight: mode(116, id(93), "HD 50 binned", {
    widthPx: 1920,
    heightPx: 1080,
    fpsNum: 50,
    readout: "binned",
    bits: 8,
    codec: "H.264",
    mbps: 50,
    clipLimitSec: 7200,
  }),
};

export const CONDITIONS = {
  boathouse: condition(121, "Boathouse", {}),
  boathouseMains: condition(122, "Boathouse, mains", { power: "dummy or mains" }),
  boathouseEarly: condition(125, "Boathouse, early morning", { ambientC: 15 }),
  boathouseHot: condition(126, "Boathouse, hot afternoon", { ambientC: 29 }),
  pontoon: condition(123, "Pontoon, direct sun", { ambientC: 30, sun: "direct", air: "breeze" }),
  tower: condition(124, "Finish tower, shade", { ambientC: 26, sun: "shade", air: "breeze", power: "dummy or mains" }),
};

const PLAN = planOf({ plover: PLOVER, tern: TERN, wader: WADER }, MODES, CONDITIONS);
const SUNDAY = sundayOf(PLAN, [PLOVER, TERN, WADER]);
/** The block that rolls when the demo is first opened. */
export const ROLLING_SLOT = { dayId: SUNDAY.id, slot: `${PLAN.cells.find((c) => c.modeId === MODES.ternFast.id)?.id ?? ""}#5` };

const unit = (
  n: string,
  modelId: string,
  name: string,
  serialLabel: string,
  firmware: string,
  notes: string,
): Omit<Kit["units"][number], "rev"> => ({
  id: n,
  modelId,
  name,
  serialLabel,
  firmware,
  notes,
  bench: "demo",
  archived: false,
});

const figure = (n: number, modeId: string, ambientC: number, limitSec: number): Omit<Kit["figures"][number], "rev"> => ({
  id: id(n),
  modeId,
  archived: false,
  kind: "rated",
  ambientC,
  limitSec,
  conditions: "start at ambient, default settings",
  source: "specification sheet (invented)",
});

const outside = (
  n: number,
  modeId: string,
  ambientC: number,
  limitSec: number,
  conditions: string,
  says: NonNullable<Kit["figures"][number]["says"]>,
): Omit<Kit["figures"][number], "rev"> => ({
  ...figure(n, modeId, ambientC, limitSec),
  kind: "outside",
  conditions,
  source: "another crew's notes (invented)",
  says,
});

export const scenarioKit: KitDocs = {
  models: [
    { id: id(91), name: "Plover 6", archived: false, sensorWidthMm: 35.9, sensorHeightMm: 23.9, megapixels: 33, traits: PLOVER_TRAITS },
    { id: id(92), name: "Tern 3", archived: false, sensorWidthMm: 23.4, sensorHeightMm: 15.6, megapixels: 26, traits: TERN_TRAITS },
    { id: id(93), name: "Wader 2", archived: false, sensorWidthMm: 17.3, sensorHeightMm: 13, megapixels: 20, traits: WADER_TRAITS },
  ],
  units: [
    unit(PLOVER, id(91), "Plover B", "label 2", "2.1", "Judges' pontoon. Card door replaced in spring."),
    unit(TERN, id(92), "Tern A", "label 1", "1.4", "Finish tower, runs on the dummy battery."),
    unit(WADER, id(93), "Wader", "label 5", "3.0", "Towpath, carried along by bicycle crew; one battery."),
  ],
  modes: Object.values(MODES),
  figures: [
    figure(131, MODES.ploverHot.id, 23, 2700),
    figure(132, MODES.ternFast.id, 25, 1800),
    figure(133, MODES.waderDay.id, 23, 5400),
    figure(135, MODES.ploverLong.id, 23, 1800),
    outside(136, MODES.ploverHot.id, 27, 1140, "second of two runs that day", { start: "warm", compression: "all-intra", screen: "lit" }),
    outside(137, MODES.ploverHot.id, 20, 3300, "codec from the clip's header", { start: "cold", compression: "long-GOP" }),
    figure(134, MODES.ploverDay.id, 23, 7200),
  ],
  items: ITEMS,
  conditions: Object.values(CONDITIONS),
  protocols: [],
  plans: [PLAN],
  days: [SUNDAY],
};
