// What makes two runs of one kind: unit x firmware x mode x condition x protocol, on one clock. Runs are compared inside a cell only; runs
// of a simulated bench never meet real ones, because their clocks differ.

import type { ConditionSnapshot, ModeSnapshot, ProtocolSnapshot, UnitSnapshot } from "./snapshots.ts";
import { conditionKey, modeKey, protocolKey } from "./snapshots.ts";

/** The part of a run's start that names its cell. */
export interface CellSetup {
  clockId: string;
  unit: UnitSnapshot;
  mode: ModeSnapshot;
  condition: ConditionSnapshot;
  protocol: ProtocolSnapshot;
}

/** Equal strings: same cell. */
export function cellKey(setup: CellSetup): string {
  return [anyFirmwareKey(setup), setup.unit.firmware].join("\n");
}

/** The cell without its firmware: where a later run can disagree with a recorded limit. */
export function anyFirmwareKey(setup: CellSetup): string {
  return [setup.clockId, setup.unit.id, modeKey(setup.mode), conditionKey(setup.condition), protocolKey(setup.protocol)].join("\n");
}
