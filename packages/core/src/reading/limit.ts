// The dependable limit of every cell of a unit as the rooms speak of it: what may be claimed, for which days, from which runs, or what is missing; and
// from the same posterior the chance to last any time. Procedure and coverage: docs/methods/dependable-limit.md.

import type { ClaimLevels, Lasting } from "../cells/index.ts";
import { protocolKey } from "../kit/index.ts";
import type { TimeConstant } from "../heat/index.ts";
import type { StartBody } from "../runs/index.ts";
import type { ChanceCurve, LifeLimit, LimitCell, LimitReader, LimitRefusal, LimitRun, LimitSettings } from "../statistics/index.ts";
import { chanceCurve, isDoubtful, isShutdown, kept, limitReader, middleSec, takenAsEnd, timeOfChance } from "../statistics/index.ts";

export const LIMIT_METHOD = "dependable limit";
export const LIMIT_VERSION = 1;

export interface LimitedCell {
  setup: Pick<StartBody, "protocol">;
  records: readonly Lasting[];
}
export interface LimitBasis {
  /** Runs and shutdowns of the pool, and in how many cells; ids of all of them. */
  runs: number;
  shutdowns: number;
  cells: number;
  runIds: string[];
}
interface Spoken {
  /** "new days" from three days on; else it speaks of days like these. */
  scope: "tested days" | "new days";
  /** Days of the cell's own runs, "2026-06-11", in order. */
  days: string[];
  from: LimitBasis;
  /** The cell's own scatter of log time, and whether it most likely scatters more than twice as widely as the others. */
  scatter: number;
  unlikeTheRest: boolean;
  curve: ChanceCurve;
}
export type CellLimit =
  | ({ ok: true /** Whole seconds or, on a minute clock, minutes, rounded down, ms. */; lowerMs: number } & Spoken)
  | { ok: false; because: "no-shutdown" }
  /** `likeOthersMs`: what one would say if it scattered like the others; no claim. */
  | ({ ok: false; because: Exclude<LimitRefusal, "no-shutdown">; likeOthersMs: number | null } & Spoken);

/** What is known of the body's time constant: the fitted range, or the protocol's with a factor of two either way. */
export function tauOf(t: TimeConstant): Pick<LimitSettings, "tauSec" | "tauFactor"> {
  if (t.by === "protocol") return { tauSec: t.tauMin * 60, tauFactor: UNFITTED_FACTOR };
  const { lo, hi } = t.rangeMin;
  return { tauSec: Math.sqrt(lo * hi) * 60, tauFactor: Math.max(FITTED_FACTOR, Math.sqrt(hi / lo)) };
}
const [FITTED_FACTOR, UNFITTED_FACTOR] = [1.25, 2];

/** Limits of the cells of one unit on one clock, one endpoint; what was read of a cell is kept for the next question. */
export interface CellLimits {
  of(index: number): CellLimit;
  /** Seconds that may be claimed with these runs in place of the cell's own; null: none. */
  claimWith(index: number, records: readonly Lasting[]): number | null;
  /** The chance to last any time by these runs in place of the cell's own, where they carry a claim. */
  curveWith(index: number, records: readonly Lasting[]): ChanceCurve | null;
}

export function cellLimits(cells: readonly LimitedCell[], settings: LimitSettings): CellLimits {
  const read = worseOf(limitReader(settings));
  const readables = cells.map((cell, i) => readable(cell, i, sameCell));
  const at = (index: number): Readable => {
    const found = readables[index];
    if (found === undefined) throw new RangeError(`index must name one of ${cells.length} cells, got ${index}`);
    return found;
  };
  const instead = (index: number, records: readonly Lasting[]): [LifeLimit, Readable] => {
    const old = at(index);
    const mine = readable({ setup: (cells[index] as LimitedCell).setup, records }, index);
    return [read(mine, [mine, ...alike(readables, mine).filter((r) => r !== old)]), mine];
  };
  return {
    of: (index) => {
      const mine = at(index);
      const pool = alike(readables, mine);
      return spoken(read(mine, pool), mine, pool, settings.share);
    },
    claimWith: (index, records) => {
      const [limit, mine] = instead(index, records);
      return limit.ok && limit.refusal === null ? claimedSec(limit.boundSec, mine) : null;
    },
    curveWith: (index, records) => {
      const [limit, mine] = instead(index, records);
      return limit.ok && limit.refusal === null ? curveOf(limit, mine) : null;
    },
  };
}
/** Cells that may lend one another their scatter: of one protocol. */
const alike = (all: readonly Readable[], mine: Readable): Readable[] => all.filter((r) => r.protocol === mine.protocol);

/** Where nobody said what ended a run both readings are made, not the end asked for and the end asked for, and the one that claims less counts. */
function worseOf(read: LimitReader): (mine: Readable, pool: readonly Readable[]) => LifeLimit {
  return (mine, pool) => {
    const limit = read(
      mine.cell,
      pool.map((r) => r.cell),
    );
    if (!limit.ok || pool.every((r) => r.asEnds === r.cell)) return limit;
    const worse = read(
      mine.asEnds,
      pool.map((r) => r.asEnds),
    );
    if (!worse.ok || limit.refusal !== null) return limit;
    return worse.refusal !== null || worse.boundSec < limit.boundSec ? worse : limit;
  };
}

/** Of a large unit, for two endpoints. */
const CELLS_KEPT = 160;

interface Readable {
  cell: LimitCell;
  /** With every doubtful run read as an end; the same cell where there is none. */
  asEnds: LimitCell;
  protocol: string;
  records: readonly Lasting[];
  minuteClock: boolean;
}
/** The same runs are the same cell, in whichever question: what was read of it is known to the estimator. */
const sameCell = kept(
  CELLS_KEPT,
  (cell: LimitCell) => JSON.stringify(cell),
  (cell) => cell,
);

/** `same`: of cells that are asked about again; not of runs only supposed. */
function readable({ setup, records }: LimitedCell, index: number, same = (cell: LimitCell) => cell): Readable {
  const minuteClock = isMinuteClock(records);
  const read = (lasted: LimitRun): LimitRun => (minuteClock ? byTheMinute(lasted) : lasted);
  const key = String(index);
  const cell = same({ key, runs: records.map(({ lasted }) => read(lasted)) });
  const doubtful = records.some(({ lasted }) => isDoubtful(lasted));
  const asEnds = doubtful ? same({ key, runs: records.map(({ lasted }) => read(takenAsEnd(lasted))) }) : cell;
  return { cell, asEnds, protocol: protocolKey(setup.protocol), records, minuteClock };
}

const MINUTE_SEC = 60;
/** Every shutdown on a whole minute: nobody's watch is so lucky, the times were read by the minute. */
function isMinuteClock(records: readonly Lasting[]): boolean {
  const exact = records.flatMap(({ lasted }) => (lasted.kind === "exact" ? [lasted.sec] : []));
  return exact.length > 0 && exact.every((sec) => Math.abs(sec / MINUTE_SEC - Math.round(sec / MINUTE_SEC)) < 1e-6);
}
/** Half a minute either way; "at least" by the early end. */
function byTheMinute(run: LimitRun): LimitRun {
  if (run.kind === "exact") return { kind: "interval", loSec: run.sec - MINUTE_SEC / 2, hiSec: run.sec + MINUTE_SEC / 2, day: run.day };
  if (run.kind === "censored" && run.sec > MINUTE_SEC / 2) return { ...run, sec: run.sec - MINUTE_SEC / 2 };
  return run;
}

function spoken(limit: LifeLimit, mine: Readable, alike: readonly Readable[], share: number): CellLimit {
  if (!limit.ok) return { ok: false, because: limit.reason };
  const pool = alike.filter((r) => limit.pool.includes(r.cell.key));
  const records = pool.flatMap((r) => r.records);
  const about: Spoken = {
    scope: limit.scope,
    days: [...new Set(mine.records.flatMap(({ lasted }) => (lasted.day === null ? [] : [lasted.day])))].sort(),
    from: {
      runs: records.length,
      shutdowns: pool.reduce((sum, r) => sum + r.cell.runs.filter(isShutdown).length, 0),
      cells: pool.length,
      runIds: records.map((r) => r.runId),
    },
    scatter: limit.scatter,
    unlikeTheRest: limit.unlikeTheRest,
    curve: curveOf(limit, mine),
  };
  // Nor beyond the time that the share lasts by the chance itself: the two are read side by side.
  const lowerMs = 1000 * claimedSec(Math.min(limit.boundSec, timeOfChance(about.curve, share)), mine);
  if (limit.refusal === null) return { ok: true, lowerMs, ...about };
  return { ok: false, because: limit.refusal, likeOthersMs: limit.refusal === "single-run" && pool.length > 1 ? lowerMs : null, ...about };
}

const longestSec = ({ cell }: Readable): number => Math.max(...cell.runs.map(latestSec));
/** Rounded down to the second, or to the minute of its clock; never beyond what a run has lasted. */
const claimedSec = (boundSec: number, mine: Readable): number =>
  downSec(Math.min(boundSec, longestSec(mine)), mine.minuteClock ? MINUTE_SEC : 1);

function curveOf(limit: LifeLimit & { ok: true }, mine: Readable): ChanceCurve {
  const last = curves.get(limit.chance);
  if (last?.cell === mine.cell) return last.curve;
  const curve = madeCurve(limit, mine);
  curves.set(limit.chance, { cell: mine.cell, curve });
  return curve;
}
/** Of the same runs the chance is the same function, and so is its curve. */
const curves = new WeakMap<(sec: number) => number, { cell: LimitCell; curve: ChanceCurve }>();

function madeCurve(limit: LifeLimit & { ok: true }, mine: Readable): ChanceCurve {
  const shut = mine.cell.runs.filter(isShutdown).map(middleSec);
  const middleLog = shut.reduce((sum, sec) => sum + Math.log(sec), 0) / shut.length;
  return chanceCurve((sec) => limit.chance(sec), Math.exp(middleLog), limit.scatter, longestSec(mine));
}

const latestSec = (run: LimitRun): number => (run.kind === "interval" ? run.hiSec : run.sec);
const downSec = (sec: number, stepSec: number): number => Math.floor(sec / stepSec + 1e-9) * stepSec;

/** Settings of the estimator for what is asked and what is known of the body. */
export const limitSettings = (levels: ClaimLevels, tau: TimeConstant): LimitSettings => ({ ...levels, ...tauOf(tau) });
