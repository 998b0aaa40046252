// How widely values scatter, and whether that is a surprise.

import { chiSquareSf } from "./distributions.ts";

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
