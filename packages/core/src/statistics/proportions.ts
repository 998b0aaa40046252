// Shares of a count. A claim takes Clopper-Pearson (1934) one-sided; an error bar Wilson (1927); a difference Newcombe's hybrid score (1998,
// method 10). Checked against scipy and the published table.

import { betaQuantile, normalQuantile } from "./distributions.ts";

export interface Limits {
  lower: number;
  upper: number;
}

function requireCount(k: number, n: number): void {
  if (!(Number.isInteger(k) && Number.isInteger(n) && k >= 0 && n >= k))
    throw new RangeError(`k of n must be counts with k <= n, got ${k} of ${n}`);
}

/** Two-sided; 0 to 1 without a trial. */
export function clopperPearson(k: number, n: number, confidence: number): Limits {
  requireCount(k, n);
  const tail = (1 - confidence) / 2;
  return { lower: lowerAt(k, n, tail), upper: 1 - lowerAt(n - k, n, tail) };
}
/** One-sided: the share is at least this, with the confidence. */
export const clopperPearsonLower = (k: number, n: number, confidence: number): number => {
  requireCount(k, n);
  return lowerAt(k, n, 1 - confidence);
};
export const clopperPearsonUpper = (k: number, n: number, confidence: number): number => {
  requireCount(k, n);
  return 1 - lowerAt(n - k, n, 1 - confidence);
};

const lowerAt = (k: number, n: number, tail: number): number => (k === 0 || n === 0 ? 0 : betaQuantile(tail, k, n - k + 1));

/** Two-sided; null without a trial. Exactly 0 and 1 at the ends. */
export const wilson = (k: number, n: number, confidence: number): Limits | null => wilsonAt(k, n, normalQuantile((1 + confidence) / 2));

export function wilsonAt(k: number, n: number, z: number): Limits | null {
  requireCount(k, n);
  if (n === 0) return null;
  const p = k / n;
  const centre = (p + (z * z) / (2 * n)) / (1 + (z * z) / n);
  const half = (z / (1 + (z * z) / n)) * Math.sqrt((p * (1 - p)) / n + (z * z) / (4 * n * n));
  return { lower: k === 0 ? 0 : centre - half, upper: k === n ? 1 : centre + half };
}

export type ShareDifference = ({ ok: true; difference: number } & Limits) | { ok: false; reason: "no-trials" };

/** First minus second share, two-sided. */
export function newcombe(k1: number, n1: number, k2: number, n2: number, confidence: number): ShareDifference {
  const [one, two] = [wilson(k1, n1, confidence), wilson(k2, n2, confidence)];
  if (one === null || two === null) return { ok: false, reason: "no-trials" };
  const [p1, p2] = [k1 / n1, k2 / n2];
  const difference = p1 - p2;
  return {
    ok: true,
    difference,
    lower: difference - Math.hypot(p1 - one.lower, two.upper - p2),
    upper: difference + Math.hypot(one.upper - p1, p2 - two.lower),
  };
}
