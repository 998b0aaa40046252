// Do cells scatter alike? Bartlett's test on the logs of the runs that reached the endpoint. It is asked once, before any bound is looked at, and
// with few runs it only finds gross differences: the wording says so. Source: Bartlett (1937), Proc. R. Soc. A 160, 268-282.

import { chiSquareSf } from "./distributions.ts";

export type ScatterCheck =
  | { ok: true; statistic: number; df: number; p: number }
  | { ok: false; reason: "fewer-than-two-cells" | "a-cell-without-scatter" };

/** `groups`: values a cell; those with fewer than two are left aside. */
export function equalScatter(groups: readonly (readonly number[])[]): ScatterCheck {
  const cells = groups.filter((g) => g.length >= 2).map((g) => ({ df: g.length - 1, variance: varianceOf(g) }));
  if (cells.length < 2) return { ok: false, reason: "fewer-than-two-cells" };
  if (cells.some((c) => !(c.variance > 0))) return { ok: false, reason: "a-cell-without-scatter" };
  const whole = cells.reduce((sum, c) => sum + c.df, 0);
  const pooled = cells.reduce((sum, c) => sum + c.df * c.variance, 0) / whole;
  const raw = cells.reduce((sum, c) => sum + c.df * Math.log(pooled / c.variance), 0);
  const correction = 1 + (cells.reduce((sum, c) => sum + 1 / c.df, 0) - 1 / whole) / (3 * (cells.length - 1));
  const df = cells.length - 1;
  return { ok: true, statistic: raw / correction, df, p: chiSquareSf(raw / correction, df) };
}

/** Sample variance; 0 for one value. */
export function varianceOf(values: readonly number[]): number {
  if (values.length < 2) return 0;
  const mean = values.reduce((a, b) => a + b, 0) / values.length;
  return values.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (values.length - 1);
}

/** How surprising a spread at least this wide is if the log standard deviation were `sd`: upper tail of chi-square. 1 with fewer than two values. */
export function scatterBeyond(logs: readonly number[], sd: number): number {
  if (!(sd > 0)) throw new RangeError(`sd must be positive, got ${sd}`);
  return logs.length < 2 ? 1 : chiSquareSf(((logs.length - 1) * varianceOf(logs)) / sd ** 2, logs.length - 1);
}
