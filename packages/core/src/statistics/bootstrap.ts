// Bias-corrected and accelerated bootstrap (Efron 1987). Up to six values every resample is enumerated with equal weight; above, drawn with a
// seed. Quantiles are those of the empirical distribution: sorted[ceil(p B)].

import { normalCdf, normalQuantile } from "./distributions.ts";
import type { Random } from "./random.ts";

export type Statistic = (x: readonly number[]) => number;

export interface Bca {
  estimate: number;
  mean: number;
  sd: number;
  percentile: { lower: number; upper: number };
  z0: number;
  acceleration: number;
  levels: { lower: number; upper: number };
  bca: { lower: number; upper: number };
}
export type BcaResult = ({ ok: true } & Bca) | { ok: false; reason: "no-spread" | "too-few" };

const ENUMERATED = 6;

/** `random` is used above six values; `draws` resamples then. */
export function bootstrapBca(x: readonly number[], statistic: Statistic, confidence: number, random: Random, draws = 2000): BcaResult {
  if (x.length < 2) return { ok: false, reason: "too-few" };
  if (x.every((v) => v === x[0])) return { ok: false, reason: "no-spread" };
  const estimate = statistic(x);
  const values = (x.length <= ENUMERATED ? everyResample(x) : drawn(x, random, draws)).map(statistic).sort((a, b) => a - b);
  const acceleration = jackknifeAcceleration(x, statistic);
  // Sums in another order differ in the last digit: those are ties.
  const same = (v: number): boolean => Math.abs(v - estimate) <= 1e-12 * Math.max(1, Math.abs(estimate));
  const below = values.reduce((sum, v) => sum + (same(v) ? 0.5 : v < estimate ? 1 : 0), 0);
  const z0 = normalQuantile(Math.min(1 - 1e-12, Math.max(1e-12, below / values.length)));
  const tail = (1 - confidence) / 2;
  const level = (p: number): number => {
    const w = z0 + normalQuantile(p);
    return normalCdf(z0 + w / (1 - acceleration * w));
  };
  const levels = { lower: level(tail), upper: level(1 - tail) };
  const at = (p: number): number => values[Math.min(values.length, Math.max(1, Math.ceil(p * values.length - 1e-9))) - 1] ?? estimate;
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return {
    ok: true,
    estimate,
    mean,
    sd: Math.sqrt(values.reduce((s, v) => s + (v - mean) ** 2, 0) / values.length),
    percentile: { lower: at(tail), upper: at(1 - tail) },
    z0,
    acceleration,
    levels,
    bca: { lower: at(levels.lower), upper: at(levels.upper) },
  };
}

function everyResample(x: readonly number[]): number[][] {
  const n = x.length;
  return Array.from({ length: n ** n }, (_, code) => Array.from({ length: n }, (_v, k) => x[Math.floor(code / n ** k) % n] ?? 0));
}

const drawn = (x: readonly number[], random: Random, draws: number): number[][] =>
  Array.from({ length: draws }, () => x.map(() => x[random.int(0, x.length - 1)] ?? 0));

/** Sum L^3 / (6 (sum L^2)^1.5), L the mean of the leave-one-out values less each. 0 where they are all equal. */
export function jackknifeAcceleration(x: readonly number[], statistic: Statistic): number {
  const left = jackknife(x, statistic);
  const mean = left.reduce((a, b) => a + b, 0) / left.length;
  const l = left.map((v) => mean - v);
  const [squares, cubes] = [l.reduce((s, v) => s + v ** 2, 0), l.reduce((s, v) => s + v ** 3, 0)];
  return squares === 0 ? 0 : cubes / (6 * squares ** 1.5);
}

export const jackknife = <T>(x: readonly T[], statistic: (x: readonly T[]) => number): number[] =>
  x.map((_, i) => statistic(x.filter((_v, k) => k !== i)));

/** Jackknife standard error of any statistic. */
export function jackknifeSe<T>(x: readonly T[], statistic: (x: readonly T[]) => number): number {
  const left = jackknife(x, statistic);
  const mean = left.reduce((a, b) => a + b, 0) / left.length;
  return Math.sqrt(((left.length - 1) / left.length) * left.reduce((s, v) => s + (v - mean) ** 2, 0));
}
