// The one builder of snapshots: kit rows in, what a start mark carries out. Every field is picked by name, so that a field added to a
// kit row tomorrow neither travels into marks by accident nor makes one be refused.

import type { CellSetup } from "./cellKeys.ts";
import type { ConditionSettings, ConditionSnapshot, ModeSnapshot, ProtocolSchools, ProtocolSnapshot, UnitSnapshot } from "./snapshots.ts";

/** What of a body's row a snapshot needs; the row may have more. */
export interface UnitRow {
  id: string;
  name: string;
  serialLabel: string;
  firmware: string;
  /** The clock its runs are on. */
  bench: string;
}
export interface ModelRow {
  id: string;
  name: string;
}

export const unitSnapshot = (unit: UnitRow, model: ModelRow): UnitSnapshot => ({
  id: unit.id,
  name: unit.name,
  serialLabel: unit.serialLabel,
  firmware: unit.firmware,
  modelId: model.id,
  modelName: model.name,
  simulated: unit.bench !== "real",
});

export const modeSnapshot = (mode: ModeSnapshot): ModeSnapshot => ({
  id: mode.id,
  name: mode.name,
  widthPx: mode.widthPx,
  heightPx: mode.heightPx,
  fpsNum: mode.fpsNum,
  fpsDen: mode.fpsDen,
  readout: mode.readout,
  readoutCrop: mode.readoutCrop,
  codec: mode.codec,
  compression: mode.compression,
  bits: mode.bits,
  ...(mode.chroma == null ? {} : { chroma: mode.chroma }),
  mbps: mode.mbps,
  target: mode.target,
  clipLimitSec: mode.clipLimitSec,
});

export const conditionSnapshot = (condition: ConditionSnapshot): ConditionSnapshot => ({
  id: condition.id,
  name: condition.name,
  ambientC: condition.ambientC,
  toleranceC: condition.toleranceC,
  sun: condition.sun,
  air: condition.air,
  screen: condition.screen,
  power: condition.power,
  powerOffSetting: condition.powerOffSetting,
  ...(condition.settings == null ? {} : { settings: settingsOf(condition.settings) }),
});

/** What was not said stays absent. */
const settingsOf = (s: ConditionSettings): ConditionSettings => ({
  ...(s.humidityPct === undefined ? {} : { humidityPct: s.humidityPct }),
  ...(s.support === undefined ? {} : { support: s.support }),
  ...(s.finder === undefined ? {} : { finder: s.finder }),
  ...(s.displayTimeoutSec === undefined ? {} : { displayTimeoutSec: s.displayTimeoutSec }),
  ...(s.autofocus === undefined ? {} : { autofocus: s.autofocus }),
  ...(s.profile === undefined ? {} : { profile: s.profile }),
  ...(s.sharpening === undefined ? {} : { sharpening: s.sharpening }),
  ...(s.noiseReduction === undefined ? {} : { noiseReduction: s.noiseReduction }),
});

export const protocolSnapshot = (protocol: ProtocolSnapshot): ProtocolSnapshot => ({
  id: protocol.id,
  name: protocol.name,
  continuity: { poweredOff: protocol.continuity.poweredOff, bridgeBodyOnMs: protocol.continuity.bridgeBodyOnMs },
  checkpointSec: protocol.checkpointSec,
  checkpointAfterWarningSec: protocol.checkpointAfterWarningSec,
  onWarning: protocol.onWarning,
  ...(protocol.schools == null ? {} : { schools: schoolsSnapshot(protocol.schools) }),
});

const schoolsSnapshot = (s: ProtocolSchools): ProtocolSchools => ({
  load: s.load,
  coolDown: s.coolDown.to === "rest" ? { to: "rest", restMin: s.coolDown.restMin } : { to: "ambient" },
  tauMin: s.tauMin,
  stopAfterMin: s.stopAfterMin,
  swaps: s.swaps,
});

export interface SetupRows {
  unit: UnitRow;
  model: ModelRow;
  mode: ModeSnapshot;
  condition: ConditionSnapshot;
  protocol: ProtocolSnapshot;
}

/** Everything of the kit that a start carries. */
export const setupSnapshot = ({ unit, model, mode, condition, protocol }: SetupRows): CellSetup => ({
  clockId: unit.bench,
  unit: unitSnapshot(unit, model),
  mode: modeSnapshot(mode),
  condition: conditionSnapshot(condition),
  protocol: protocolSnapshot(protocol),
});
