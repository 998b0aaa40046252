// Runtimes as log T = x'b + sigma * epsilon: Weibull (epsilon: smallest extreme value) or lognormal, with covariates and right censoring.
// Fitted in kappa = 1/sigma and delta = b/sigma, where the log likelihood is concave: Newton with step halving converges whenever a
// maximum exists. Times and covariates are centred and scaled first. Checked against R survival::survreg.

import { dot, invertPositive, logNormalPdf, logNormalSf, normalHazard, normalQuantile, solvePositive } from "../numeric/index.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { requireLifetimes } from "./lifetimes.ts";

export type LifeLaw = "weibull" | "lognormal";

/** log f and log S of the standardised law at w, with the first two derivatives. */
interface Terms {
  value: number;
  d1: number;
  d2: number;
}
function failureTerms(law: LifeLaw, w: number): Terms {
  if (law === "lognormal") return { value: logNormalPdf(w), d1: -w, d2: -1 };
  const e = Math.exp(w);
  return { value: w - e, d1: 1 - e, d2: -e };
}
function censoredTerms(law: LifeLaw, w: number): Terms {
  if (law === "weibull") {
    const e = Math.exp(w);
    return { value: -e, d1: -e, d2: -e };
  }
  const h = normalHazard(w);
  return { value: logNormalSf(w), d1: -h, d2: -h * (h - w) };
}

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
export type NoFit = { ok: false; reason: "no-failures" | "all-failures-at-the-largest-time" | "design-not-of-full-rank" | "no-maximum" };
export type LifeFitResult = ({ ok: true } & LifeFit) | NoFit;

/** `design`: a row of covariates a run, without the intercept; none: one cell. */
export function fitLife(data: Lifetimes, law: LifeLaw, design: readonly (readonly number[])[] = []): LifeFitResult {
  requireLifetimes(data);
  const failures = data.event.filter((e) => e === 1).length;
  if (failures === 0) return { ok: false, reason: "no-failures" };
  const largest = Math.max(...data.time);
  if (design.length === 0 && data.time.every((t, i) => data.event[i] === 0 || t === largest))
    return { ok: false, reason: "all-failures-at-the-largest-time" };
  const rows = data.time.map((_, i) => [1, ...(design[i] ?? [])]);
  const scaled = scale(data, rows);
  if (scaled === null) return { ok: false, reason: "design-not-of-full-rank" };
  const best = maximise({ law, y: scaled.y, x: scaled.x, event: data.event, offset: 0 });
  if (best === null) return { ok: false, reason: "no-maximum" };
  const { coef, sigma } = scaled.back(best);
  const covariance = covarianceOf(data, rows, law, coef, sigma);
  if (covariance === null) return { ok: false, reason: "no-maximum" };
  return { ok: true, law, n: data.time.length, failures, coef, sigma, covariance, logLik: logLikelihood(data, rows, law, coef, sigma) };
}

interface Scaled {
  y: number[];
  x: number[][];
  back(theta: readonly number[]): { coef: number[]; sigma: number };
}

const mean = (v: readonly number[]): number => v.reduce((s, a) => s + a, 0) / v.length;
const spread = (v: readonly number[]): number => Math.sqrt(mean(v.map((a) => (a - mean(v)) ** 2)));

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
  const gram = columns.map((_, i) => columns.map((_c, j) => mean(x.map((r) => (r[i] ?? 0) * (r[j] ?? 0)))));
  if (invertPositive(gram.map((row, i) => row.map((v, j) => (i === j ? v - RANK : v)))) === null) return null;
  return {
    y: logs.map((v) => (v - m) / s),
    x,
    back: (theta) => {
      const kappa = theta.at(-1) ?? 1;
      const b = theta.slice(0, -1).map((d) => (s * d) / kappa);
      const slopes = b.map((v, j) => (j === 0 ? 0 : v / (spreads[j] ?? 1)));
      const intercept = m + (b[0] ?? 0) - dot(slopes, means);
      return { coef: [intercept, ...slopes.slice(1)], sigma: s / kappa };
    },
  };
}
/** Columns nearer to each other than this are one. */
const RANK = 1e-10;

export interface Problem {
  law: LifeLaw;
  /** w = kappa y - x'delta + offset. */
  y: readonly number[];
  x: readonly (readonly number[])[];
  event: readonly (0 | 1)[];
  offset: number;
}

const ITERATIONS = 200;
const HALVINGS = 60;

/** (delta, kappa) at the maximum of the concave log likelihood; null when it runs away. */
export function maximise(p: Problem): number[] | null {
  const width = p.x[0]?.length ?? 0;
  let theta = [...new Array<number>(width).fill(0), 1];
  let here = evaluate(p, theta);
  for (let i = 0; i < ITERATIONS; i++) {
    const step = solvePositive(here.information, here.gradient);
    if (step === null) return null;
    let size = 1;
    let next = theta.map((v, j) => v + (step[j] ?? 0));
    let there = evaluate(p, next);
    for (let k = 0; k < HALVINGS && !(there.value >= here.value - 1e-14 * Math.abs(here.value)); k++) {
      size /= 2;
      next = theta.map((v, j) => v + size * (step[j] ?? 0));
      there = evaluate(p, next);
    }
    const gain = dot(step, here.gradient);
    if (!Number.isFinite(there.value)) return null;
    [theta, here] = [next, there];
    if (gain < 1e-18 + 1e-16 * Math.abs(here.value)) return theta.some((v) => Math.abs(v) > RUNAWAY) ? null : theta;
    if (theta.some((v) => Math.abs(v) > RUNAWAY)) return null;
  }
  return null;
}
/** On scaled data no finite maximum lies out here. */
const RUNAWAY = 1e6;

interface Evaluated {
  value: number;
  gradient: number[];
  /** Minus the second derivatives. */
  information: number[][];
}

function evaluate(p: Problem, theta: readonly number[]): Evaluated {
  const size = theta.length;
  const kappa = theta[size - 1] ?? 0;
  const gradient = new Array<number>(size).fill(0);
  const information = Array.from({ length: size }, () => new Array<number>(size).fill(0));
  if (!(kappa > 0)) return { value: Number.NEGATIVE_INFINITY, gradient, information };
  let value = 0;
  p.y.forEach((y, i) => {
    const failed = p.event[i] === 1;
    const row = [...(p.x[i] ?? []).map((v) => -v), y];
    const w = dot(row, theta) + p.offset;
    const t = failed ? failureTerms(p.law, w) : censoredTerms(p.law, w);
    value += t.value + (failed ? Math.log(kappa) : 0);
    row.forEach((a, j) => {
      gradient[j] = (gradient[j] ?? 0) + t.d1 * a;
      row.forEach((b, k) => {
        (information[j] as number[])[k] = (information[j]?.[k] ?? 0) - t.d2 * a * b;
      });
    });
    if (failed) {
      gradient[size - 1] = (gradient[size - 1] ?? 0) + 1 / kappa;
      (information[size - 1] as number[])[size - 1] = (information[size - 1]?.[size - 1] ?? 0) + 1 / kappa ** 2;
    }
  });
  return { value, gradient, information };
}

/** Of the problem, without the constant sum of log t over failures. */
export const valueAt = (p: Problem, theta: readonly number[]): number => evaluate(p, theta).value;

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
