// The runs of one unit as statistics take them: one record a counted run, grouped by cell, with what else was on record when it started.
// Times are seconds of recorded time by their early bound; events are the endpoint asked for.

import { startHeats } from "../heat/index.ts";
import type { ClaimLevels, CandidateRun, CellReading, Counted, Lasting } from "../cells/index.ts";
import { daysOfRuns, groupCells, lastedOf, stateCell } from "../cells/index.ts";
import { isDoubtful } from "../statistics/index.ts";
import type { Endpoint, RunFold, StartBody } from "../runs/index.ts";

export interface RunRecord extends Lasting {
  setup: StartBody;
  fold: RunFold;
  startMs: number;
  because: Counted["because"];
  /** What earlier use of the unit had left in it at the start, share of the shutdown rise, by the ledger. */
  startHeat: number;
}
export interface CellRecords {
  key: string;
  setup: StartBody;
  records: RunRecord[];
  reading: CellReading;
}
export interface UnitRecords {
  endpoint: Endpoint;
  levels: ClaimLevels;
  cells: CellRecords[];
  /** Time constant the ledger worked with, minutes. */
  tauMin: number;
  startHeat: ReadonlyMap<string, number>;
}

/** Candidates of one unit on one clock; `zone`: where they were made, for their days. */
export function unitRecords(
  candidates: readonly CandidateRun[],
  endpoint: Endpoint,
  levels: ClaimLevels,
  tauMin: number,
  zone: string,
): UnitRecords {
  const days = daysOfRuns(
    candidates.flatMap(({ runId, fold }) => (fold.startMs === null ? [] : [{ runId, startMs: fold.startMs }])),
    zone,
  );
  const startHeat = startHeats(candidates, tauMin * 60_000);
  const cells = groupCells(candidates).map(({ key, setup, runs }): CellRecords => {
    const reading = stateCell(runs, endpoint, levels);
    const folds = new Map(runs.map((r) => [r.runId, r.fold]));
    const records = reading.runs.counted.flatMap((c) => {
      const fold = folds.get(c.runId);
      return fold === undefined ? [] : recordOf(c, fold, startHeat.get(c.runId) ?? 0, days.get(c.runId) ?? null);
    });
    return { key, setup, records, reading };
  });
  return { endpoint, levels, cells, tauMin, startHeat };
}

export function recordOf(counted: Counted, fold: RunFold, startHeat: number, day: string | null): RunRecord[] {
  const { setup, startMs } = fold;
  if (setup === null || startMs === null) return [];
  const { runId, event, because } = counted;
  return [{ runId, setup, fold, startMs, timeSec: counted.timeMs.lo / 1000, lasted: lastedOf(counted, day), event, because, startHeat }];
}

/** What differs within the runs of one cell, or was not recorded, that could explain why they spread. */
export type Unsaid =
  | "start state not known"
  | "warning not recorded"
  | "end not said"
  | "stopped because hot"
  | "ambient guessed"
  | "pauses"
  | "ambient spread"
  | "start heat";
export function unsaidOf(records: readonly RunRecord[], leftOut: CellReading["runs"]["leftOut"]): Unsaid[] {
  const found: Unsaid[] = [];
  if (leftOut.some((l) => l.because === "start state not known")) found.push("start state not known");
  if (leftOut.some((l) => l.because === "whether it warned is not recorded")) found.push("warning not recorded");
  const ends = records.flatMap((r) => (isDoubtful(r.lasted) && r.fold.end !== null ? [r.fold.end] : []));
  if (ends.some((e) => !e.becauseHot)) found.push("end not said");
  if (ends.some((e) => e.becauseHot)) found.push("stopped because hot");
  if (records.some((r) => r.setup.ambient.basis !== "measured")) found.push("ambient guessed");
  if (records.some((r) => r.fold.gaps.length > 0)) found.push("pauses");
  const ambients = records.map((r) => r.setup.ambient.valueC);
  if (ambients.length > 1 && Math.max(...ambients) - Math.min(...ambients) > 2) found.push("ambient spread");
  if (records.some((r) => r.startHeat > 0.05)) found.push("start heat");
  return found;
}
