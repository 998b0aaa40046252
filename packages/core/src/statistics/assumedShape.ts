// With the shape assumed, few or no shutdowns still bound the scale (Nelson 1985): the exponential of t^shape. The assumption is always printed.

import { bisect } from "./roots.ts";
import { gammaCdf } from "./distributions.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { requireLifetimes } from "./lifetimes.ts";

/** Lower bound of the Weibull scale with the confidence, given its shape. With no failure it is as if one came now. */
export function scaleLower(data: Lifetimes, shape: number, confidence: number): number {
  requireLifetimes(data);
  if (!(shape > 0)) throw new RangeError(`shape must be positive, got ${shape}`);
  const failures = data.event.filter((e) => e === 1).length;
  const largest = Math.max(...data.time);
  const sum = data.time.reduce((s, t) => s + (t / largest) ** shape, 0);
  return largest * (sum / gammaQuantile(confidence, failures + 1)) ** (1 / shape);
}

/** Lower bound of the p quantile under the same assumption. */
export const assumedQuantileLower = (data: Lifetimes, shape: number, p: number, confidence: number): number =>
  scaleLower(data, shape, confidence) * (-Math.log1p(-p)) ** (1 / shape);

function gammaQuantile(p: number, a: number): number {
  let hi = a + 10;
  while (gammaCdf(hi, a) < p) hi *= 2;
  return bisect((x) => gammaCdf(x, a) - p, 0, hi);
}
