// A dependable recording time from few runs: for every cell of a unit the time that a share of runs outlasts, with a confidence, and the chance to
// last any time from the same object. One posterior per law, the lowest bound of two families of laws, each family's doubt counting in proportion to
// its standing; no rungs, no switches, no draws. Simulated coverage and check cases: docs/methods/dependable-limit.md.

import { falsePosition } from "../roots.ts";
import { SIGMA, SIGMAS } from "./grid.ts";
import { normalMarginal, weibullMarginal } from "./closedForms.ts";
import { dayMarginal, repeatsDays } from "./dayMarginal.ts";
import { griddedMarginal, transformed } from "./gridded.ts";
import type { Family, Law } from "./laws.ts";
import { FAMILIES, lawsFor } from "./laws.ts";
import type { Marginal } from "./marginal.ts";
import type { Pool, Refusal } from "./pool.ts";
import { distinctDays, DAYS_FOR_NEW, poolOf, refusalOf } from "./pool.ts";
import type { Posterior, Prepared } from "./posterior.ts";
import { posteriorOf, prepared } from "./posterior.ts";
import type { LimitCell } from "./runs.ts";
import { checkRuns, isShutdown, middleSec, shutdownsOf } from "./runs.ts";

export interface LimitSettings {
  /** Share of runs that outlasts the limit, and how sure one is; both between 0 and 1. */
  share: number;
  confidence: number;
  /** Time constant of the body, seconds, and the factor it may be off by either way. */
  tauSec: number;
  tauFactor: number;
}

export type LifeLimit =
  | { ok: false; key: string; reason: "no-shutdown" }
  | {
      ok: true;
      key: string;
      /** The limit, seconds, not rounded; infinite where shutdowns only show that most runs never end by heat. */
      boundSec: number;
      /** Null: it may be claimed. Else the number is what one would say if the cell scattered like the others. */
      refusal: Exclude<Refusal, "no-shutdown"> | null;
      scope: Pool["scope"];
      pool: readonly string[];
      /** The cell's own scatter of log time: posterior mean of its logarithm under the lognormal law. */
      scatter: number;
      /** It most likely scatters more than twice as widely as the pool. */
      unlikeTheRest: boolean;
      /** P(a run to come lasts beyond `sec`), rounded against nothing; consistent with the bound. One function as long as the same runs are read. */
      chance: (sec: number) => number;
    };

/** The limit of one cell, given all of its unit. */
export type LimitReader = (cell: LimitCell, cells: readonly LimitCell[]) => LifeLimit;

/** `cells`: of one unit, one protocol, one endpoint, cold starts only. */
export function lifeLimits(cells: readonly LimitCell[], settings: LimitSettings): LifeLimit[] {
  const read = limitReader(settings);
  return cells.map((cell) => read(cell, cells));
}

export function limitReader(settings: LimitSettings): LimitReader {
  const laws = lawsFor(settings.tauSec, settings.tauFactor);
  return (cell, cells) => {
    checkRuns(cell);
    if (shutdownsOf(cell) === 0) return { ok: false, key: cell.key, reason: "no-shutdown" };
    return limitOf(cell.key, poolReadOnce(poolOf(cell, cells), laws), settings);
  };
}

/** What a pool says of its first cell, whatever share and confidence are asked. */
interface PoolRead {
  pool: Pool;
  laws: readonly Law[];
  read: readonly Read[];
  standing: ReadonlyMap<Family, number>;
  scatter: number;
  chance: (sec: number) => number;
}
/** The last of each cell. */
const lastRead = new WeakMap<LimitCell, PoolRead>();

function poolReadOnce(pool: Pool, laws: readonly Law[]): PoolRead {
  const target = pool.cells[0] as LimitCell;
  const last = lastRead.get(target);
  if (last !== undefined && samePool(last.pool, pool) && sameLaws(last.laws, laws)) return last;
  const made = poolRead(pool, laws);
  lastRead.set(target, made);
  return made;
}
const samePool = (a: Pool, b: Pool): boolean =>
  a.scope === b.scope && a.cells.length === b.cells.length && a.cells.every((cell, i) => cell === b.cells[i]);
const sameLaws = (a: readonly Law[], b: readonly Law[]): boolean => a.every((law, i) => law.tauSec === b[i]?.tauSec);

function poolRead(pool: Pool, laws: readonly Law[]): PoolRead {
  const byDay = pool.scope === "new days";
  const read = laws.map((law): Read => {
    const parts = pool.cells.map((c) => preparedOnce(c, law, byDay));
    return { law, marginal: (parts[0] as Prepared).marginal, posterior: posteriorOf(parts) };
  });
  const standing = standings(read);
  const [lognormal] = read as [Read, ...Read[]];
  const scatter = Math.exp(SIGMA.reduce((sum, sigma, q) => sum + (lognormal.posterior.scatter[q] as number) * Math.log(sigma), 0));
  const chance = (sec: number): number => 1 - Math.max(...read.map((r) => (standing.get(r.law.family) as number) * endedBy(r, sec)));
  return { pool, laws, read, standing, scatter, chance };
}

/** What was read of a cell, whatever share and confidence were asked; as long as the cell is there. */
const known = new WeakMap<LimitCell, Map<string, Prepared>>();
/** Five laws, by day and not; of a time constant that has changed the old ones go. */
const KNOWN_MOST = 12;

function preparedOnce(cell: LimitCell, law: Law, byDay: boolean): Prepared {
  const mine = known.get(cell) ?? new Map<string, Prepared>();
  const key = `${law.name} ${law.tauSec} ${byDay}`;
  const found = mine.get(key) ?? prepared(marginalOf(cell, law, byDay), law, cell);
  if (mine.size >= KNOWN_MOST) mine.clear();
  known.set(cell, mine.set(key, found));
  return found;
}

function marginalOf(cell: LimitCell, law: Law, byDay: boolean): Marginal {
  if (byDay && distinctDays(cell) >= DAYS_FOR_NEW && repeatsDays(cell.runs)) return dayMarginal(law, cell.runs);
  const data = transformed(law, cell.runs);
  if (data.intervals.length === 0 && !law.normal) return weibullMarginal(law, data.exact, data.cut);
  return data.intervals.length + data.cut.length === 0 ? normalMarginal(law, data.exact) : griddedMarginal(law, data);
}

interface Read {
  law: Law;
  marginal: Marginal;
  posterior: Posterior;
}

function limitOf(key: string, { pool, read, standing, scatter, chance }: PoolRead, { share, confidence }: LimitSettings): LifeLimit {
  // A search begins where the limit usually is.
  const shortestSec = Math.min(...(pool.cells[0] as LimitCell).runs.filter(isShutdown).map(middleSec));
  const bounds = read.map((r) => {
    const alpha = (1 - confidence) / (standing.get(r.law.family) as number);
    return alpha < 1 ? quantileLower(r, r.law.v(shortestSec), 1 - share, alpha) : Number.POSITIVE_INFINITY;
  });
  const [lognormal] = read as [Read, ...Read[]];
  return {
    ok: true,
    key,
    boundSec: Math.min(...bounds),
    refusal: refusalOf(pool, scatter),
    scope: pool.scope,
    pool: pool.cells.map((c) => c.key),
    scatter,
    unlikeTheRest: pool.cells.length > 1 && lognormal.posterior.wild > 0.8,
    chance,
  };
}

/** Each family's evidence (its best law's) as a share of the better family's. */
function standings(read: readonly Read[]): Map<Family, number> {
  const best = (family?: Family): number =>
    Math.max(...read.filter((r) => family === undefined || r.law.family === family).map((r) => r.posterior.logEvidence));
  return new Map(FAMILIES.map((family) => [family, Math.exp(best(family) - best())]));
}

/** Scatters so unlikely change nothing that is shown. */
const NEGLIGIBLE = 1e-10;
const NEGLIGIBLE_CHANCE = 1e-4;

/** Seconds below which the p-quantile lies with probability alpha. */
function quantileLower({ law, marginal, posterior }: Read, startV: number, p: number, alpha: number): number {
  const z = law.z(p);
  const shifts = SIGMA.map((sigma) => z * law.scale(sigma));
  const below = (x: number): number => {
    let sum = 0;
    for (let q = 0; q < SIGMAS; q++) {
      const weight = posterior.scatter[q] as number;
      if (weight > NEGLIGIBLE) sum += weight * marginal.below(q, x - (shifts[q] as number));
    }
    return sum;
  };
  let [lo, hi] = [startV - 1, startV + 1];
  while (below(lo) > alpha) lo -= 2 * (hi - lo);
  while (below(hi) < alpha) hi += 2 * (hi - lo);
  return law.sec(falsePosition((x) => below(x) - alpha, lo, hi, 1e-9));
}

function endedBy({ law, marginal, posterior }: Read, sec: number): number {
  if (!(sec > 0)) return 0;
  const v = law.v(sec);
  let [lasting, whole] = [0, 0];
  for (let q = 0; q < SIGMAS; q++) {
    const weight = posterior.scatter[q] as number;
    if (weight < NEGLIGIBLE_CHANCE) continue;
    lasting += weight * marginal.survival(q, v);
    whole += weight;
  }
  return 1 - lasting / whole;
}
