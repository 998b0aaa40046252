// Log-rank test of two groups or more (Mantel 1966, Peto and Peto 1972; hypergeometric covariance). Checked against R survival::survdiff.

import { chiSquareSf } from "./distributions.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { requireLifetimes, unusable } from "./lifetimes.ts";
import { dot, solvePositive } from "./linear.ts";

export interface LogRank {
  /** By group, in the order given. */
  observed: number[];
  expected: number[];
  /** Covariance of observed minus expected, by group. */
  covariance: number[][];
  chiSquare: number;
  /** Groups that could have had an event, less one. */
  df: number;
  p: number;
}
export type LogRankResult = ({ ok: true } & LogRank) | { ok: false; reason: "no-events" | "one-group" | "time-not-positive" };

/** A group without runs, or that was gone before the first event, takes no part; fewer than two that do are no comparison. */
export function logRank(groups: readonly Lifetimes[]): LogRankResult {
  if (groups.some((g) => unusable(g) === "time-not-positive")) return { ok: false, reason: "time-not-positive" };
  groups.forEach(requireLifetimes);
  if (groups.filter((g) => g.time.length > 0).length < 2) return { ok: false, reason: "one-group" };
  const observed = groups.map((g) => g.event.filter((e) => e === 1).length);
  const expected = groups.map(() => 0);
  const covariance = groups.map(() => groups.map(() => 0));
  const eventTimes = new Set(groups.flatMap((g) => g.time.filter((_, i) => g.event[i] === 1)));
  for (const time of eventTimes) {
    const atRisk = groups.map((g) => g.time.filter((t) => t >= time).length);
    const [n, d] = [total(atRisk), total(groups.map((g) => g.time.filter((t, i) => t === time && g.event[i] === 1).length))];
    const spread = n > 1 ? (d * (n - d)) / (n - 1) : 0;
    atRisk.forEach((a, i) => {
      expected[i] = (expected[i] ?? 0) + (d * a) / n;
      atRisk.forEach((b, j) => {
        (covariance[i] as number[])[j] = (covariance[i]?.[j] ?? 0) + spread * (((i === j ? a : 0) - (a * b) / n) / n);
      });
    });
  }
  const partake = expected.flatMap((e, i) => (e > 0 ? [i] : []));
  // The deviations sum to zero, so one group of those is left out of the quadratic form.
  const free = partake.slice(1);
  const deviation = free.map((i) => (observed[i] ?? 0) - (expected[i] ?? 0));
  const solved = solvePositive(
    free.map((i) => free.map((j) => covariance[i]?.[j] ?? 0)),
    deviation,
  );
  if (free.length === 0 || solved === null) return { ok: false, reason: "no-events" };
  const chiSquare = dot(deviation, solved);
  return { ok: true, observed, expected, covariance, chiSquare, df: free.length, p: chiSquareSf(chiSquare, free.length) };
}

const total = (counts: readonly number[]): number => counts.reduce((sum, n) => sum + n, 0);
