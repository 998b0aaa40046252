// Before and after: a firmware or one changed setting. Ratio of typical times with its interval; different, the same within a margin, or cannot tell
// yet. Complete data: Student's t on the logs. With censoring: the regression with one yes/no column and the bootstrap pivot.
// "The same within a margin" is two one-sided tests at 5 % (Schuirmann 1987): the 90 % interval lies within the margin.

import { shutdownsOf } from "../cells/index.ts";
import { logsOf } from "../cells/index.ts";
import { lifetimesOf } from "../cells/index.ts";
import type { Timed } from "../cells/index.ts";
import { studentQuantile } from "../statistics/index.ts";
import { randomFrom } from "../statistics/index.ts";
import { bootstrapPivots, pivotInterval, varianceOf } from "../statistics/index.ts";
import type { Factor } from "./effects.ts";

export type ChangeVerdict = "longer" | "shorter" | "same within the margin" | "cannot tell yet";
export type Change =
  | {
      ok: true;
      /** After over before. */
      ratio: Factor;
      verdict: ChangeVerdict;
      margin: number;
      by: "exact" | "pivot";
      /** Of the interval. */
      confidence: number;
      n: { before: number; after: number };
      /** Shutdowns enough on either side for a verdict. */
      enough: boolean;
    }
  | { ok: false; reason: "too-few-shutdowns" | "no-fit"; n: { before: number; after: number } };

export const SAME_MARGIN = 0.1;
const CONFIDENCE = 0.9;
/** Of either side, to be compared at all; for a verdict it takes more. */
export const LEAST_SHUTDOWNS = 2;
const FOR_A_VERDICT = 3;
const DRAWS = 2000;

/** Two shutdowns on either side at least, three for a verdict. `pairs`: how many comparisons are looked at together; each is made the surer for it (Bonferroni). */
export function compareChange(
  before: readonly Timed[],
  after: readonly Timed[],
  pairs = 1,
  margin = SAME_MARGIN,
  seed = 20_310_603,
): Change {
  const n = { before: before.length, after: after.length };
  if (shutdownsOf(before).length < LEAST_SHUTDOWNS || shutdownsOf(after).length < LEAST_SHUTDOWNS)
    return { ok: false, reason: "too-few-shutdowns", n };
  const complete = [...before, ...after].every((r) => r.event === 1);
  const confidence = 1 - (1 - CONFIDENCE) / pairs;
  const ratio = complete ? exactRatio(logsOf(before), logsOf(after), confidence) : pivotRatio(before, after, confidence, seed);
  if (ratio === null) return { ok: false, reason: "no-fit", n };
  const few = Math.min(shutdownsOf(before).length, shutdownsOf(after).length) < FOR_A_VERDICT;
  return {
    ok: true,
    ratio,
    verdict: few ? "cannot tell yet" : verdictOf(ratio, margin),
    margin,
    by: complete ? "exact" : "pivot",
    confidence,
    n,
    enough: !few,
  };
}

/** The margin is asked first: a difference too small to matter is none, however certain. */
function verdictOf({ lo, hi }: Factor, margin: number): ChangeVerdict {
  if (lo > 1 - margin && hi < 1 / (1 - margin)) return "same within the margin";
  if (lo > 1) return "longer";
  if (hi < 1) return "shorter";
  return "cannot tell yet";
}

/** Welch's interval on the logs: the sides need not scatter alike. */
function exactRatio(a: readonly number[], b: readonly number[], confidence: number): Factor {
  const mean = (v: readonly number[]): number => v.reduce((s, x) => s + x, 0) / v.length;
  const [va, vb] = [varianceOf(a) / a.length, varianceOf(b) / b.length];
  const diff = mean(b) - mean(a);
  const df = va + vb > 0 ? (va + vb) ** 2 / (va ** 2 / (a.length - 1) + vb ** 2 / (b.length - 1)) : 1;
  const half = studentQuantile((1 + confidence) / 2, df) * Math.sqrt(va + vb);
  return { mid: Math.exp(diff), lo: Math.exp(diff - half), hi: Math.exp(diff + half) };
}

function pivotRatio(before: readonly Timed[], after: readonly Timed[], confidence: number, seed: number): Factor | null {
  const all = [...before, ...after];
  const pivots = bootstrapPivots(
    {
      data: lifetimesOf(all),
      design: all.map((_, i) => [i < before.length ? 0 : 1]),
      law: "lognormal",
      cutAt: all.map((r) => (r.event === 0 ? r.timeSec : Number.POSITIVE_INFINITY)),
      quantiles: [],
      draws: DRAWS,
    },
    randomFrom(seed),
  );
  if (!pivots.ok) return null;
  const { lo, hi } = pivotInterval(pivots, 1, confidence);
  return { mid: Math.exp(pivots.fit.coef[1] ?? 0), lo: Math.exp(lo), hi: Math.exp(hi) };
}
