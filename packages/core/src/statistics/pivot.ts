// Parametric bootstrap of the pivot (theta* - theta-hat) / sigma*: what stands behind a bound from runs pooled over cells when some are
// censored. Runs are drawn anew from the fit, cut where battery or card would have cut them, and fitted again. A resample that cannot be
// fitted is drawn anew and counted; above a fifth of all draws the bound is refused, since what is left would be a choice of the lucky ones.
// Source: Efron and Tibshirani (1993), "An Introduction to the Bootstrap", ch. 12 (bootstrap-t), and Meeker and Escobar (1998), ch. 9.

import type { Random } from "./random.ts";
import type { LifeLaw } from "./lifeLikelihood.ts";
import type { QuantileAt } from "./lifeBounds.ts";
import { logQuantile } from "./lifeBounds.ts";
import type { LifeFit, NoFit } from "./lifeModel.ts";
import { estimateLife, fitLife, lawQuantile } from "./lifeModel.ts";
import type { Lifetimes } from "./lifetimes.ts";

/** Above this share of draws that cannot be fitted nothing is claimed. */
export const UNFITTABLE_MOST = 0.2;

export interface PivotRequest {
  data: Lifetimes;
  design: readonly (readonly number[])[];
  law: LifeLaw;
  /** Seconds at which each run would have been cut: battery, card, the tester's own stop; infinite where nothing is known. */
  cutAt: readonly number[];
  quantiles: readonly QuantileAt[];
  draws: number;
}
export interface Pivots {
  ok: true;
  fit: LifeFit;
  draws: number;
  /** Draws that could not be fitted and were drawn anew. */
  redrawn: number;
  /** Per asked quantile, then per coefficient: the pivots, ascending. */
  quantiles: Float64Array[];
  coefficients: Float64Array[];
}
export type PivotResult = Pivots | { ok: false; reason: NoFit["reason"] | "too-many-unfittable"; redrawn: number };

/** `RangeError` unless each run has its row (or none has one) and its cut. */
export function bootstrapPivots(request: PivotRequest, random: Random): PivotResult {
  const { data, design, law, cutAt, quantiles, draws } = request;
  if (cutAt.length !== data.time.length) throw new RangeError(`cutAt must have ${data.time.length} entries, got ${cutAt.length}`);
  const fit = fitLife(data, law, design);
  if (!fit.ok) return { ok: false, reason: fit.reason, redrawn: 0 };
  const columns = quantiles.length + fit.coef.length;
  const out = Array.from({ length: columns }, () => new Float64Array(draws));
  const at = quantiles.map((q) => logQuantile(fit, q).log);
  let [done, redrawn] = [0, 0];
  while (done < draws) {
    const again = estimateLife(drawAnew(fit, data.time.length, design, cutAt, random), law, design);
    if (!again.ok) {
      redrawn++;
      if (redrawn > UNFITTABLE_MOST * draws) return { ok: false, reason: "too-many-unfittable", redrawn };
      continue;
    }
    quantiles.forEach((q, i) => {
      (out[i] as Float64Array)[done] = (logAt(again, law, q) - (at[i] ?? 0)) / again.sigma;
    });
    again.coef.forEach((b, j) => {
      (out[quantiles.length + j] as Float64Array)[done] = (b - (fit.coef[j] ?? 0)) / again.sigma;
    });
    done++;
  }
  for (const column of out) column.sort();
  return { ok: true, fit, draws, redrawn, quantiles: out.slice(0, quantiles.length), coefficients: out.slice(quantiles.length) };
}

const logAt = ({ coef, sigma }: { coef: readonly number[]; sigma: number }, law: LifeLaw, { p, at }: QuantileAt): number =>
  at.reduce((sum, v, j) => sum + v * (coef[j + 1] ?? 0), (coef[0] ?? 0) + lawQuantile(law, p) * sigma);

function drawAnew(fit: LifeFit, n: number, design: readonly (readonly number[])[], cutAt: readonly number[], random: Random): Lifetimes {
  const time: number[] = [];
  const event: (0 | 1)[] = [];
  for (let i = 0; i < n; i++) {
    const row = design[i] ?? [];
    let log = fit.coef[0] ?? 0;
    for (let j = 0; j < row.length; j++) log += (row[j] as number) * (fit.coef[j + 1] ?? 0);
    const noise = fit.law === "weibull" ? Math.log(-Math.log(1 - random.next())) : random.normal();
    const t = Math.exp(log + fit.sigma * noise);
    const cut = cutAt[i] ?? Number.POSITIVE_INFINITY;
    time.push(Math.min(t, cut));
    event.push(t <= cut ? 1 : 0);
  }
  return { time, event };
}

/** The order statistic that covers at least `share`, counted against us: the next one up. */
export function pivotAt(sorted: ArrayLike<number>, share: number): number {
  const rank = Math.ceil(share * (sorted.length + 1));
  return rank > sorted.length ? Number.POSITIVE_INFINITY : (sorted[Math.max(0, rank - 1)] as number);
}

/** Lower bound of asked quantile `i`, with the confidence. */
export function pivotLower(p: Pivots, q: QuantileAt, i: number, confidence: number): number {
  const column = p.quantiles[i];
  if (column === undefined) throw new RangeError(`i must name an asked quantile, got ${i}`);
  return Math.exp(logQuantile(p.fit, q).log - pivotAt(column, confidence) * p.fit.sigma);
}

/** Two-sided interval of coefficient `j` (0: the intercept), on the log scale. */
export function pivotInterval(p: Pivots, j: number, confidence: number): { lo: number; hi: number } {
  const column = p.coefficients[j];
  const b = p.fit.coef[j];
  if (column === undefined || b === undefined) throw new RangeError(`j must name a coefficient, got ${j}`);
  const tail = (1 - confidence) / 2;
  const flipped = column.map((v) => -v).sort();
  return { lo: b - pivotAt(column, 1 - tail) * p.fit.sigma, hi: b + pivotAt(flipped, 1 - tail) * p.fit.sigma };
}
