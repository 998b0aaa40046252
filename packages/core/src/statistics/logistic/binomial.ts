// Kept of shots against exposure by a falling (or rising) logistic curve, by maximum likelihood: logit p = a + b x. The classical comparison; no
// claim rests on it. Checked against R's glm(cbind(keep, trials - keep) ~ x, binomial).

import { chiSquareSf } from "../distributions.ts";
import { invertPositive } from "../linear.ts";
import { maximiseConcave } from "../newton.ts";

export interface Counts {
  x: number;
  kept: number;
  shots: number;
}
export type Separation = "overlap" | "complete" | "quasi-complete";
export type LogitRefusal = "no-shots" | "one-rung" | "all-kept" | "none-kept";

/** log(1 + e^z) without overflow. */
export const logOnePlusExp = (z: number): number => (z > 0 ? z + Math.log1p(Math.exp(-z)) : Math.log1p(Math.exp(z)));
export const expit = (z: number): number => 1 / (1 + Math.exp(-z));
export const logit = (p: number): number => Math.log(p / (1 - p));

/** Without the binomial coefficients. */
export const logLikelihood = (data: readonly Counts[], a: number, b: number): number =>
  data.reduce((s, { x, kept, shots }) => s - kept * logOnePlusExp(-(a + b * x)) - (shots - kept) * logOnePlusExp(a + b * x), 0);

/** Entries of the information matrix: for a, for both, for b. */
export function informationAt(data: readonly Counts[], a: number, b: number): [number, number, number] {
  let [aa, ab, bb] = [0, 0, 0];
  for (const { x, shots } of data) {
    const p = expit(a + b * x);
    const w = shots * p * (1 - p);
    aa += w;
    ab += w * x;
    bb += w * x * x;
  }
  return [aa, ab, bb];
}

export function refusalOfCounts(data: readonly Counts[]): LogitRefusal | null {
  const used = data.filter((d) => d.shots > 0);
  if (used.length === 0) return "no-shots";
  if (new Set(used.map((d) => d.x)).size < 2) return "one-rung";
  if (used.every((d) => d.kept === d.shots)) return "all-kept";
  return used.every((d) => d.kept === 0) ? "none-kept" : null;
}

/** Whether kept and lost overlap along x, and the gap between them where they do not: its ends are where the one ends and the other begins. */
export function separationOf(data: readonly Counts[]): { type: Separation; gap: readonly [number, number] | null } {
  const kept = data.filter((d) => d.kept > 0).map((d) => d.x);
  const lost = data.filter((d) => d.kept < d.shots).map((d) => d.x);
  const falling = [Math.max(...kept), Math.min(...lost)] as const;
  const rising = [Math.max(...lost), Math.min(...kept)] as const;
  for (const gap of [falling, rising]) if (gap[0] <= gap[1]) return { type: gap[0] < gap[1] ? "complete" : "quasi-complete", gap };
  return { type: "overlap", gap: null };
}

export interface LogitFit {
  intercept: number;
  slope: number;
  /** Covariance of intercept and slope: of the first, of both, of the second. */
  covariance: readonly [number, number, number];
  logLikelihood: number;
  deviance: number;
  nullDeviance: number;
  /** Likelihood ratio of the slope, and its chance if it were none. */
  ratio: number;
  p: number;
}

/** Null where kept and lost do not overlap: the curve has no steepest end. */
export function fitLogit(data: readonly Counts[]): LogitFit | null {
  if (separationOf(data).type !== "overlap") return null;
  const centre = meanX(data);
  const about = data.map((d) => ({ ...d, x: d.x - centre }));
  const found = maximiseConcave(
    ([a = 0, b = 0]) => {
      const [aa, ab, bb] = informationAt(about, a, b);
      const off = about.map((d) => ({ x: d.x, by: d.kept - d.shots * expit(a + b * d.x) }));
      const gradient = [off.reduce((s, o) => s + o.by, 0), off.reduce((s, o) => s + o.by * o.x, 0)];
      return {
        value: logLikelihood(about, a, b),
        gradient,
        information: [
          [aa, ab],
          [ab, bb],
        ],
      };
    },
    [0, 0],
  );
  if (found === null) return null;
  const [a = 0, slope = 0] = found.at;
  const intercept = a - slope * centre;
  const value = logLikelihood(data, intercept, slope);
  const bare = nullLikelihood(data);
  const full = saturated(data);
  const ratio = 2 * (value - bare);
  return {
    intercept,
    slope,
    covariance: covarianceAt(data, intercept, slope),
    logLikelihood: value,
    deviance: 2 * (full - value),
    nullDeviance: 2 * (full - bare),
    ratio,
    p: chiSquareSf(ratio, 1),
  };
}

export function covarianceAt(data: readonly Counts[], a: number, b: number): [number, number, number] {
  const [aa, ab, bb] = informationAt(data, a, b);
  const inverse = invertPositive([
    [aa, ab],
    [ab, bb],
  ]);
  return [inverse?.[0]?.[0] ?? Number.NaN, inverse?.[0]?.[1] ?? Number.NaN, inverse?.[1]?.[1] ?? Number.NaN];
}

const meanX = (data: readonly Counts[]): number => {
  const shots = data.reduce((s, d) => s + d.shots, 0);
  return data.reduce((s, d) => s + d.shots * d.x, 0) / shots;
};
const share = (k: number, n: number): number => (k === 0 ? 0 : k * Math.log(k / n));
const saturated = (data: readonly Counts[]): number =>
  data.reduce((s, d) => s + share(d.kept, d.shots) + share(d.shots - d.kept, d.shots), 0);
export function nullLikelihood(data: readonly Counts[]): number {
  const [k, n] = [data.reduce((s, d) => s + d.kept, 0), data.reduce((s, d) => s + d.shots, 0)];
  return share(k, n) + share(n - k, n);
}
