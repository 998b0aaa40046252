// What one cell's runs say under one law, by scatter: how likely they are with the middle left free (flat), and where the middle then lies.

import { SIGMA } from "./grid.ts";
import type { Law } from "./laws.ts";

export interface Marginal {
  /** log likelihood of the runs by scatter of the grid, the middle integrated out. */
  logLikelihood: Float64Array;
  /** P(mu <= y) at scatter number q. */
  below(q: number, y: number): number;
  /** P(a run to come lasts beyond v) at scatter number q. */
  survival(q: number, v: number): number;
}

/** A curve over mu at one scatter: equal points, their weights (summing to 1), cumulated. */
export interface Curve {
  from: number;
  step: number;
  weights: Float64Array;
  cumulative: Float64Array;
}

/** From log densities on equal points; returns the log of the integral beside it. */
export function curveOf(from: number, step: number, logs: Float64Array): { curve: Curve; logIntegral: number } {
  const n = logs.length;
  let top = Number.NEGATIVE_INFINITY;
  for (let i = 0; i < n; i++) top = Math.max(top, logs[i] as number);
  const weights = new Float64Array(n);
  const cumulative = new Float64Array(n);
  for (let i = 0; i < n; i++) weights[i] = Math.exp((logs[i] as number) - top);
  // Trapezoid: half a weight at the ends.
  for (let i = 1; i < n; i++) cumulative[i] = (cumulative[i - 1] as number) + ((weights[i - 1] as number) + (weights[i] as number)) / 2;
  const sum = cumulative[n - 1] as number;
  weights[0] = (weights[0] as number) / 2;
  weights[n - 1] = (weights[n - 1] as number) / 2;
  for (let i = 0; i < n; i++) {
    weights[i] = (weights[i] as number) / sum;
    cumulative[i] = (cumulative[i] as number) / sum;
  }
  return { curve: { from, step, weights, cumulative }, logIntegral: top + Math.log(sum * step) };
}

/** By the cubic whose slopes are the weights: the curve is their integral, so few points do. 0 and 1 outside. */
function shareBelow({ from, step, weights, cumulative }: Curve, y: number): number {
  const at = (y - from) / step;
  if (at <= 0) return 0;
  const last = cumulative.length - 1;
  if (at >= last) return 1;
  const i = Math.floor(at);
  const t = at - i;
  const y0 = cumulative[i] as number;
  const rise = (cumulative[i + 1] as number) - y0;
  const [d0, d1] = [weights[i] as number, weights[i + 1] as number];
  return y0 + t * (d0 + t * (3 * rise - 2 * d0 - d1 + t * (d0 + d1 - 2 * rise)));
}

/** Stands for a scatter that cannot matter. */
export const NO_CURVE: Curve = { from: 0, step: 1, weights: Float64Array.of(1), cumulative: Float64Array.of(1) };

/** A marginal that is a curve at each scatter. */
export const curvedMarginal = (law: Law, logLikelihood: Float64Array, curves: readonly Curve[]): Marginal => ({
  logLikelihood,
  below: (q, y) => shareBelow(curves[q] as Curve, y),
  survival: (q, v) => meanSurvival(curves[q] as Curve, law, law.scale(SIGMA[q] as number), v),
});

/** Points that weigh less change no digit of a chance. */
const NO_WEIGHT = 1e-7;

/** Mean survival beyond v over the curve. */
function meanSurvival({ from, step, weights }: Curve, law: Law, scale: number, v: number): number {
  let sum = 0;
  for (let i = 0; i < weights.length; i++) {
    const weight = weights[i] as number;
    if (weight > NO_WEIGHT) sum += weight * law.survival((v - from - i * step) / scale);
  }
  return sum;
}
