import type { Calibration, LimitedCell, Past } from "@keep-rolling/core/reading";
import { calibrate, cellLimits } from "@keep-rolling/core/reading";
import type { ChanceCurve, LimitSettings } from "@keep-rolling/core/statistics";

export interface LiveQuestion {
  /** Cells of the unit, and which of them is meant. */
  cells: LimitedCell[];
  index: number;
  /** Its earlier shutdowns. */
  past: Past[];
  settings: LimitSettings;
}
export interface LiveAnswer {
  /** The chance to last any time; null: nothing may be claimed. */
  curve: ChanceCurve | null;
  calibration: Calibration[];
}

/** What earlier runs say of one under way, and how well they would have told one another. */
export function run({ cells, index, past, settings }: LiveQuestion): LiveAnswer {
  const limits = cellLimits(cells, settings);
  const limit = limits.of(index);
  const records = cells[index]?.records ?? [];
  return { curve: limit.ok ? limit.curve : null, calibration: limit.ok ? calibrate(past, records, limits, index) : [] };
}
