// Everything the runs of one cell say by themselves: limit and schools, survival, scatter, levelling, warnings.

import { typicalOf } from "../cells/index.ts";
import { logsOf } from "../cells/index.ts";
import { lifetimesOf } from "../cells/index.ts";
import type { ClaimLevels, CandidateRun, CellReading, Lasting } from "../cells/index.ts";
import type { SurvivalStep } from "../statistics/index.ts";
import { kaplanMeier, kept, scatterBeyond, varianceOf } from "../statistics/index.ts";
import type { RunFold, StartBody } from "../runs/index.ts";
import { asAtTheStart } from "../runs/index.ts";
import type { CellLimit } from "./limit.ts";
import type { TimeConstant } from "../heat/index.ts";
import type { Levelling, LevellingQuestion } from "./levelling.ts";
import { levelling, TAU_UNKNOWN_MIN } from "./levelling.ts";
import type { Path } from "./path.ts";
import { pathOf } from "./path.ts";
import type { CellRecords, Unsaid } from "./records.ts";
import { unsaidOf } from "./records.ts";
import type { Belief, LeadsResult } from "./warnings.ts";
import { countdownBelief, warningLeads } from "./warnings.ts";

/** The school that takes the typical run less a margin; common practice, no confidence can be given for it. */
export const TYPICAL_MARGIN = 0.2;
/** Cold runs of one unit in one condition seldom scatter more than this (estimate of the design): wider asks for a cause before it is averaged. */
export const COLD_SCATTER = 0.15;
const TOO_WIDE_P = 0.05;
/** A middle of fewer shutdowns is none. */
const LEAST_FOR_TYPICAL = 3;

export interface LevelledRun {
  runId: string;
  path: Path;
  reading: Levelling;
  /** Fan, sun, screen and place were as at the start, as answered at its end; null: not asked. */
  asAtTheStart: boolean | null;
}
export interface CellReport {
  key: string;
  setup: StartBody;
  reading: CellReading;
  runs: (Lasting & { startHeat: number })[];
  limit: CellLimit;
  /** Middle of the runs, seconds; null with fewer than three shutdowns, or where they spread too far to average. */
  typicalSec: number | null;
  typicalLessSec: number | null;
  scatter: { sd: number | null; tooWide: boolean; unsaid: Unsaid[] };
  survival: SurvivalStep[];
  levelling: LevelledRun[];
  leads: LeadsResult;
  belief: Belief;
}

/** `heat`: the same cell read to the shutdown, whatever endpoint is asked. */
export function reportCell(
  cell: CellRecords,
  heat: CellRecords,
  limit: CellLimit,
  candidates: readonly CandidateRun[],
  levels: ClaimLevels,
  tau: TimeConstant,
): CellReport {
  const { records } = cell;
  // An end known only within an interval is no time to average: it lasted at least to where it was last seen.
  const sharp = records.map((r) => (r.lasted.kind === "interval" ? { ...r, event: 0 as const } : r));
  const logs = logsOf(sharp);
  const tooWide = scatterBeyond(logs, COLD_SCATTER) < TOO_WIDE_P;
  const typicalSec = tooWide || logs.length < LEAST_FOR_TYPICAL ? null : typicalOf({ records: sharp });
  return {
    key: cell.key,
    setup: cell.setup,
    reading: cell.reading,
    runs: records.map(({ runId, timeSec, event, lasted, startHeat }) => ({ runId, timeSec, event, lasted, startHeat })),
    limit,
    typicalSec,
    typicalLessSec: typicalSec === null ? null : (1 - TYPICAL_MARGIN) * typicalSec,
    scatter: { sd: logs.length < 2 ? null : Math.sqrt(varianceOf(logs)), tooWide, unsaid: unsaidOf(records, cell.reading.runs.leftOut) },
    survival: kaplanMeier(lifetimesOf(records), 0.9),
    levelling: levelledRuns(heat, candidates, tau),
    leads: warningLeads(
      candidates.filter((c) => records.some((r) => r.runId === c.runId)),
      levels.confidence,
    ),
    belief: countdownBelief(
      candidates.filter((c) => records.some((r) => r.runId === c.runId)),
      levels.confidence,
    ),
  };
}

const RUNS_KEPT = 500;
const levellingOnce = kept(RUNS_KEPT, (q: LevellingQuestion) => JSON.stringify(q), levelling);

/** The runs that heat did not end, each with what its gauge says. */
function levelledRuns({ records }: CellRecords, candidates: readonly CandidateRun[], tau: TimeConstant): LevelledRun[] {
  const cut = records.filter((r) => r.lasted.kind === "censored");
  if (cut.length === 0) return [];
  const tauMin = tau.by === "recoveries" ? tau.rangeMin : TAU_UNKNOWN_MIN;
  const known = candidates.some((c) => c.struck === null && showsItsShutdown(c.fold));
  return cut.map(({ runId, fold, timeSec }) => ({
    runId,
    path: pathOf(fold, "gauge"),
    asAtTheStart: asAtTheStart(fold),
    reading: known ? levellingOnce(questionOf(fold, timeSec, tauMin)) : { ok: false, reason: "shutdown-level-not-known" },
  }));
}

const showsItsShutdown = (fold: RunFold): boolean =>
  fold.end?.cause === "thermal shutdown" && fold.readings.some((m) => m.body.gauge !== undefined);

function questionOf(fold: RunFold, endSec: number, tauMin: { lo: number; hi: number }): Parameters<typeof levelling>[0] {
  const startMs = fold.startMs ?? 0;
  const sinceStart = (atMs: number): number => (atMs - startMs) / 1000;
  return {
    readings: fold.readings.flatMap((m) => (m.body.gauge === undefined ? [] : [{ sec: sinceStart(m.atMs), step: m.body.gauge }])),
    endSec,
    tauMin,
    // A change that was marked stands, whatever is said at the end: what came may have gone again.
    changed: asAtTheStart(fold) === false || fold.changes.some((c) => sinceStart(c.atMs) > 0 && sinceStart(c.atMs) < endSec),
  };
}

/** The habit of taking the typical run less a fifth; null without a shutdown. */
export function lessThanTypical(cell: Pick<CellRecords, "records">): number | null {
  const typicalSec = typicalOf(cell);
  return typicalSec === null ? null : (1 - TYPICAL_MARGIN) * typicalSec;
}
