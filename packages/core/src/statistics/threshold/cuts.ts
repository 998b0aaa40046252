// Where a curve over a grid of stops crosses a level, and quantiles of what is believed over it.

import { STEPS } from "./assumptions.ts";

/** Null: no limit on that side, never the grid's end. */
export interface Sides {
  low: number | null;
  high: number | null;
}

/** Left-most and right-most crossing of -z²/2 below the largest log value, linear between points. `from`: the first point's place. */
export function cutAt(values: ArrayLike<number>, from: number, z: number): Sides {
  let most = 0;
  for (let j = 0; j < values.length; j++) most = Math.max(most, values[j] as number);
  if (!(most > 0)) throw new RangeError("values must have a positive one");
  const level = (-z * z) / 2;
  const at = (j: number): number => Math.log((values[j] as number) / most);
  return { low: crossing(at, 0, values.length - 1, 1, level, from), high: crossing(at, values.length - 1, 0, -1, level, from) };
}

function crossing(at: (j: number) => number, start: number, end: number, step: 1 | -1, level: number, from: number): number | null {
  if (at(start) >= level) return null;
  for (let j = start + step; j !== end + step; j += step) {
    const here = at(j);
    if (here < level) continue;
    const before = at(j - step);
    // From a point of no likelihood at all there is nothing to draw a line from: the point itself.
    const share = Number.isFinite(before) ? (level - before) / (here - before) : 1;
    return from + (j - step + step * share) / STEPS;
  }
  return null;
}

/** Quantile of weights on the grid: cells of one step centred on the points, even inside a cell. */
export function quantileAt(weights: ArrayLike<number>, from: number, q: number): number {
  let total = 0;
  for (let j = 0; j < weights.length; j++) total += weights[j] as number;
  let below = 0;
  for (let j = 0; j < weights.length; j++) {
    const here = weights[j] as number;
    if (below + here >= q * total && here > 0) return from + (j - 0.5 + (q * total - below) / here) / STEPS;
    below += here;
  }
  return from + (weights.length - 0.5) / STEPS;
}

/** Quantile of shares between 0 and 1 with weights, by a histogram of 1,000 bins, even inside a bin. */
export function shareQuantile(histogram: Float64Array, q: number): number {
  const total = histogram.reduce((a, b) => a + b, 0);
  let below = 0;
  for (let k = 0; k < histogram.length; k++) {
    const here = histogram[k] as number;
    if (below + here >= q * total && here > 0) return (k + (q * total - below) / here) / histogram.length;
    below += here;
  }
  return 1;
}
