// The marginal of a cell with intervals, or with runs cut off under a normal law: integrated over the middle on a grid. The logarithm of the likelihood
// is concave in the middle, so its top is climbed to, and its sides are left where they have fallen by 16.

import { SIGMA, SIGMAS } from "./grid.ts";
import type { Law } from "./laws.ts";
import type { Curve, Marginal } from "./marginal.ts";
import { normalMarginal, weibullMarginal } from "./closedForms.ts";
import { curvedMarginal, curveOf, NO_CURVE } from "./marginal.ts";
import type { LimitRun } from "./runs.ts";
import { isShutdown, middleSec } from "./runs.ts";

const POINTS = 49;
const DROP = 16;

/** Transformed times. */
export interface Transformed {
  exact: readonly number[];
  cut: readonly number[];
  intervals: readonly (readonly [number, number])[];
  /** The middles of the shutdowns. */
  shutdowns: readonly number[];
}

export function transformed(law: Law, runs: readonly LimitRun[]): Transformed {
  return {
    exact: runs.flatMap((r) => (r.kind === "exact" ? [law.v(r.sec)] : [])),
    cut: runs.flatMap((r) => (r.kind === "censored" ? [law.v(r.sec)] : [])),
    intervals: runs.flatMap((r) => (r.kind === "interval" ? [[law.v(r.loSec), law.v(r.hiSec)] as const] : [])),
    shutdowns: runs.filter(isShutdown).map((r) => law.v(middleSec(r))),
  };
}

export function griddedMarginal(law: Law, data: Transformed): Marginal {
  const curves: Curve[] = [];
  const logLikelihood = new Float64Array(SIGMAS).fill(Number.NEGATIVE_INFINITY);
  const most = data.exact.length === 0 ? null : exactMost(law, data.exact);
  let top = Number.NEGATIVE_INFINITY;
  let range: Range | null = null;
  // From the widest down: below some scatter nothing can be likely any more.
  for (let q = SIGMAS - 1; q >= 0; q--) {
    if (most !== null && (most[q] as number) < top - NEVER) {
      curves[q] = NO_CURVE;
      continue;
    }
    const scale = law.scale(SIGMA[q] as number);
    const exact = exactPart(law, data.exact, scale);
    const log = (mu: number): number => exact(mu) + inexactPart(law, data, scale, mu);
    range = rangeOf(log, range, startOf(law, data), scale, data.shutdowns.length);
    const { from, to } = range;
    const step = (to - from) / (POINTS - 1);
    const logs = new Float64Array(POINTS);
    for (let k = 0; k < POINTS; k++) logs[k] = log(from + k * step);
    const { curve, logIntegral } = curveOf(from, step, logs);
    curves[q] = curve;
    logLikelihood[q] = logIntegral;
    top = Math.max(top, logIntegral);
  }
  return curvedMarginal(law, logLikelihood, curves);
}

/** A likelihood smaller by this on the log scale changes no digit. */
const NEVER = 34;

/** What runs that are not exact can only lower: the closed form of the exact ones alone. */
const exactMost = (law: Law, exact: readonly number[]): Float64Array =>
  (law.normal ? normalMarginal(law, exact) : weibullMarginal(law, exact, [])).logLikelihood;

/** Where the likelihood is finite at any scatter: above every time for the Weibull, whose density falls doubly exponentially. */
function startOf(law: Law, { exact, cut, intervals, shutdowns }: Transformed): number {
  return law.normal
    ? shutdowns.reduce((a, b) => a + b, 0) / shutdowns.length
    : Math.max(...exact, ...cut, ...intervals.map(([, hi]) => hi));
}

/** The exact runs through what they add up to: their number, mean and squares, or for the Weibull the sum of their exponentials. */
function exactPart(law: Law, exact: readonly number[], scale: number): (mu: number) => number {
  const n = exact.length;
  if (n === 0) return () => 0;
  const mean = exact.reduce((a, b) => a + b, 0) / n;
  if (law.normal) {
    const squares = exact.reduce((sum, v) => sum + (v - mean) ** 2, 0);
    const free = -n * (Math.log(scale) + HALF_LOG_TAU) - squares / (2 * scale * scale);
    return (mu) => free - (n * (mean - mu) ** 2) / (2 * scale * scale);
  }
  const top = Math.max(...exact);
  const rest = exact.reduce((sum, v) => sum + Math.exp((v - top) / scale), 0);
  return (mu) => (n * (mean - mu)) / scale - n * Math.log(scale) - Math.exp((top - mu) / scale) * rest;
}

const HALF_LOG_TAU = 0.5 * Math.log(2 * Math.PI);

function inexactPart(law: Law, { cut, intervals }: Transformed, scale: number, mu: number): number {
  let sum = 0;
  for (const v of cut) sum += law.logSurvival((v - mu) / scale);
  for (const [lo, hi] of intervals) sum += logBetween(law, (lo - mu) / scale, (hi - mu) / scale);
  return sum;
}

/** log P(a < W <= b), from whichever tail keeps its digits. */
export function logBetween(law: Law, a: number, b: number): number {
  if (!law.normal) return -Math.exp(a) + Math.log(-Math.expm1(-(Math.exp(b) - Math.exp(a))));
  const [near, far] = a > 0 ? [law.logSurvival(a), law.logSurvival(b)] : [law.logSurvival(-b), law.logSurvival(-a)];
  return near + Math.log1p(-Math.exp(far - near));
}

const CLIMBS = 60;
const HALVINGS = 3;

interface Range {
  from: number;
  mode: number;
  to: number;
  scale: number;
}

/** To the top, then out on each side until it has fallen by DROP; `near`: of a scatter close by, whose top and width are close too. */
function rangeOf(log: (mu: number) => number, near: Range | null, start: number, scale: number, n: number): Range {
  const step = scale / Math.sqrt(n);
  let [mode, top, stride] = [near?.mode ?? start, log(near?.mode ?? start), near === null ? step : step / 2];
  for (let i = 0; i < CLIMBS && stride > step / 8; i++) {
    const right = log(mode + stride);
    const left = right > top ? Number.NEGATIVE_INFINITY : log(mode - stride);
    if (right > top) [mode, top, stride] = [mode + stride, right, 1.6 * stride];
    else if (left > top) [mode, top, stride] = [mode - stride, left, 1.6 * stride];
    else stride /= 2;
  }
  const out = (side: 1 | -1): number => {
    if (near !== null) {
      const guess = mode + ((side === 1 ? near.to : near.from) - near.mode) * (scale / near.scale);
      const fallen = top - log(guess);
      if (fallen > DROP && fallen < 2 * DROP) return guess;
    }
    let [inside, outside, far] = [mode, mode + side * step, step];
    while (log(outside) > top - DROP) {
      far *= 1.6;
      [inside, outside] = [outside, outside + side * far];
    }
    // The last stride was long: back towards where it falls below.
    for (let i = 0; i < HALVINGS; i++) {
      const middle = (inside + outside) / 2;
      if (log(middle) > top - DROP) inside = middle;
      else outside = middle;
    }
    return outside;
  };
  return { from: out(-1), mode, to: out(1), scale };
}
