// Log-rank test of two groups (Mantel 1966; hypergeometric variance). Checked against R survival::survdiff.

import { chiSquareSf } from "./distributions.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { requireLifetimes } from "./lifetimes.ts";

export interface LogRank {
  /** By group, in the order given. */
  observed: [number, number];
  expected: [number, number];
  variance: number;
  chiSquare: number;
  p: number;
}
export type LogRankResult = ({ ok: true } & LogRank) | { ok: false; reason: "no-events" | "one-group" };

export function logRank(a: Lifetimes, b: Lifetimes): LogRankResult {
  requireLifetimes(a);
  requireLifetimes(b);
  if (a.time.length === 0 || b.time.length === 0) return { ok: false, reason: "one-group" };
  const eventTimes = new Set([a, b].flatMap((g) => g.time.filter((_, i) => g.event[i] === 1)));
  const count = (g: Lifetimes, time: number) => ({
    atRisk: g.time.filter((t) => t >= time).length,
    events: g.time.filter((t, i) => t === time && g.event[i] === 1).length,
  });
  let [observedA, expectedA, variance, all] = [0, 0, 0, 0];
  for (const time of eventTimes) {
    const [one, two] = [count(a, time), count(b, time)];
    const [n, d] = [one.atRisk + two.atRisk, one.events + two.events];
    observedA += one.events;
    all += d;
    expectedA += (d * one.atRisk) / n;
    if (n > 1) variance += (d * one.atRisk * two.atRisk * (n - d)) / (n * n * (n - 1));
  }
  if (!(variance > 0)) return { ok: false, reason: "no-events" };
  const chiSquare = (observedA - expectedA) ** 2 / variance;
  return {
    ok: true,
    observed: [observedA, all - observedA],
    expected: [expectedA, all - expectedA],
    variance,
    chiSquare,
    p: chiSquareSf(chiSquare, 1),
  };
}
