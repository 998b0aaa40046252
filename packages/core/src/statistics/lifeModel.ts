// Runtimes as log T = x'b + sigma * epsilon: Weibull (epsilon: smallest extreme value) or lognormal, with covariates and right censoring.
// Fitted in kappa = 1/sigma and delta = b/sigma, where the log likelihood is concave: Newton with step halving converges whenever a
// maximum exists. Times and covariates are centred and scaled first. Checked against R survival::survreg.

import { dot, invertPositive } from "./linear.ts";
import { normalQuantile } from "./distributions.ts";
import { estimateCells } from "./cellEstimate.ts";
import type { LifeLaw } from "./lifeLikelihood.ts";
import { censoredTerms, failureTerms, maximise } from "./lifeLikelihood.ts";
import type { Lifetimes, Unusable } from "./lifetimes.ts";
import { requireLifetimes, unusable } from "./lifetimes.ts";

/** The standardised p quantile: log t_p = x'b + z_p sigma. */
export const lawQuantile = (law: LifeLaw, p: number): number => (law === "weibull" ? Math.log(-Math.log1p(-p)) : normalQuantile(p));

export interface LifeFit {
  law: LifeLaw;
  n: number;
  failures: number;
  /** Intercept first. */
  coef: number[];
  sigma: number;
  /** Covariance of (coef, log sigma), from the observed information. */
  covariance: number[][];
  logLik: number;
}
export type NoFit = {
  ok: false;
  reason: Unusable | "no-failures" | "all-failures-at-the-largest-time" | "design-not-of-full-rank" | "no-maximum";
};
export type LifeFitResult = ({ ok: true } & LifeFit) | NoFit;

/** `design`: a row of covariates a run, without the intercept; none: one cell. */
export function fitLife(data: Lifetimes, law: LifeLaw, design: readonly (readonly number[])[] = []): LifeFitResult {
  const estimate = estimateLife(data, law, design);
  if (!estimate.ok) return estimate;
  const { coef, sigma } = estimate;
  const rows = data.time.map((_, i) => [1, ...(design[i] ?? [])]);
  const failures = data.event.filter((e) => e === 1).length;
  const covariance = covarianceOf(data, rows, law, coef, sigma);
  if (covariance === null) return { ok: false, reason: "no-maximum" };
  return { ok: true, law, n: data.time.length, failures, coef, sigma, covariance, logLik: logLikelihood(data, rows, law, coef, sigma) };
}

/** The maximum alone, without its covariance: what a resample needs. */
export function estimateLife(
  data: Lifetimes,
  law: LifeLaw,
  design: readonly (readonly number[])[] = [],
): { ok: true; coef: number[]; sigma: number } | NoFit {
  const wrong = unusable(data);
  if (wrong !== null) return { ok: false, reason: wrong };
  requireLifetimes(data);
  if (!data.event.includes(1)) return { ok: false, reason: "no-failures" };
  let largest = 0;
  for (const t of data.time) largest = Math.max(largest, t);
  if (design.length === 0 && data.time.every((t, i) => data.event[i] === 0 || t === largest))
    return { ok: false, reason: "all-failures-at-the-largest-time" };
  if (design.length === 0) return oneCell(data, law);
  const scaled = scale(
    data,
    data.time.map((_, i) => [1, ...(design[i] ?? [])]),
  );
  if (scaled === null) return { ok: false, reason: "design-not-of-full-rank" };
  const best = maximise({ law, y: scaled.y, x: scaled.x, event: data.event, offset: 0 });
  return best === null ? { ok: false, reason: "no-maximum" } : { ok: true, ...scaled.back(best) };
}

/** Without covariates the arrow's one cell is the same maximum in half the time. */
function oneCell(data: Lifetimes, law: LifeLaw): { ok: true; coef: number[]; sigma: number } | NoFit {
  const best = estimateCells([data], law);
  return best === null ? { ok: false, reason: "no-maximum" } : { ok: true, coef: best.middles, sigma: best.sigma };
}

interface Scaled {
  y: number[];
  x: number[][];
  back(theta: readonly number[]): { coef: number[]; sigma: number };
}

const mean = (v: readonly number[]): number => v.reduce((s, a) => s + a, 0) / v.length;
function spread(v: readonly number[]): number {
  const m = mean(v);
  return Math.sqrt(v.reduce((sum, a) => sum + (a - m) ** 2, 0) / v.length);
}

/** Null when a column is constant or a combination of others. */
function scale({ time }: Lifetimes, rows: readonly (readonly number[])[]): Scaled | null {
  const logs = time.map((t) => Math.log(t));
  const [m, s] = [mean(logs), spread(logs) || 1];
  const width = rows[0]?.length ?? 1;
  const columns = Array.from({ length: width }, (_, j) => rows.map((r) => r[j] ?? 0));
  const means = columns.map((c, j) => (j === 0 ? 0 : mean(c)));
  const spreads = columns.map((c, j) => (j === 0 ? 1 : spread(c)));
  if (spreads.some((v) => !(v > 0))) return null;
  const x = rows.map((r) => r.map((v, j) => (v - (means[j] ?? 0)) / (spreads[j] ?? 1)));
  if (width === 1) return { y: logs.map((v) => (v - m) / s), x, back: backOf(m, s, means, spreads) };
  const gram = columns.map((_, i) => columns.map((_c, j) => mean(x.map((r) => (r[i] ?? 0) * (r[j] ?? 0)))));
  if (invertPositive(gram.map((row, i) => row.map((v, j) => (i === j ? v - RANK : v)))) === null) return null;
  return { y: logs.map((v) => (v - m) / s), x, back: backOf(m, s, means, spreads) };
}

const backOf =
  (m: number, s: number, means: readonly number[], spreads: readonly number[]): Scaled["back"] =>
  (theta) => {
    const kappa = theta.at(-1) ?? 1;
    const b = theta.slice(0, -1).map((d) => (s * d) / kappa);
    const slopes = b.map((v, j) => (j === 0 ? 0 : v / (spreads[j] ?? 1)));
    const intercept = m + (b[0] ?? 0) - dot(slopes, means);
    return { coef: [intercept, ...slopes.slice(1)], sigma: s / kappa };
  };
/** Columns nearer to each other than this are one. */
const RANK = 1e-10;

function logLikelihood(
  data: Lifetimes,
  rows: readonly (readonly number[])[],
  law: LifeLaw,
  coef: readonly number[],
  sigma: number,
): number {
  return data.time.reduce((sum, t, i) => {
    const w = (Math.log(t) - dot(rows[i] ?? [], coef)) / sigma;
    return sum + (data.event[i] === 1 ? failureTerms(law, w).value - Math.log(sigma) - Math.log(t) : censoredTerms(law, w).value);
  }, 0);
}

function covarianceOf(
  data: Lifetimes,
  rows: readonly (readonly number[])[],
  law: LifeLaw,
  coef: readonly number[],
  sigma: number,
): number[][] | null {
  const size = coef.length + 1;
  const information = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  data.time.forEach((time, i) => {
    const x = rows[i] ?? [];
    const w = (Math.log(time) - dot(x, coef)) / sigma;
    const { d1, d2 } = data.event[i] === 1 ? failureTerms(law, w) : censoredTerms(law, w);
    // Derivatives of w: -x/sigma by b, -w by log sigma.
    const row = [...x.map((v) => -v / sigma), -w];
    const bend = [...x.map((v) => v / sigma), w];
    for (let j = 0; j < size; j++)
      for (let k = 0; k < size; k++) {
        const second = j === size - 1 ? bend[k] : k === size - 1 ? bend[j] : 0;
        (information[j] as number[])[k] = (information[j]?.[k] ?? 0) - d2 * (row[j] ?? 0) * (row[k] ?? 0) - d1 * (second ?? 0);
      }
  });
  return invertPositive(information);
}
