// How often a footfall comes out soft. Footfalls of one take are alike (a gust, a focus hunt), so takes, not footfalls, are the trials: a
// beta-binomial whose likeness rho is shared by the session.

import type { Density } from "../../statistics/index.ts";
import { densityOf, difference, mixture, quantileOf } from "../../statistics/index.ts";
import { familyLevel } from "./family.ts";
import type { Interval } from "./pairs.ts";

const RHO = [0, 0.05, 0.12, 0.2, 0.3, 0.5];
const RHO_WEIGHT = [0.02, 0.05, 0.13, 0.22, 0.3, 0.28];
const CELLS = 200;
const SHARES = Array.from({ length: CELLS }, (_, i) => (i + 0.5) / CELLS);

export interface Footfalls {
  soft: number;
  of: number;
}
export interface ShareLevel {
  /** Null with one take: ten footfalls of one take are not ten trials. */
  share: number | null;
  low90: number | null;
  high90: number | null;
}
export interface ShareSession {
  rhoWeights: readonly number[];
  levels: readonly ShareLevel[];
  /** Share of soft footfalls, by likeness and setup; for what compares setups. */
  byRho: readonly { weight: number; shares: readonly Density[] }[];
  takes: readonly number[];
}

/** By setup and take. Takes without a footfall say nothing and are left out by the caller. */
export function softFootfalls(setups: readonly (readonly Footfalls[])[]): ShareSession {
  for (const { soft, of } of setups.flat())
    if (!(Number.isInteger(soft) && Number.isInteger(of) && of > 0 && soft >= 0 && soft <= of))
      throw new RangeError(`soft footfalls must be counts with soft <= of, got ${soft} of ${of}`);
  const logs = RHO.map((rho) => setups.map((takes) => SHARES.map((p) => -0.5 * Math.log(p * (1 - p)) + logLikelihood(takes, p, rho))));
  const tops = setups.map((_, s) => Math.max(...logs.flatMap((row) => row[s] as number[])));
  const masses = logs.map((row) => row.map((values, s) => Float64Array.from(values, (v) => Math.exp(v - (tops[s] as number)))));
  const raw = masses.map((row, r) => row.reduce((w, m) => w * m.reduce((a, b) => a + b, 0), RHO_WEIGHT[r] as number));
  const whole = raw.reduce((a, b) => a + b, 0);
  const byRho = masses.map((row, r) => ({
    weight: (raw[r] as number) / whole,
    // A cell's middle lies half a step up; both of a difference do, so it cancels there and is put back where a share is read.
    shares: row.map((m) => densityOf(0, m, 1 / CELLS)),
  }));
  const levels = setups.map((takes, s) =>
    levelOf(takes, mixture(byRho.map((r) => ({ weight: r.weight, density: r.shares[s] as Density })))),
  );
  return { rhoWeights: byRho.map((r) => r.weight), levels, byRho, takes: setups.map((t) => t.length) };
}

function logLikelihood(takes: readonly Footfalls[], p: number, rho: number): number {
  if (rho === 0) return takes.reduce((sum, { soft, of }) => sum + soft * Math.log(p) + (of - soft) * Math.log(1 - p), 0);
  const m = 1 / rho - 1;
  const rising = (from: number, n: number): number => {
    let log = 0;
    for (let a = 0; a < n; a++) log += Math.log(from + a);
    return log;
  };
  return takes.reduce((sum, { soft, of }) => sum + rising(p * m, soft) + rising((1 - p) * m, of - soft) - rising(m, of), 0);
}

function levelOf(takes: readonly Footfalls[], density: Density): ShareLevel {
  if (takes.length < 2) return { share: null, low90: null, high90: null };
  const at = (p: number): number => Math.min(1, Math.max(0, quantileOf(density, p) + 0.5 / CELLS));
  return {
    share: at(0.5),
    low90: takes.every((t) => t.soft === 0) ? 0 : at(0.05),
    high90: takes.every((t) => t.soft === t.of) ? 1 : at(0.95),
  };
}

export interface ShareDifference {
  difference: number;
  alone: Interval;
  /** All pairs of the session hold together with 90 %. */
  family: Interval;
  toldApart: boolean;
}
/** Share of a less share of b; null where either has one take only. */
export function shareDifference(session: ShareSession, a: number, b: number): ShareDifference | null {
  if ((session.takes[a] ?? 0) < 2 || (session.takes[b] ?? 0) < 2) return null;
  const compared = session.takes.filter((n) => n >= 2).length;
  const parts = session.byRho.map(({ weight, shares }) => ({ weight, density: difference(shares[a] as Density, shares[b] as Density) }));
  const density = mixture(parts);
  const at = (level: number): Interval => ({ low: quantileOf(density, level / 2), high: quantileOf(density, 1 - level / 2) });
  const family = at(familyLevel(compared));
  return { difference: quantileOf(density, 0.5), alone: at(0.1), family, toldApart: family.low > 0 || family.high < 0 };
}
