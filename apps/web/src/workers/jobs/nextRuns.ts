import type { NextCell, NextRun, RunsUntil } from "@keep-rolling/core/reading";
import { nextRuns, runsUntil } from "@keep-rolling/core/reading";
import type { LimitSettings } from "@keep-rolling/core/statistics";

export interface NextQuestion {
  cells: NextCell[];
  settings: LimitSettings;
  /** The cell in which a time is wanted, seconds; null: none is. */
  key: string;
  wantedSec: number | null;
}
export interface NextAnswer {
  next: NextRun[];
  until: RunsUntil | null;
}

/** Which run to make next, and how many until a time is reached. */
export function run({ cells, settings, key, wantedSec }: NextQuestion): NextAnswer {
  const here = cells.findIndex((c) => c.key === key);
  return {
    next: nextRuns(cells, settings),
    until: wantedSec === null || here < 0 ? null : runsUntil(cells, here, wantedSec, settings),
  };
}
