// A temperature log fitted by one lumped body: for a fixed tau the rest is linear, so tau is searched on a log grid, then all are polished by
// Gauss-Newton. Standard errors are the ordinary ones of least squares; readings close in time are alike, so they are too small, and are
// widened by the effective sample size where a claim is made. Checked against scipy least_squares.

import { dot, invertPositive, leastSquares } from "../statistics/index.ts";

export interface Log {
  time: readonly number[];
  tempC: readonly number[];
}

export interface LumpedFit {
  /** In the order of the parameters. */
  values: number[];
  se: number[];
  covariance: number[][];
  /** Residual sum of squares and residual standard deviation. */
  rss: number;
  sigma: number;
  n: number;
}
export type LumpedFitResult = ({ ok: true } & LumpedFit) | { ok: false; reason: "too-few-readings" | "no-rise" | "time-constant-not-seen" };

/** Starting from ambient: (rise, tau). */
export const fitRise = (log: Log, ambientC: number): LumpedFitResult =>
  fit(log, {
    linear: (e) => [1 - e],
    offset: () => ambientC,
  });

/** Ambient unknown or start warm: (plateau, start, tau). */
export const fitPlateau = (log: Log): LumpedFitResult =>
  fit(log, {
    linear: (e) => [1 - e, e],
    offset: () => 0,
  });

interface Shape {
  /** Columns of the linear part, given e^(-t/tau). */
  linear: (e: number) => number[];
  offset: () => number;
}

const GRID = 120;
const POLISH = 60;

function fit(log: Log, shape: Shape): LumpedFitResult {
  const n = log.time.length;
  const width = shape.linear(0).length + 1;
  if (n <= width) return { ok: false, reason: "too-few-readings" };
  const span = Math.max(...log.time) - Math.min(...log.time);
  const level = log.tempC[0] ?? 0;
  if (!(span > 0) || log.tempC.every((v) => v === level)) return { ok: false, reason: "no-rise" };
  const tried = Array.from({ length: GRID }, (_, i) => span * 10 ** (-3 + (5 * i) / (GRID - 1))).flatMap((tau) => {
    const part = linearPart(log, shape, tau);
    return part === null ? [] : [{ theta: [...part, tau], rss: rssOf(log, shape, [...part, tau]) }];
  });
  const best = tried.reduce<(typeof tried)[number] | null>((b, t) => (b === null || t.rss < b.rss ? t : b), null);
  if (best === null) return { ok: false, reason: "no-rise" };
  const theta = polish(log, shape, best.theta);
  const tau = theta.at(-1) ?? 0;
  if (!(tau > 0) || tau > 50 * span) return { ok: false, reason: "time-constant-not-seen" };
  const inverse = invertPositive(gramOf(log, shape, theta));
  if (inverse === null) return { ok: false, reason: "time-constant-not-seen" };
  const rss = rssOf(log, shape, theta);
  const variance = rss / (n - width);
  const covariance = inverse.map((row) => row.map((v) => v * variance));
  return {
    ok: true,
    values: theta,
    se: covariance.map((row, i) => Math.sqrt(row[i] ?? 0)),
    covariance,
    rss,
    sigma: Math.sqrt(variance),
    n,
  };
}

const model = (shape: Shape, theta: readonly number[], time: number): number =>
  shape.offset() + dot(shape.linear(Math.exp(-time / (theta.at(-1) ?? 1))), theta);
const rssOf = (log: Log, shape: Shape, theta: readonly number[]): number =>
  log.time.reduce((sum, t, i) => sum + ((log.tempC[i] ?? 0) - model(shape, theta, t)) ** 2, 0);

function linearPart(log: Log, shape: Shape, tau: number): number[] | null {
  const rows = log.time.map((t) => shape.linear(Math.exp(-t / tau)));
  const rest = log.tempC.map((v) => v - shape.offset());
  return leastSquares(rows, rest);
}

/** Derivatives of the model by each parameter, tau last. */
function jacobian(log: Log, shape: Shape, theta: readonly number[]): number[][] {
  const tau = theta.at(-1) ?? 1;
  return log.time.map((t) => {
    const e = Math.exp(-t / tau);
    const bend = (t / (tau * tau)) * e;
    // d(linear)/de by a step that is exact: the columns are linear in e.
    const slope = shape.linear(1).map((v, j) => v - (shape.linear(0)[j] ?? 0));
    return [...shape.linear(e), bend * dot(slope, theta)];
  });
}

function gramOf(log: Log, shape: Shape, theta: readonly number[]): number[][] {
  const rows = jacobian(log, shape, theta);
  return theta.map((_, i) => theta.map((_t, j) => rows.reduce((s, r) => s + (r[i] ?? 0) * (r[j] ?? 0), 0)));
}

function polish(log: Log, shape: Shape, from: readonly number[]): number[] {
  let theta = [...from];
  let rss = rssOf(log, shape, theta);
  for (let i = 0; i < POLISH; i++) {
    const residuals = log.time.map((t, k) => (log.tempC[k] ?? 0) - model(shape, theta, t));
    const step = leastSquares(jacobian(log, shape, theta), residuals);
    if (step === null) return theta;
    let size = 1;
    let next = theta.map((v, j) => v + (step[j] ?? 0));
    while (size > 1e-10 && !((next.at(-1) ?? 0) > 0 && rssOf(log, shape, next) <= rss * (1 + 1e-15))) {
      size /= 2;
      next = theta.map((v, j) => v + size * (step[j] ?? 0));
    }
    const there = rssOf(log, shape, next);
    const moved = Math.max(...next.map((v, j) => Math.abs(v - (theta[j] ?? 0)) / Math.max(1e-300, Math.abs(v))));
    [theta, rss] = [next, there];
    if (moved < 1e-14) break;
  }
  return theta;
}
