// Lower bound of a quantile of one lognormal cell with runs that did not end: the posterior under the prior flat in mu and log sigma, integrated over both.
// Without such runs it is the exact bound by the noncentral t, to which it is tested. Source: docs/methods/dependable-limit.md, "Classical bounds";
// Lawless, J. F. (1982), Statistical Models and Methods for Lifetime Data, ch. 5 (conditional inference; from memory).

import { logNormalPdf, logNormalSf, normalQuantile } from "./distributions.ts";
import type { BoundResult } from "./lifeBounds.ts";
import type { LifeFit } from "./lifeModel.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { bisect } from "./roots.ts";

/** Gauss and Legendre on [-1, 1], eight points (Abramowitz and Stegun, table 25.4). */
const NODES = [
  [0.1834346424956498, 0.362683783378362],
  [0.525532409916329, 0.3137066458778873],
  [0.7966664774136267, 0.2223810344533745],
  [0.9602898564975363, 0.1012285362903763],
].flatMap(([x = 0, w = 0]) => [
  { x: -x, w },
  { x, w },
]);
const SCALE_STEP = 0.2;
const SCALE_BELOW = 4;
/** Both tails fall like a power of one less than the shutdowns: so far out, in log units, nothing is left to the ninth digit. */
const reachOf = (failures: number): number => Math.min(22, 4 + 22 / (failures - 1));
/** Panels of the quantile in sinh units: fine where the bulk lies, wide in the tails. */
const panelsOf = (reach: number): [number, number][] => {
  const bulk = Math.min(5, reach);
  return [...steps(-reach, -bulk, 2), ...steps(-bulk, bulk, 0.5), ...steps(bulk, reach, 2)];
};

/** `fit`: of the same data. Needs two shutdowns, not all at the largest time. Seconds. */
export function conditionalLognormalLower(data: Lifetimes, fit: LifeFit, p: number, confidence: number): BoundResult {
  if (fit.failures < 2) return { ok: false, reason: "too-few-shutdowns" };
  const largest = Math.max(...data.time);
  if (data.time.every((t, i) => data.event[i] === 0 || t === largest)) return { ok: false, reason: "all-failures-at-the-largest-time" };
  const reach = reachOf(fit.failures);
  const density = quantileDensity(data, fit, normalQuantile(p), reach);
  const panels = panelsOf(reach);
  const masses = panels.map(([from, to]) => panel(density, from, to));
  const whole = masses.reduce((sum, m) => sum + m, 0);
  const below = (1 - confidence) * whole;
  let [sum, i] = [0, 0];
  while (i < masses.length - 1 && sum + (masses[i] ?? 0) < below) sum += masses[i++] ?? 0;
  const [from, to] = panels[i] ?? [0, 0];
  const v = bisect((at) => sum + panel(density, from, at) - below, from, to, 1e-13);
  return { ok: true, lower: Math.exp(density.logAt(v)) };
}

interface Density {
  /** Unnormalised, of the stretched quantile. */
  (v: number): number;
  logAt(v: number): number;
}

/** Of log t_p = centre + sigma sinh(v): the likelihood summed over log sigma by the trapezoid, which is exact to the last digits for a smooth bell. */
function quantileDensity(data: Lifetimes, fit: LifeFit, z: number, reach: number): Density {
  const cell = cellOf(data);
  const [mu = 0] = fit.coef;
  const centre = mu + z * fit.sigma;
  const sigmas = Array.from(
    { length: Math.ceil((SCALE_BELOW + reach) / SCALE_STEP) },
    (_, i) => fit.sigma * Math.exp(i * SCALE_STEP - SCALE_BELOW),
  );
  const most = logLikelihood(cell, mu, fit.sigma, Number.NEGATIVE_INFINITY);
  const logAt = (v: number): number => centre + fit.sigma * Math.sinh(v);
  const density = (v: number): number => {
    const quantile = logAt(v);
    const jacobian = Math.cosh(v);
    return sigmas.reduce(
      (sum, sigma) => sum + jacobian * Math.exp(logLikelihood(cell, quantile - z * sigma, sigma, most - NOTHING) - most),
      0,
    );
  };
  return Object.assign(density, { logAt });
}

/** Log times, shutdowns first: they are the ones that can rule a point out. */
interface Cell {
  logs: readonly number[];
  failures: number;
}
function cellOf({ time, event }: Lifetimes): Cell {
  const of = (e: 0 | 1): number[] => time.filter((_, i) => event[i] === e).map((t) => Math.log(t));
  return { logs: [...of(1), ...of(0)], failures: of(1).length };
}

/** A point this much less likely than the best, in logs, weighs nothing. */
const NOTHING = 50;
const PEAK = logNormalPdf(0);
/** Minus infinity as soon as it is sure to lie below `least`: no shutdown can add more than its peak, a run that did not end nothing. */
function logLikelihood({ logs, failures }: Cell, mu: number, sigma: number, least: number): number {
  const logSigma = Math.log(sigma);
  let sum = 0;
  for (let i = 0; i < logs.length; i++) {
    const w = ((logs[i] as number) - mu) / sigma;
    sum += i < failures ? logNormalPdf(w) - logSigma : logNormalSf(w);
    if (sum + Math.max(0, failures - 1 - i) * (PEAK - logSigma) < least) return Number.NEGATIVE_INFINITY;
  }
  return sum;
}

const panel = (f: (v: number) => number, from: number, to: number): number => {
  const half = (to - from) / 2;
  return half * NODES.reduce((sum, { x, w }) => sum + w * f(from + half * (1 + x)), 0);
};

/** Equal panels of about this width. */
function steps(from: number, to: number, about: number): [number, number][] {
  const count = Math.ceil((to - from) / about);
  const by = (to - from) / count;
  return Array.from({ length: count }, (_, i) => [from + i * by, from + (i + 1) * by]);
}
