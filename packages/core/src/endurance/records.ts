// The runs of one unit as statistics take them: one record a counted run, grouped by cell, with what else was on record when it started.
// Times are seconds of recorded time by their early bound; events are the endpoint asked for.

import { heatShare, intervalsOf, plateauOf, UNKNOWN_PLATEAU } from "../heat/index.ts";
import type { HeatInterval } from "../heat/index.ts";
import type { Asked, CandidateRun, CellReading, Counted, Lifetimes } from "../reliability/index.ts";
import { cellKey, groupCells, stateCell } from "../reliability/index.ts";
import type { Endpoint, RunFold, StartBody } from "../runs/index.ts";
import { modeKey, summarise } from "../runs/index.ts";

/** The little of a record that bounds need. */
export interface Timed {
  runId: string;
  timeSec: number;
  event: 0 | 1;
}
export interface RunRecord extends Timed {
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
  asked: Asked;
  cells: CellRecords[];
  /** Time constant the ledger worked with, minutes. */
  tauMin: number;
  startHeat: ReadonlyMap<string, number>;
}

/** Candidates of one unit on one clock. */
export function unitRecords(candidates: readonly CandidateRun[], endpoint: Endpoint, asked: Asked, tauMin: number): UnitRecords {
  const startHeat = startHeats(candidates, tauMin * 60_000);
  const cells = groupCells(candidates).map(({ key, setup, runs }): CellRecords => {
    const reading = stateCell(runs, endpoint, asked);
    const folds = new Map(runs.map((r) => [r.runId, r.fold]));
    const records = reading.runs.counted.flatMap((c) => {
      const fold = folds.get(c.runId);
      return fold === undefined ? [] : recordOf(c, fold, startHeat.get(c.runId) ?? 0);
    });
    return { key, setup, records, reading };
  });
  return { endpoint, asked, cells, tauMin, startHeat };
}

export function recordOf(counted: Counted, fold: RunFold, startHeat: number): RunRecord[] {
  const { setup, startMs } = fold;
  if (setup === null || startMs === null) return [];
  const { runId, event, because } = counted;
  return [{ runId, setup, fold, startMs, timeSec: counted.timeMs.lo / 1000, event, because, startHeat }];
}

export const lifetimesOf = (records: readonly Timed[]): Lifetimes => ({
  time: records.map((r) => r.timeSec),
  event: records.map((r) => r.event),
});
export const shutdownsOf = <R extends Timed>(records: readonly R[]): R[] => records.filter((r) => r.event === 1);
export const logsOf = (records: readonly Timed[]): number[] => shutdownsOf(records).map((r) => Math.log(r.timeSec));

/** Every powered interval of the unit heats it: void runs and idling too. Heat at each run's start, by id. */
function startHeats(candidates: readonly CandidateRun[], tauMs: number): Map<string, number> {
  const plateaus = plateausOf(candidates, tauMs);
  const spans = candidates.map(({ runId, fold }) => ({
    runId,
    startMs: fold.startMs ?? 0,
    intervals: intervalsOf(
      fold,
      fold.setup === null ? UNKNOWN_PLATEAU : (plateaus.get(cellKey(fold.setup)) ?? UNKNOWN_PLATEAU),
      fold.startMs ?? 0,
    ),
  }));
  const heats = new Map<string, number>();
  for (const { runId, startMs } of spans) {
    const earlier: HeatInterval[] = spans.filter((s) => s.runId !== runId && s.startMs < startMs).flatMap((s) => s.intervals);
    // Six time constants back nothing is left that could be told.
    heats.set(
      runId,
      heatShare(
        earlier.filter((i) => i.toMs > startMs - 6 * tauMs),
        tauMs,
        startMs,
      ),
    );
  }
  return heats;
}

/** Where each cell's heat would settle, from the middle of its own shutdowns, else of its mode's. */
function plateausOf(candidates: readonly CandidateRun[], tauMs: number): Map<string, number> {
  const ended = candidates.filter(
    (c) => c.fold.setup !== null && c.fold.end?.cause === "thermal shutdown" && c.fold.setup.runKind === "endurance",
  );
  const timesBy = (keyOf: (setup: StartBody) => string): Map<string, number[]> => {
    const by = new Map<string, number[]>();
    for (const { fold } of ended) {
      if (fold.setup === null) continue;
      const key = keyOf(fold.setup);
      by.set(key, [...(by.get(key) ?? []), summarise(fold, 0).recordedMs.lo]);
    }
    return by;
  };
  const [cells, modes] = [timesBy(cellKey), timesBy((s) => modeKey(s.mode))];
  const plateaus = new Map<string, number>();
  for (const { fold } of candidates) {
    if (fold.setup === null) continue;
    const times = cells.get(cellKey(fold.setup)) ?? modes.get(modeKey(fold.setup.mode)) ?? [];
    const middle = [...times].sort((a, b) => a - b)[times.length >> 1] ?? 0;
    plateaus.set(cellKey(fold.setup), middle > 0 ? plateauOf(middle, tauMs) : UNKNOWN_PLATEAU);
  }
  return plateaus;
}

/** What differs within the runs of one cell, or was not recorded, that could explain why they spread. */
export type Unsaid = "start state not known" | "ambient guessed" | "pauses" | "ambient spread" | "start heat";
export function unsaidOf(records: readonly RunRecord[], leftOut: CellReading["runs"]["leftOut"]): Unsaid[] {
  const found: Unsaid[] = [];
  if (leftOut.some((l) => l.because === "start state not known")) found.push("start state not known");
  if (records.some((r) => r.setup.ambient.basis === "guessed")) found.push("ambient guessed");
  if (records.some((r) => r.fold.gaps.length > 0)) found.push("pauses");
  const ambients = records.map((r) => r.setup.ambient.valueC);
  if (ambients.length > 1 && Math.max(...ambients) - Math.min(...ambients) > 2) found.push("ambient spread");
  if (records.some((r) => r.startHeat > 0.05)) found.push("start heat");
  return found;
}
