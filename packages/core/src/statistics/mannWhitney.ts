// Two samples without assuming a shape: Mann-Whitney U with midranks (exact by enumeration up to 20 values in all), Cliff's delta, Hodges-Lehmann
// shift. Checked against R wilcox.test and full enumeration.

import { median } from "es-toolkit/math";
import { normalCdf } from "./distributions.ts";

export interface MannWhitney {
  /** Pairs with x above y, ties a half. */
  u: number;
  uOther: number;
  /** Share of pairs above minus below. */
  delta: number;
  /** Share of pairs above, ties a half. */
  superiority: number;
  variance: number;
  z: number;
  pNormal: number;
  /** Null above 20 values in all. */
  exact: { twoSided: number; greater: number; less: number } | null;
  /** Unbiased variance of delta; null with a single value on a side. */
  deltaVariance: number | null;
}
export type MannWhitneyResult = ({ ok: true } & MannWhitney) | { ok: false; reason: "empty" | "all-equal" };

const EXACT_MOST = 20;

export function mannWhitney(x: readonly number[], y: readonly number[]): MannWhitneyResult {
  const [m, n] = [x.length, y.length];
  if (m === 0 || n === 0) return { ok: false, reason: "empty" };
  const all = [...x, ...y];
  if (all.every((v) => v === all[0])) return { ok: false, reason: "all-equal" };
  const u = x.reduce((sum, a) => sum + y.reduce((s, b) => s + (a > b ? 1 : a === b ? 0.5 : 0), 0), 0);
  const ties = [...new Set(all)].map((v) => all.filter((w) => w === v).length);
  const total = m + n;
  const variance = ((m * n) / 12) * (total + 1 - ties.reduce((s, t) => s + t ** 3 - t, 0) / (total * (total - 1)));
  const off = u - (m * n) / 2;
  const z = Math.sign(off) * (Math.max(0, Math.abs(off) - 0.5) / Math.sqrt(variance));
  const delta = (2 * u) / (m * n) - 1;
  return {
    ok: true,
    u,
    uOther: m * n - u,
    delta,
    superiority: u / (m * n),
    variance,
    z,
    pNormal: Math.min(1, 2 * normalCdf(-Math.abs(z))),
    exact: total <= EXACT_MOST ? exactP(all, m, u) : null,
    deltaVariance: deltaVariance(x, y, delta),
  };
}

/** Every way to choose which values are the first sample's, by the sum of twice the midranks. */
function exactP(all: readonly number[], m: number, u: number): { twoSided: number; greater: number; less: number } {
  const twice = all.map((v) => 1 + 2 * all.filter((w) => w < v).length + all.filter((w) => w === v).length);
  const most = twice.reduce((a, b) => a + b, 0);
  const ways = Array.from({ length: m + 1 }, () => new Array<number>(most + 1).fill(0));
  (ways[0] as number[])[0] = 1;
  for (const r of twice)
    for (let k = m; k >= 1; k--)
      for (let s = most; s >= r; s--) (ways[k] as number[])[s] = (ways[k]?.[s] ?? 0) + (ways[k - 1]?.[s - r] ?? 0);
  const counts = ways[m] ?? [];
  const whole = counts.reduce((a, b) => a + b, 0);
  const uOf = (s: number): number => s / 2 - (m * (m + 1)) / 2;
  const centre = (m * (all.length - m)) / 2;
  const share = (holds: (value: number) => boolean): number =>
    counts.reduce((sum, c, s) => (c > 0 && holds(uOf(s)) ? sum + c : sum), 0) / whole;
  return {
    twoSided: share((v) => Math.abs(v - centre) >= Math.abs(u - centre) - 1e-9),
    greater: share((v) => v >= u - 1e-9),
    less: share((v) => v <= u + 1e-9),
  };
}

function deltaVariance(x: readonly number[], y: readonly number[], delta: number): number | null {
  const [m, n] = [x.length, y.length];
  if (m < 2 || n < 2) return null;
  const d = x.map((a) => y.map((b) => Math.sign(a - b)));
  const byX = d.map((row) => row.reduce((s, v) => s + v, 0) / n);
  const byY = y.map((_, j) => d.reduce((s, row) => s + (row[j] ?? 0), 0) / m);
  const squares = (v: readonly number[]): number => v.reduce((s, a) => s + (a - delta) ** 2, 0);
  return (n * n * squares(byX) + m * m * squares(byY) - squares(d.flat())) / (m * n * (m - 1) * (n - 1));
}

/** Median of all differences x - y. */
export function hodgesLehmann(x: readonly number[], y: readonly number[]): number {
  return median(differences(x, y));
}

const differences = (x: readonly number[], y: readonly number[]): number[] => x.flatMap((a) => y.map((b) => a - b)).sort((a, b) => a - b);

/** Exact two-sided interval of the shift, for samples without ties; null above 20 values in all, or when the confidence cannot be reached. */
export function shiftInterval(x: readonly number[], y: readonly number[], confidence: number): { lower: number; upper: number } | null {
  const [m, n] = [x.length, y.length];
  if (m === 0 || n === 0 || m + n > EXACT_MOST) return null;
  const ranks = Array.from({ length: m + n }, (_, i) => i);
  const tail = (1 - confidence) / 2;
  let k = 0;
  // Smallest U whose lower tail exceeds the wanted one.
  while (k <= m * n && exactP(ranks, m, k).less <= tail) k++;
  const d = differences(x, y);
  return k === 0 ? null : { lower: d[k - 1] ?? 0, upper: d[m * n - k] ?? 0 };
}
