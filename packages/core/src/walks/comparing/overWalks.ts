// A difference seen on several walks: what holds over these walks on average, and what for a next walk of this kind. Days of one walker never
// become people, and walkers on one day never become days: the factor that varied is named by the caller.

import { bisect, normalCdf } from "../../statistics/index.ts";
import type { Interval } from "./pairs.ts";

/** Scatter of the log between walks, and how likely each is beforehand. */
const BETWEEN = [0.03, 0.08, 0.15, 0.25, 0.4, 0.7];
const BETWEEN_WEIGHT = [0.02, 0.08, 0.2, 0.28, 0.27, 0.15];
/** A claim about new walks needs this many. */
export const WALKS_FOR_NEW = 3;

/** Of one pair on one walk: median and 90 % interval of the log. */
export interface PairOnWalk extends Interval {
  log: number;
}
export interface OverWalks {
  middle: number;
  /** Over these walks, on average. */
  mean: Interval;
  /** For a next walk of this kind; may include 0 although every walk agreed. */
  next: Interval;
}
export type OverWalksResult = ({ ok: true } & OverWalks) | { ok: false; reason: "too-few-walks" };

export function overWalks(walks: readonly PairOnWalk[]): OverWalksResult {
  if (walks.length < WALKS_FOR_NEW) return { ok: false, reason: "too-few-walks" };
  for (const w of walks) if (!(w.high > w.low)) throw new RangeError(`an interval must have low < high, got ${w.low} to ${w.high}`);
  const parts = BETWEEN.map((tau, i) => meanGiven(walks, tau, BETWEEN_WEIGHT[i] as number));
  const top = Math.max(...parts.map((p) => p.logWeight));
  const weights = parts.map((p) => Math.exp(p.logWeight - top));
  const whole = weights.reduce((a, b) => a + b, 0);
  const mixed = parts.map((p, i) => ({ ...p, weight: (weights[i] as number) / whole }));
  const quantile = (p: number, extra: (tau: number) => number): number => {
    const spans = mixed.map((m) => ({ ...m, sd: Math.sqrt(m.variance + extra(m.tau)) }));
    const [lo, hi] = [Math.min(...spans.map((s) => s.mean - 9 * s.sd)), Math.max(...spans.map((s) => s.mean + 9 * s.sd))];
    return bisect((x) => spans.reduce((sum, s) => sum + s.weight * normalCdf((x - s.mean) / s.sd), 0) - p, lo, hi, 1e-9);
  };
  const none = (): number => 0;
  const between = (tau: number): number => tau * tau;
  return {
    ok: true,
    middle: quantile(0.5, none),
    mean: { low: quantile(0.05, none), high: quantile(0.95, none) },
    next: { low: quantile(0.05, between), high: quantile(0.95, between) },
  };
}

/** A 90 % interval is this many standard deviations wide. */
const WIDTH_90 = 3.29;
function meanGiven(walks: readonly PairOnWalk[], tau: number, prior: number) {
  const variances = walks.map((w) => ((w.high - w.low) / WIDTH_90) ** 2 + tau * tau);
  const precision = variances.reduce((s, v) => s + 1 / v, 0);
  const mean = walks.reduce((s, w, i) => s + w.log / (variances[i] as number), 0) / precision;
  const spread = walks.reduce((s, w, i) => s + (w.log - mean) ** 2 / (variances[i] as number), 0);
  const logWeight = Math.log(prior) - variances.reduce((s, v) => s + Math.log(v), 0) / 2 - Math.log(precision) / 2 - spread / 2;
  return { tau, mean, variance: 1 / precision, logWeight };
}
