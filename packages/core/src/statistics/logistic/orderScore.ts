// Whether shots are kept less often the later they come, beyond what their exposure explains: the score test for one more covariate in a logistic curve
// (Cox and Hinkley, Theoretical Statistics, 1974, 9.3), with the variance enlarged because shots of one go are alike.

import { normalCdf } from "../distributions.ts";
import { expit, fitLogit, refusalOfCounts } from "./binomial.ts";

export interface OrderedVisit {
  x: number;
  kept: number;
  shots: number;
  /** Place in the session, in shots. */
  place: number;
}
export interface OrderScore {
  /** Score and its variance: below zero, the later the worse. */
  score: number;
  variance: number;
  /** Share of the variance of the order that exposure leaves over: near 0, the order cannot be told from the exposure. */
  free: number;
}
/** Two shots of one go, by simulation of hold tests. */
const ALIKE = 0.16;

/** Null where no curve can be fitted: nothing is said then. */
export function orderScore(visits: readonly OrderedVisit[]): OrderScore | null {
  if (refusalOfCounts(visits) !== null) return null;
  const fit = fitLogit(visits);
  if (fit === null) return null;
  const rows = visits.map((v) => {
    const p = expit(fit.intercept + fit.slope * v.x);
    return { ...v, p, weight: v.shots * p * (1 - p), inflated: 1 + (v.shots - 1) * ALIKE };
  });
  const sum = (of: (r: (typeof rows)[number]) => number): number => rows.reduce((s, r) => s + of(r), 0);
  const total = sum((r) => r.weight);
  const [mx, mz] = [sum((r) => r.weight * r.x) / total, sum((r) => r.weight * r.place) / total];
  const xx = sum((r) => r.weight * (r.x - mx) ** 2);
  const slope = xx === 0 ? 0 : sum((r) => r.weight * (r.x - mx) * (r.place - mz)) / xx;
  const rest = (r: { x: number; place: number }): number => r.place - mz - slope * (r.x - mx);
  const zz = sum((r) => r.weight * (r.place - mz) ** 2);
  return {
    score: sum((r) => (r.kept - r.shots * r.p) * rest(r)),
    variance: sum((r) => r.weight * r.inflated * rest(r) ** 2),
    free: zz === 0 ? 0 : sum((r) => r.weight * rest(r) ** 2) / zz,
  };
}

/** One-sided p that they are kept no less the later they come, over settings with a curve each. Null without any. */
export function laterIsWorse(scores: readonly OrderScore[]): number | null {
  const variance = scores.reduce((s, o) => s + o.variance, 0);
  return variance === 0 ? null : normalCdf(scores.reduce((s, o) => s + o.score, 0) / Math.sqrt(variance));
}
