import type { ClaimLevels } from "@keep-rolling/core/cells";
import type { CellBound, NextCell, NextRun, RunsUntil } from "@keep-rolling/core/reading";
import { nextRuns, runsUntil } from "@keep-rolling/core/reading";

export interface NextQuestion {
  cells: NextCell[];
  bounds: CellBound[];
  levels: ClaimLevels;
  /** Seconds wanted of each cell, in order; null: nothing is asked of it. */
  wantedSec: (number | null)[];
}
export interface NextAnswer {
  next: NextRun[];
  until: (RunsUntil | null)[];
}

/** Which run to make next, and how many until a time is reached. */
export const run = ({ cells, bounds, levels, wantedSec }: NextQuestion): NextAnswer => ({
  next: nextRuns(cells, bounds, levels),
  until: wantedSec.map((sec, i) => (sec === null ? null : runsUntil(cells, bounds, i, sec, levels))),
});
