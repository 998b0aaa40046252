// The runs of one unit as statistics take them: one record a counted run, grouped by cell, with what else was on record when it started.
// Times are seconds of recorded time by their early bound; events are the endpoint asked for.

import { heatShare, intervalsOf, plateauOf, UNKNOWN_PLATEAU } from "../heat/index.ts";
import type { HeatInterval } from "../heat/index.ts";
import type { Asked, CandidateRun, CellReading, Counted } from "../cells/index.ts";
import type { Lifetimes } from "../statistics/index.ts";
import { cellKey } from "../kit/index.ts";
import { groupCells, stateCell } from "../cells/index.ts";
import type { Endpoint, RunFold, StartBody } from "../runs/index.ts";
import { modeKey } from "../kit/index.ts";
import { summarise } from "../runs/index.ts";

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
  const spans = candidates
    .map(({ runId, fold }) => ({
      runId,
      startMs: fold.startMs ?? 0,
      intervals: intervalsOf(fold, plateaus.get(runId) ?? UNKNOWN_PLATEAU, fold.startMs ?? 0),
    }))
    .sort((a, b) => a.startMs - b.startMs);
  const heats = new Map<string, number>();
  spans.forEach(({ runId, startMs }, i) => {
    // Six time constants back nothing is left that could be told; a run is taken to end within a day.
    const earlier: HeatInterval[] = [];
    for (let k = i - 1; k >= 0 && (spans[k]?.startMs ?? 0) > startMs - 6 * tauMs - LONGEST_RUN_MS; k--)
      earlier.push(...(spans[k]?.intervals ?? []).filter((v) => v.toMs > startMs - 6 * tauMs));
    heats.set(runId, heatShare(earlier, tauMs, startMs));
  });
  return heats;
}
const LONGEST_RUN_MS = 86_400_000;

/** Where each run's heat would settle, from the middle of its cell's shutdowns, else of its mode's. */
function plateausOf(candidates: readonly CandidateRun[], tauMs: number): Map<string, number> {
  const ended = candidates.filter(
    (c) => c.fold.setup !== null && c.fold.end?.cause === "thermal shutdown" && c.fold.setup.runKind === "endurance",
  );
  const keys = new Map(
    candidates.map(({ runId, fold }) => [
      runId,
      fold.setup === null ? null : { cell: cellKey(fold.setup), mode: modeKey(fold.setup.mode) },
    ]),
  );
  const times = { cell: new Map<string, number[]>(), mode: new Map<string, number[]>() };
  for (const { runId, fold } of ended) {
    const key = keys.get(runId);
    if (key == null) continue;
    const ms = summarise(fold, 0).recordedMs.lo;
    times.cell.set(key.cell, [...(times.cell.get(key.cell) ?? []), ms]);
    times.mode.set(key.mode, [...(times.mode.get(key.mode) ?? []), ms]);
  }
  const plateaus = new Map<string, number>();
  for (const [runId, key] of keys) {
    const known = key === null ? [] : (times.cell.get(key.cell) ?? times.mode.get(key.mode) ?? []);
    const middle = [...known].sort((a, b) => a - b)[known.length >> 1] ?? 0;
    plateaus.set(runId, middle > 0 ? plateauOf(middle, tauMs) : UNKNOWN_PLATEAU);
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
