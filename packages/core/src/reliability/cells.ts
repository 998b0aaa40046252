// Cells: unit x firmware x mode x condition x protocol, on one clock. Runs are compared inside a cell only; runs of a
// simulated bench never meet real ones, because their clocks differ.

import type { StartBody } from "../runs/index.ts";
import { conditionKey, modeKey, protocolKey } from "../runs/index.ts";
import type { CandidateRun } from "./eligibility.ts";

/** Equal strings: same cell. */
export function cellKey(setup: StartBody): string {
  return [anyFirmwareKey(setup), setup.unit.firmware].join("\n");
}

/** The cell without its firmware: where a later run can disagree with a recorded limit. */
export function anyFirmwareKey(setup: StartBody): string {
  return [setup.clockId, setup.unit.id, modeKey(setup.mode), conditionKey(setup.condition), protocolKey(setup.protocol)].join("\n");
}

export interface Cell {
  key: string;
  setup: StartBody;
  runs: CandidateRun[];
}

/** Runs grouped by cell in order of first appearance; runs without a start mark are left aside. */
export function groupCells(candidates: readonly CandidateRun[]): Cell[] {
  const cells = new Map<string, Cell>();
  for (const candidate of candidates) {
    const { setup } = candidate.fold;
    if (setup === null) continue;
    const key = cellKey(setup);
    const cell = cells.get(key) ?? { key, setup, runs: [] };
    cell.runs.push(candidate);
    cells.set(key, cell);
  }
  return [...cells.values()];
}
