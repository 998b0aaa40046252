// How often a shot is kept at one exposure, and how many frames of a burst make sure of one.

import { LAPSE, SLOPE } from "./assumptions.ts";
import { shareQuantile } from "./cuts.ts";
import type { Ladder } from "./ladder.ts";
import { poolSessions } from "./sessions.ts";
import { keepCurve, priorAt, surfaceOf, thresholdAt } from "./surface.ts";
import type { Surface, ThresholdGrid } from "./surface.ts";

/** Belief over slope, lapse and threshold, and what it was made from. */
export interface Belief {
  grid: ThresholdGrid;
  share: number;
  cells: readonly { slope: number; lapse: number; weights: Float64Array }[];
}

/** Of one session the surface itself; of several what is believed of a new session. */
export function beliefOf(ladders: readonly Ladder[], share: number): Belief {
  const [only] = ladders;
  if (only === undefined) throw new RangeError("ladders must not be empty");
  if (ladders.length > 1) {
    const { grid, fresh } = poolSessions(ladders, share);
    const lapses = LAPSE.filter((l) => 1 - l.value >= share + 0.01);
    return {
      grid,
      share,
      cells: SLOPE.flatMap(({ value: slope }, i) =>
        lapses.map((l) => ({ slope, lapse: l.value, weights: (fresh[i] as Float64Array).map((v) => v * l.weight) })),
      ),
    };
  }
  return beliefFrom(surfaceOf(only, share));
}

export function beliefFrom({ grid, share, lapses, parts }: Surface): Belief {
  const prior = Float64Array.from({ length: grid.length }, (_, j) => priorAt(thresholdAt(grid, j), grid.slowest));
  return {
    grid,
    share,
    cells: SLOPE.flatMap(({ value: slope, weight }, i) =>
      lapses.map((l, k) => ({
        slope,
        lapse: LAPSE[l]?.value ?? 0,
        weights: (parts[i]?.[k] as Float64Array).map((v, j) => v * weight * (prior[j] as number)),
      })),
    ),
  };
}

/** Calls `each` with every keep probability at `x` and its weight. */
function overBelief({ grid, share, cells }: Belief, x: number, each: (p: number, weight: number) => void): void {
  for (const { slope, lapse, weights } of cells) {
    const p = keepCurve(x, slope, lapse, share, grid);
    for (let j = 0; j < grid.length; j++) each(p[j] as number, weights[j] as number);
  }
}

/** Frames correlated so, in one burst; and with a fresh grip before each. */
export const BURST_CORRELATION = 0.2;
export const REGRIPPED_CORRELATION = 0.08;
const MOST_FRAMES = 40;
const SURE = 0.05;
const BINS = 1000;

export interface KeepRate {
  mean: number;
  /** The tenth percentile of what is believed; covers only .84 where curves are shallow and shots alike. */
  lower90: number;
  /** At least so many, 90 % sure: the seventh percentile, which our simulation needs for that. What is printed. */
  least: number;
  /** Frames of one burst for 95 % to have one kept; null: no burst helps here. */
  burst: number | null;
  /** The same with a fresh grip before each. */
  regripped: number | null;
}

/** At exposure `x`, log2 of seconds. */
export function keepRateAt(belief: Belief, x: number): KeepRate {
  const histogram = new Float64Array(BINS);
  let [sum, total] = [0, 0];
  const lost = { burst: new Float64Array(MOST_FRAMES), regripped: new Float64Array(MOST_FRAMES) };
  overBelief(belief, x, (p, weight) => {
    if (weight === 0) return;
    total += weight;
    sum += weight * p;
    const bin = Math.min(BINS - 1, Math.floor(p * BINS));
    histogram[bin] = (histogram[bin] as number) + weight;
    addLost(lost.burst, 1 - p, weight, BURST_CORRELATION);
    addLost(lost.regripped, 1 - p, weight, REGRIPPED_CORRELATION);
  });
  const fewest = (of: Float64Array): number | null => {
    const n = of.findIndex((v) => v / total <= SURE);
    return n < 0 ? null : n + 1;
  };
  return {
    mean: sum / total,
    lower90: shareQuantile(histogram, 0.1),
    least: shareQuantile(histogram, 0.07),
    burst: fewest(lost.burst),
    regripped: fewest(lost.regripped),
  };
}

/** Mean keep rate at each exposure: the curve as it is believed. @param xs log2 of seconds */
export function meanRates(belief: Belief, xs: readonly number[]): number[] {
  return xs.map((x) => {
    let [sum, total] = [0, 0];
    overBelief(belief, x, (p, weight) => {
      sum += weight * p;
      total += weight;
    });
    return sum / total;
  });
}

/** Adds the chance that the first 1, 2, 3 … frames are all lost. */
function addLost(to: Float64Array, q: number, weight: number, rho: number): void {
  const m = 1 / rho - 1;
  let all = weight;
  for (let a = 0; a < to.length; a++) {
    all *= (q * m + a) / (m + a);
    to[a] = (to[a] as number) + all;
  }
}
