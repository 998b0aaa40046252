// Lower bounds of a quantile of runtime, one-sided. The Wald and likelihood-ratio bounds cover less than they claim at few runs and are for
// preview and comparison; what is claimed is the conditional bound (Weibull, Lawless 1982) or the exact one (complete lognormal).

import { bisect, falsePosition } from "./roots.ts";
import { gammaCdf, normalQuantile, studentQuantile } from "./distributions.ts";
import { quadratic } from "./linear.ts";
import type { LifeLaw, Problem } from "./lifeLikelihood.ts";
import { maximise, valueAt } from "./lifeLikelihood.ts";
import type { LifeFit } from "./lifeModel.ts";
import { lawQuantile } from "./lifeModel.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { normalToleranceFactor } from "./toleranceFactors.ts";

export interface QuantileAt {
  /** The share that has failed by then, such as 0.1. */
  p: number;
  /** Covariates, without the intercept. */
  at: readonly number[];
}

const rowOf = ({ at }: QuantileAt): number[] => [1, ...at];

/** log t_p at these covariates, and its standard error by the delta method. */
export function logQuantile(fit: LifeFit, q: QuantileAt): { log: number; se: number } {
  const z = lawQuantile(fit.law, q.p);
  const row = rowOf(q);
  const log = row.reduce((sum, v, j) => sum + v * (fit.coef[j] ?? 0), z * fit.sigma);
  return { log, se: Math.sqrt(quadratic(fit.covariance, [...row, z * fit.sigma])) };
}

export function waldLower(fit: LifeFit, q: QuantileAt, confidence: number): number {
  const { log, se } = logQuantile(fit, q);
  return Math.exp(log - normalQuantile(confidence) * se);
}

export type Critical = "normal" | "t";

/** Likelihood ratio; `t`: with t(n - p) squared as critical value, p coefficients. Not a claim: it covers less than it says. */
export function likelihoodRatioLower(
  data: Lifetimes,
  design: readonly (readonly number[])[],
  fit: LifeFit,
  q: QuantileAt,
  confidence: number,
  critical: Critical,
): number {
  const df = fit.n - fit.coef.length;
  const root = critical === "normal" ? normalQuantile(confidence) : studentQuantile(confidence, df);
  const logs = data.event.reduce<number>((sum, e, i) => sum + (e === 1 ? Math.log(data.time[i] ?? 1) : 0), 0);
  const best = fit.logLik + logs;
  const { log } = logQuantile(fit, q);
  const drop = (at: number): number => 2 * (best - profile(data, design, fit.law, q, at)) - root ** 2;
  let [step, lo] = [fit.sigma, log];
  // Outward until the likelihood has fallen far enough.
  for (let i = 0; i < 60 && drop(lo) < 0; i++) {
    lo -= step;
    step *= 1.5;
  }
  return Math.exp(bisect(drop, lo, log));
}

/** Largest log likelihood with the quantile held at `logTime`: one dimension less, by the same Newton. */
function profile(data: Lifetimes, design: readonly (readonly number[])[], law: LifeLaw, q: QuantileAt, logTime: number): number {
  const problem: Problem = {
    law,
    y: data.time.map((t) => Math.log(t) - logTime),
    x: data.time.map((_, i) => q.at.map((v, j) => (design[i]?.[j] ?? 0) - v)),
    event: data.event,
    offset: lawQuantile(law, q.p),
  };
  const theta = maximise(problem);
  return theta === null ? Number.NEGATIVE_INFINITY : valueAt(problem, theta);
}

export type BoundResult =
  | { ok: true; lower: number }
  | { ok: false; reason: "too-few-shutdowns" | "all-failures-at-the-largest-time" | "not-complete" };

/** Apart in log shape: a fifth of the posterior's width or less, where the trapezoid of a smooth bell is exact to the last digits. */
const apartFor = (failures: number): number => Math.min(0.03, 0.15 / Math.sqrt(failures));
const BELOW = 25;
const ABOVE = 4.5;

/** Lawless's conditional bound for one Weibull cell: needs two failures, not all at the largest time. Integral by trapezoid in log shape. */
export function conditionalWeibullLower(data: Lifetimes, fit: LifeFit, p: number, confidence: number): BoundResult {
  const r = fit.failures;
  if (r < 2) return { ok: false, reason: "too-few-shutdowns" };
  const largest = Math.max(...data.time);
  if (data.time.every((t, i) => data.event[i] === 0 || t === largest)) return { ok: false, reason: "all-failures-at-the-largest-time" };
  const grid = posteriorGrid(data, r, largest, Math.log(1 / fit.sigma));
  const need = -Math.log1p(-p);
  const outlasted = (logQ: number): number => outlastedBy(grid, need, r, logQ) - confidence;
  const { log } = logQuantile(fit, { p, at: [] });
  const top = log - Math.log(largest);
  let lo = top - fit.sigma;
  for (let i = 0; i < 60 && outlasted(lo) < 0; i++) lo -= 2 ** i * fit.sigma;
  return { ok: true, lower: largest * Math.exp(falsePosition(outlasted, lo, top + 3 * fit.sigma, 1e-12)) };
}

/** P(t_p > q): the integral over the posterior of the shape. */
function outlastedBy(grid: readonly GridPoint[], need: number, r: number, logQ: number): number {
  let sum = 0;
  for (const g of grid) sum += g.weight * gammaCdf(Math.exp(g.logS - g.beta * logQ) * need, r);
  return sum;
}

/** P(t_p > q) given the runs, by the same integral; for counting coverage without a search. `fit` of the same data. */
export function conditionalWeibullShare(data: Lifetimes, fit: LifeFit, p: number, q: number): number {
  const largest = Math.max(...data.time);
  const grid = posteriorGrid(data, fit.failures, largest, Math.log(1 / fit.sigma));
  return outlastedBy(grid, -Math.log1p(-p), fit.failures, Math.log(q / largest));
}

interface GridPoint {
  beta: number;
  /** log of the sum over all runs of (t / largest)^beta. */
  logS: number;
  /** Of the posterior, summing to 1. */
  weight: number;
}

function posteriorGrid(data: Lifetimes, r: number, largest: number, centre: number): GridPoint[] {
  const logs = data.time.map((t) => Math.log(t / largest));
  const failed = logs.reduce((sum, v, i) => sum + (data.event[i] === 1 ? v : 0), 0);
  const count = 1 + Math.ceil((BELOW + ABOVE) / apartFor(r));
  const step = (BELOW + ABOVE) / (count - 1);
  const points = Array.from({ length: count }, (_, i) => {
    const u = centre - BELOW + i * step;
    const beta = Math.exp(u);
    const logS = Math.log(logs.reduce((sum, v) => sum + Math.exp(beta * v), 0));
    return { beta, logS, density: (r - 1) * u + beta * failed - r * logS, end: i === 0 || i === count - 1 ? 0.5 : 1 };
  });
  const most = Math.max(...points.map((p) => p.density));
  const raw = points.map((p) => p.end * Math.exp(p.density - most));
  const whole = raw.reduce((a, b) => a + b, 0);
  // What weighs nothing is left out: it cannot change the last digit.
  return points.flatMap(({ beta, logS }, i) => {
    const weight = (raw[i] ?? 0) / whole;
    return weight < 1e-15 ? [] : [{ beta, logS, weight }];
  });
}

/** Exact bound of one complete lognormal cell: mean minus k standard deviations of the logs. */
export function completeLognormalLower(data: Lifetimes, p: number, confidence: number): BoundResult {
  if (data.event.some((e) => e === 0)) return { ok: false, reason: "not-complete" };
  const n = data.time.length;
  if (n < 2) return { ok: false, reason: "too-few-shutdowns" };
  const logs = data.time.map((t) => Math.log(t));
  const mean = logs.reduce((a, b) => a + b, 0) / n;
  const sd = Math.sqrt(logs.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (n - 1));
  if (!(sd > 0)) return { ok: false, reason: "all-failures-at-the-largest-time" };
  return { ok: true, lower: Math.exp(mean - normalToleranceFactor(n, 1 - p, confidence) * sd) };
}
