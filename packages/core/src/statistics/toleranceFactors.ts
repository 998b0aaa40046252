// Tolerance factors. Normal: k so that mean - k sd lies below all but a share, by the noncentral t (checked against R and the printed tables of
// Odeh and Owen 1980). Distribution-free: by order statistics (Wilks 1941).

import { bisect } from "./roots.ts";
import { noncentralTCdf, normalQuantile } from "./distributions.ts";
import { confidenceOfOrder } from "./distributionFree.ts";

function requireShare(name: string, v: number): void {
  if (!(v > 0 && v < 1)) throw new RangeError(`${name} must lie between 0 and 1, got ${v}`);
}

/** One-sided factor for n observations, share `coverage` above, with `confidence`. `RangeError` below two observations. */
export function normalToleranceFactor(n: number, coverage: number, confidence: number): number {
  if (!(n >= 2)) throw new RangeError(`n must be at least 2, got ${n}`);
  requireShare("coverage", coverage);
  requireShare("confidence", confidence);
  return regressionToleranceFactor(n - 1, 1 / n, coverage, confidence);
}

/** In a regression: residual degrees of freedom and h = x'(X'X)^-1 x; k of the residual standard deviation below the fitted value. */
export function regressionToleranceFactor(df: number, h: number, coverage: number, confidence: number): number {
  if (!(df >= 1)) throw new RangeError(`df must be at least 1, got ${df}`);
  const key = `${df} ${h} ${coverage} ${confidence}`;
  const known = FACTORS.get(key) ?? solveFactor(df, h, coverage, confidence);
  if (FACTORS.size < FACTORS_MOST) FACTORS.set(key, known);
  return known;
}

/** The factor does not depend on the runs, only on how many there are: simulations ask for the same one thousands of times. */
const FACTORS = new Map<string, number>();
const FACTORS_MOST = 5000;

function solveFactor(df: number, h: number, coverage: number, confidence: number): number {
  const ncp = normalQuantile(coverage) / Math.sqrt(h);
  let hi = Math.max(1, 2 * Math.abs(ncp));
  while (noncentralTCdf(hi, df, ncp) < confidence) hi *= 2;
  const lo = Math.min(0, -2 * Math.abs(ncp) - 10);
  return bisect((t) => noncentralTCdf(t, df, ncp) - confidence, lo, hi) * Math.sqrt(h);
}

/** Largest order whose observation is a lower bound of the share with the confidence, and the confidence it reaches; 0: not even the shortest. */
export function orderOfBound(n: number, coverage: number, confidence: number): { order: number; achieved: number } {
  let order = 0;
  while (order < n && confidenceOfOrder(n, coverage, order + 1) >= confidence) order++;
  return { order, achieved: order === 0 ? 0 : confidenceOfOrder(n, coverage, order) };
}
