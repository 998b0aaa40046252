// How much a setup shakes, from few takes: a density of its level on the log scale. All setups of a session share what is believed about
// scatter, each may have one bad take (a stumble, a gust), and a bad take widens the interval rather than moving it.
// The procedure and its simulated coverage: docs/methods/walk-comparison.md.

import type { Density } from "../../statistics/index.ts";
import { densityOf } from "../../statistics/index.ts";

export const STEP = 0.01;
const SCATTERS = Array.from({ length: 25 }, (_, i) => 0.02 * 50 ** (i / 24));
const SESSIONS = Array.from({ length: 13 }, (_, a) => -3 + a / 2);
/** Share of each scatter, by session level. */
const PRIOR = SESSIONS.map((z) => {
  const row = SCATTERS.map((sd) => Math.exp(-(((Math.log(sd) - (Math.log(0.2) + 0.6 * z)) / 0.4) ** 2) / 2));
  const whole = row.reduce((s, v) => s + v, 0);
  return row.map((v) => v / whole);
});
const SESSION_WEIGHT = SESSIONS.map((z) => Math.exp(-(z * z) / 2));
/** Chance that a take is the bad one, and what it adds to the variance of its log. Beyond eight takes the chance of any stays that of eight. */
const BAD = 0.03;
const BAD_TAKES = 8;
const BAD_VARIANCE = 0.36;

export interface LevelPosterior {
  /** Of the log of the value. */
  density: Density;
  /** Standard deviation of the log from take to take. */
  scatter: number;
  /** By take: the probability that it is the bad one. */
  bad: readonly number[];
}

/** One state: a scatter, and which take is bad (0: none). */
interface State {
  mean: number;
  variance: number;
  likelihood: number;
}

/** Of logs, by setup and take. Throws without a value in some setup. */
export function levelPosteriors(logs: readonly (readonly number[])[]): LevelPosterior[] {
  for (const y of logs)
    if (y.length === 0 || !y.every(Number.isFinite)) throw new RangeError(`every setup needs finite logs, got [${y.join(", ")}]`);
  const states = logs.map(statesOf);
  const totals = states.map((byScatter) => byScatter.map((row) => row.reduce((s, st) => s + st.likelihood, 0)));
  // By session level and setup: how well the setup's takes fit it.
  const fits = PRIOR.map((prior) => totals.map((total) => total.reduce((s, t, i) => s + t * (prior[i] as number), 0)));
  const level = scaled(fits.map((row, a) => row.reduce((p, z) => p * z, SESSION_WEIGHT[a] as number)));
  return states.map((byScatter, s) => {
    const share = SCATTERS.map((_, i) => level.reduce((sum, p, a) => sum + (p * (PRIOR[a]?.[i] as number)) / (fits[a]?.[s] as number), 0));
    return posteriorOf(logs[s] as readonly number[], byScatter, share);
  });
}

function statesOf(y: readonly number[]): State[][] {
  const each = Math.min(BAD, (BAD * BAD_TAKES) / y.length);
  const logs = SCATTERS.map((sd) =>
    Array.from({ length: y.length + 1 }, (_, bad) => {
      const v = y.map((_y, j) => sd * sd + (bad === j + 1 ? BAD_VARIANCE : 0));
      const precision = v.reduce((s, x) => s + 1 / x, 0);
      const mean = y.reduce((s, x, j) => s + x / (v[j] as number), 0) / precision;
      const spread = y.reduce((s, x, j) => s + (x - mean) ** 2 / (v[j] as number), 0);
      const logPrior = Math.log(bad === 0 ? 1 - each * y.length : each);
      const logLikelihood = logPrior - v.reduce((s, x) => s + Math.log(x), 0) / 2 - Math.log(precision) / 2 - spread / 2;
      return { mean, variance: 1 / precision, logLikelihood };
    }),
  );
  const top = Math.max(...logs.flat().map((st) => st.logLikelihood));
  return logs.map((row) => row.map(({ mean, variance, logLikelihood }) => ({ mean, variance, likelihood: Math.exp(logLikelihood - top) })));
}

function posteriorOf(y: readonly number[], byScatter: readonly State[][], share: readonly number[]): LevelPosterior {
  const first = Math.floor((Math.min(...y) - 3) / STEP);
  const mass = new Float64Array(Math.ceil((Math.max(...y) + 3) / STEP) - first + 1);
  const bad = y.map(() => 0);
  let [logScatter, whole] = [0, 0];
  byScatter.forEach((row, i) =>
    row.forEach(({ mean, variance, likelihood }, c) => {
      const weight = likelihood * (share[i] as number);
      whole += weight;
      logScatter += weight * Math.log(SCATTERS[i] as number);
      if (c > 0) bad[c - 1] = (bad[c - 1] as number) + weight;
      if (weight > 1e-16) addNormal(mass, first, mean, variance, weight);
    }),
  );
  return { density: densityOf(first, mass, STEP), scatter: Math.exp(logScatter / whole), bad: bad.map((b) => b / whole) };
}

/** Beyond this many standard deviations a normal adds nothing. */
const FAR = 8.5;
/** Adds weight × the normal density at the grid points; by ratios of neighbours, which are themselves in a constant ratio. */
function addNormal(mass: Float64Array, first: number, mean: number, variance: number, weight: number): void {
  const sd = Math.sqrt(variance);
  const from = Math.max(0, Math.ceil((mean - FAR * sd) / STEP) - first);
  const to = Math.min(mass.length - 1, Math.floor((mean + FAR * sd) / STEP) - first);
  const middle = Math.min(to, Math.max(from, Math.round(mean / STEP) - first));
  const height = weight / sd;
  const curve = Math.exp((-STEP * STEP) / variance);
  for (const way of [1, -1]) {
    const off = STEP * (first + middle) - mean;
    let value = height * Math.exp((-off * off) / (2 * variance));
    let ratio = Math.exp((-way * off * STEP) / variance - (STEP * STEP) / (2 * variance));
    if (way === -1) {
      value *= ratio;
      ratio *= curve;
    }
    for (let i = way === 1 ? middle : middle - 1; i >= from && i <= to; i += way) {
      mass[i] = (mass[i] as number) + value;
      value *= ratio;
      ratio *= curve;
    }
  }
}

function scaled(values: readonly number[]): number[] {
  const whole = values.reduce((s, v) => s + v, 0);
  return values.map((v) => v / whole);
}
