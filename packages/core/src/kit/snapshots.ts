// What a start mark carries, so that later edits of the kit never change the past.

import type {
  AIRS,
  AUTOFOCUS_LOADS,
  COMPRESSIONS,
  FINDERS,
  LOADS,
  POWERS,
  POWER_OFF_SETTINGS,
  READOUTS,
  CHROMAS,
  SCREENS,
  SUNS,
  TARGETS,
} from "./vocabulary.ts";

export interface UnitSnapshot {
  id: string;
  name: string;
  serialLabel: string;
  firmware: string;
  modelId: string;
  modelName: string;
  simulated: boolean;
}

export interface ModeSnapshot {
  id: string;
  name: string;
  widthPx: number;
  heightPx: number;
  fpsNum: number;
  fpsDen: number;
  readout: (typeof READOUTS)[number];
  readoutCrop: number;
  codec: string;
  compression: (typeof COMPRESSIONS)[number];
  bits: number;
  /** Absent or null: not said. */
  chroma?: (typeof CHROMAS)[number] | null | undefined;
  mbps: number;
  target: (typeof TARGETS)[number];
  clipLimitSec: number | null;
}

export interface ConditionSnapshot {
  /** null: an ad-hoc condition, known by its content. */
  id: string | null;
  name: string;
  ambientC: number;
  toleranceC: number;
  sun: (typeof SUNS)[number];
  air: (typeof AIRS)[number];
  screen: (typeof SCREENS)[number];
  power: (typeof POWERS)[number];
  powerOffSetting: (typeof POWER_OFF_SETTINGS)[number];
  settings?: ConditionSettings | null | undefined;
}

/** What else moves heat or the picture; what was not said is absent. Conditions written before these existed have none. */
export interface ConditionSettings {
  humidityPct?: number | null | undefined;
  support?: string | undefined;
  finder?: (typeof FINDERS)[number] | undefined;
  displayTimeoutSec?: number | null | undefined;
  autofocus?: (typeof AUTOFOCUS_LOADS)[number] | undefined;
  profile?: string | undefined;
  sharpening?: string | undefined;
  noiseReduction?: string | undefined;
}

/** How gaps are read. `poweredOff: "strict"`: the first powered-off gap ends the record. Body-on gaps are bridged up to a total. */
export interface ContinuityRule {
  poweredOff: "strict" | "lenient";
  bridgeBodyOnMs: number;
}

export interface ProtocolSnapshot {
  id: string | null;
  name: string;
  continuity: ContinuityRule;
  checkpointSec: number;
  checkpointAfterWarningSec: number;
  /** Obey a warning (limit to first warning) or run on (limit to shutdown). */
  onWarning: "run on" | "stop";
  schools?: ProtocolSchools | null | undefined;
}

/** How a test day is worked. Protocols written before these existed have none: the defaults of the planner stand. */
export interface ProtocolSchools {
  load: (typeof LOADS)[number];
  /** Cool until this share of the shutdown rise is left, or a fixed rest whatever the heat. */
  coolDown: { to: "ambient" } | { to: "rest"; restMin: number };
  /** Time constant of the body in minutes, until a log fits it. */
  tauMin: number;
  /** The tester stops here; null: never. */
  stopAfterMin: number | null;
  /** Card swaps of a few seconds with the body on, planned when a card would end the run. */
  swaps: "none" | "as needed";
}

/** Snapshots are facts and never change: a key is built once for each. */
function once<T extends object>(build: (of: T) => string): (of: T) => string {
  const known = new WeakMap<T, string>();
  return (of) => {
    const key = known.get(of) ?? build(of);
    known.set(of, key);
    return key;
  };
}

const canonical = (fields: readonly (string | number | null)[]): string => fields.join("|");

/** What makes two recording modes the same for pooling: everything but the name. An edited mode is another mode. */
export const modeKey: (m: ModeSnapshot) => string = once((m) => {
  const picture = [m.widthPx, m.heightPx, m.fpsNum, m.fpsDen, m.readout, m.readoutCrop];
  return canonical([
    m.id,
    ...picture,
    m.codec,
    m.compression,
    m.bits,
    m.mbps,
    m.target,
    m.clipLimitSec,
    ...(m.chroma == null ? [] : [m.chroma]),
  ]);
});

/**
 * As `modeKey`. Two ad-hoc conditions with the same settings and nominal ambient are one condition. Settings that were not said add
 * nothing, so a key made before they existed stays what it was.
 */
export const conditionKey: (c: ConditionSnapshot) => string = once((c) => {
  const said = Object.entries(c.settings ?? {})
    .filter(([, value]) => value !== null && value !== undefined && value !== "" && value !== "not said")
    .sort(([a], [b]) => (a < b ? -1 : 1))
    .map(([name, value]) => `${name}=${String(value)}`);
  return canonical([c.id ?? "adhoc", c.ambientC, c.toleranceC, c.sun, c.air, c.screen, c.power, c.powerOffSetting, ...said]);
});

/** As `modeKey`, for protocols; reminders, rests and the tester's own stop do not change what is measured, the load does. */
export const protocolKey: (p: ProtocolSnapshot) => string = once((p) => {
  const { poweredOff, bridgeBodyOnMs } = p.continuity;
  const load = p.schools?.load ?? "not said";
  return canonical([p.id ?? "adhoc", poweredOff, bridgeBodyOnMs, p.onWarning, ...(load === "not said" ? [] : [load])]);
});
