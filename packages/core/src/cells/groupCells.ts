// Runs grouped by their cell.

import { cellKey } from "../kit/index.ts";
import type { StartBody } from "../runs/index.ts";
import type { CandidateRun } from "./eligibility.ts";

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
