// What a start mark carries, so that later edits of the kit never change the past.

import type { AIRS, COMPRESSIONS, POWERS, POWER_OFF_SETTINGS, READOUTS, SCREENS, SUNS, TARGETS } from "./vocabulary.ts";

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
}

const canonical = (fields: readonly (string | number | null)[]): string => fields.join("|");

/** What makes two recording modes the same for pooling: everything but the name. An edited mode is another mode. */
export function modeKey(m: ModeSnapshot): string {
  const picture = [m.widthPx, m.heightPx, m.fpsNum, m.fpsDen, m.readout, m.readoutCrop];
  return canonical([m.id, ...picture, m.codec, m.compression, m.bits, m.mbps, m.target, m.clipLimitSec]);
}

/** As `modeKey`. Two ad-hoc conditions with the same settings and nominal ambient are one condition. */
export function conditionKey(c: ConditionSnapshot): string {
  return canonical([c.id ?? "adhoc", c.ambientC, c.toleranceC, c.sun, c.air, c.screen, c.power, c.powerOffSetting]);
}

/** As `modeKey`, for protocols; reminder intervals do not change what is measured. */
export function protocolKey(p: ProtocolSnapshot): string {
  const { poweredOff, bridgeBodyOnMs } = p.continuity;
  return canonical([p.id ?? "adhoc", poweredOff, bridgeBodyOnMs, p.onWarning]);
}
