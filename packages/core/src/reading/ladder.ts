// The evidence ladder: which runs a dependable limit of a cell may stand on. The rung is chosen by a rule fixed in advance (how many
// shutdowns, start states known, one check of equal scatter), never by comparing the bounds it would give. Beside whatever rung there is the
// distribution-free statement always stands. Where the middle is a cell's own and only the scatter is pooled, no law of ambient is assumed.
//   own: five shutdowns in the cell; conditional Weibull bound.
//   pooled: six shutdowns in two cells of the unit that scatter alike; lognormal, exact when complete, else the bootstrap pivot.
//   assumed: one shutdown and an assumed log standard deviation, printed; refused when the runs themselves contradict it.

import { shutdownsOf } from "../cells/index.ts";
import { logsOf } from "../cells/index.ts";
import { lifetimesOf } from "../cells/index.ts";
import type { Timed } from "../cells/index.ts";
import { randomFrom } from "../statistics/index.ts";
import type { ClaimLevels } from "../cells/index.ts";
import type { CellPivotResult, ScatterCheck } from "../statistics/index.ts";
import {
  ASSUMED_SD,
  assumedScatterLower,
  cellPivotLower,
  cellPivots,
  conditionalWeibullLower,
  equalScatter,
  fitLife,
  PIVOT_DRAWS,
  regressionToleranceFactor,
  scatterBeyond,
} from "../statistics/index.ts";
import { protocolKey } from "../kit/index.ts";
import type { StartBody } from "../runs/index.ts";

export const RUNGS = ["own", "pooled", "assumed"] as const;
export type Rung = (typeof RUNGS)[number];
export const LADDER_VERSION = 1;
export const OWN_SHUTDOWNS = 5;
export const POOLED_SHUTDOWNS = 6;
export const POOLED_CELLS = 2;
/** The equal-scatter check and the contradiction of the assumed scatter both stand at one in twenty. */
export const CHECK_P = 0.05;

export type NotHere =
  | "too-few-shutdowns"
  | "all-failures-at-the-largest-time"
  | "scatter-not-alike"
  | "too-many-unfittable"
  | "no-shutdown-in-this-cell"
  | "no-scatter-to-pool"
  | "scatter-beyond-the-assumed"
  | "no-fit";

export interface LadderCell {
  setup: Pick<StartBody, "protocol">;
  records: readonly Timed[];
}
export interface Step {
  rung: Rung;
  because: NotHere;
}
export type CellBound =
  | {
      ok: true;
      rung: Rung;
      /** Whole seconds, rounded down, ms. */
      lowerMs: number;
      /** Runs and shutdowns the scatter was read from, and in how many cells. */
      from: { runs: number; shutdowns: number; cells: number; runIds: string[] };
      /** Log standard deviation of the rung: fitted, pooled or assumed. */
      sd: number;
      /** "exact", "conditional", "pivot" or "assumed": what was computed. */
      by: "conditional" | "exact" | "pivot" | "assumed";
      redrawn: number;
      check: ScatterCheck | null;
      /** The rungs above that could not be had. */
      above: Step[];
    }
  | { ok: false; above: Step[] };

export interface LadderSettings {
  assumedSd: number;
  draws: number;
  seed: number;
}
export const LADDER_SETTINGS: LadderSettings = { assumedSd: ASSUMED_SD, draws: PIVOT_DRAWS, seed: 20_310_601 };

/** Cells of one unit on one clock, one endpoint. A bound for each cell, in order; `only`: for that cell alone. */
export function climb(
  cells: readonly LadderCell[],
  levels: ClaimLevels,
  settings: LadderSettings = LADDER_SETTINGS,
  only?: number,
): CellBound[] {
  const pools = new Map<string, Pool>();
  return (only === undefined ? cells : cells.slice(only, only + 1)).map((cell) => {
    const key = protocolKey(cell.setup.protocol);
    const poolOf = (): Pool => {
      const known = pools.get(key);
      if (known !== undefined) return known;
      const made = makePool(poolCells(cells.filter((c) => protocolKey(c.setup.protocol) === key)), levels, settings);
      pools.set(key, made);
      return made;
    };
    return boundOf(cell, levels, settings, poolOf);
  });
}

/** More cells than this add nothing to the scatter that could be seen: those with most shutdowns stand for all, and every cell that has to lean on it. */
const POOL_MOST = 16;

function poolCells(all: readonly LadderCell[]): LadderCell[] {
  if (all.length <= POOL_MOST) return [...all];
  const most = [...all].sort((a, b) => shutdownsOf(b.records).length - shutdownsOf(a.records).length).slice(0, POOL_MOST);
  return all.filter((c) => most.includes(c) || shutdownsOf(c.records).length < OWN_SHUTDOWNS);
}

function boundOf(cell: LadderCell, levels: ClaimLevels, settings: LadderSettings, poolOf: () => Pool): CellBound {
  const above: Step[] = [];
  if (shutdownsOf(cell.records).length === 0)
    return { ok: false, above: RUNGS.map((rung) => ({ rung, because: "no-shutdown-in-this-cell" })) };
  const own = ownBound(cell.records, levels);
  if (own.ok) return { ...own, above };
  above.push({ rung: "own", because: own.because });
  const pooled = pooledBound(poolOf(), cell, levels);
  if (pooled.ok) return { ...pooled, above };
  above.push({ rung: "pooled", because: pooled.because });
  if (scatterBeyond(logsOf(cell.records), settings.assumedSd) < CHECK_P)
    return { ok: false, above: [...above, { rung: "assumed", because: "scatter-beyond-the-assumed" }] };
  return {
    ok: true,
    rung: "assumed",
    by: "assumed",
    lowerMs: downMs(assumedScatterLower(lifetimesOf(cell.records), settings.assumedSd, 1 - levels.share, levels.confidence)),
    from: evidence(cell.records, 1),
    sd: settings.assumedSd,
    redrawn: 0,
    check: null,
    above,
  };
}

type Here = Omit<CellBound & { ok: true }, "above">;
const downMs = (sec: number): number => Math.floor(sec + 1e-9) * 1000;
const evidence = (records: readonly Timed[], cells: number): Here["from"] => ({
  runs: records.length,
  shutdowns: shutdownsOf(records).length,
  cells,
  runIds: records.map((r) => r.runId),
});

function ownBound(records: readonly Timed[], levels: ClaimLevels): Here | { ok: false; because: NotHere } {
  if (shutdownsOf(records).length < OWN_SHUTDOWNS) return { ok: false, because: "too-few-shutdowns" };
  const data = lifetimesOf(records);
  const fit = fitLife(data, "weibull");
  if (!fit.ok) return { ok: false, because: fit.reason === "all-failures-at-the-largest-time" ? fit.reason : "no-fit" };
  const bound = conditionalWeibullLower(data, fit, 1 - levels.share, levels.confidence);
  if (!bound.ok) return { ok: false, because: "too-few-shutdowns" };
  const logSd = (fit.sigma * Math.PI) / Math.sqrt(6);
  return {
    ok: true,
    rung: "own",
    by: "conditional",
    lowerMs: downMs(bound.lower),
    from: evidence(records, 1),
    sd: logSd,
    redrawn: 0,
    check: null,
  };
}

interface Pool {
  cells: LadderCell[];
  records: Timed[];
  check: ScatterCheck;
  refused: NotHere | null;
  complete: boolean;
  /** Null when complete: then the factor is exact. */
  pivots: CellPivotResult | null;
}

function makePool(all: readonly LadderCell[], levels: ClaimLevels, settings: LadderSettings): Pool {
  const cells = all.filter((c) => shutdownsOf(c.records).length > 0);
  const records = cells.flatMap((c) => c.records);
  const check = equalScatter(cells.map((c) => logsOf(c.records)));
  const complete = records.every((r) => r.event === 1);
  const refused: NotHere | null =
    shutdownsOf(records).length < POOLED_SHUTDOWNS || cells.length < POOLED_CELLS
      ? "too-few-shutdowns"
      : !check.ok
        ? "no-scatter-to-pool"
        : check.p < CHECK_P
          ? "scatter-not-alike"
          : null;
  const pivots =
    refused !== null || complete
      ? null
      : cellPivots(
          cells.map((c) => ({ ...lifetimesOf(c.records), cutAt: cutsOf(c) })),
          "lognormal",
          1 - levels.share,
          settings.draws,
          randomFrom(settings.seed),
        );
  return { cells, records, check, refused, complete, pivots };
}

/** A run that shut down would have been cut where a longer one of its cell was; nothing is known of a cut where none was. */
function cutsOf({ records }: LadderCell): number[] {
  const cuts = records.filter((r) => r.event === 0).map((r) => r.timeSec);
  return records.map((r) => (r.event === 0 ? r.timeSec : Math.min(Number.POSITIVE_INFINITY, ...cuts.filter((c) => c >= r.timeSec))));
}

function pooledBound(pool: Pool, cell: LadderCell, levels: ClaimLevels): Here | { ok: false; because: NotHere } {
  if (pool.refused !== null) return { ok: false, because: pool.refused };
  const i = pool.cells.indexOf(cell);
  const here = { ok: true as const, rung: "pooled" as const, from: evidence(pool.records, pool.cells.length), check: pool.check };
  if (pool.pivots === null) {
    const { lower, sd } = exactPooled(pool, cell, levels);
    return { ...here, by: "exact", lowerMs: downMs(lower), sd, redrawn: 0 };
  }
  if (!pool.pivots.ok) return { ok: false, because: "no-fit" };
  const lower = cellPivotLower(pool.pivots, i, levels.confidence);
  if (lower === null) return { ok: false, because: "too-many-unfittable" };
  return { ...here, by: "pivot", lowerMs: downMs(lower), sd: pool.pivots.sigma, redrawn: pool.pivots.cells[i]?.missed ?? 0 };
}

/** Complete: mean of the cell's logs less k of the pooled deviation; k from the noncentral t with h = 1 / n of the cell. */
function exactPooled(pool: Pool, cell: LadderCell, levels: ClaimLevels): { lower: number; sd: number } {
  const df = pool.records.length - pool.cells.length;
  const middle = (records: readonly Timed[]): number => logsOf(records).reduce((a, b) => a + b, 0) / records.length;
  const squares = pool.cells.reduce((sum, c) => sum + logsOf(c.records).reduce((s, v) => s + (v - middle(c.records)) ** 2, 0), 0);
  const sd = Math.sqrt(squares / df);
  const k = regressionToleranceFactor(df, 1 / cell.records.length, levels.share, levels.confidence);
  return { lower: Math.exp(middle(cell.records) - k * sd), sd };
}
