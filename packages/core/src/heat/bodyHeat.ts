// The heat of a body, in one place: which time constant it works with and where that comes from, what every powered interval left in it, and
// how much is left at any moment. Bench, rest, console ahead, plan and statistics all ask here. Runs of one unit on one clock.

import { median } from "es-toolkit/math";
import type { CandidateRun } from "../cells/index.ts";
import { cellKey, modeKey } from "../kit/index.ts";
import { summarise } from "../runs/index.ts";
import type { HeatInterval } from "./ledger.ts";
import { DEFAULT_TAU_MIN, heatShare, intervalsOf, plateauOf, restNeededMs, UNKNOWN_PLATEAU } from "./ledger.ts";
import type { TimeConstant } from "./timeConstant.ts";
import { timeConstantOf } from "./timeConstant.ts";

export interface BodyHeat {
  constant: TimeConstant;
  tauMs: number;
  /** Every powered interval until the moment asked, void runs and idling too. */
  intervals: readonly HeatInterval[];
  /** End of the last one; null when none is on record. */
  lastPoweredMs: number | null;
  /** Share of the shutdown rise left at `atMs`. */
  share: number;
  /** Rest until it is cold, from `atMs`. */
  coldInMs: number;
}

/** `atMs`: bench clock; runs under way reach to it. `alsoMin`: time constants that protocols about to be used name. */
export function bodyHeat(runs: readonly CandidateRun[], atMs: number, alsoMin: readonly number[] = []): BodyHeat {
  const constant = timeConstantOf(runs, protocolTauMin(runs, alsoMin));
  const tauMs = constant.tauMin * 60_000;
  const plateaus = plateausOf(runs, tauMs);
  const intervals = runs.flatMap((r) => intervalsOf(r.fold, plateaus.get(r.runId) ?? UNKNOWN_PLATEAU, atMs)).filter((i) => i.fromMs < atMs);
  const share = heatShare(intervals, tauMs, atMs);
  const lastPoweredMs = intervals.reduce<number | null>((last, i) => Math.max(last ?? i.toMs, i.toMs), null);
  return { constant, tauMs, intervals, lastPoweredMs, share, coldInMs: restNeededMs(share, tauMs) };
}

/** Without a fit: the longest constant the runs' protocols and these name, else the default. Against us: it leaves more heat in the body. */
export function protocolTauMin(runs: readonly CandidateRun[], alsoMin: readonly number[] = []): number {
  const said = runs.flatMap((r) => r.fold.setup?.protocol.schools?.tauMin ?? []);
  return Math.max(...(said.length + alsoMin.length === 0 ? [DEFAULT_TAU_MIN] : [...said, ...alsoMin]));
}

/** Every powered interval of the unit heats it: void runs and idling too. Heat at each run's start, by id. */
export function startHeats(candidates: readonly CandidateRun[], tauMs: number): Map<string, number> {
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
    const middle = known.length === 0 ? 0 : median(known);
    plateaus.set(runId, middle > 0 ? plateauOf(middle, tauMs) : UNKNOWN_PLATEAU);
  }
  return plateaus;
}
