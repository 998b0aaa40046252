// Two setups of one session: how much steadier, told apart or not, the same within a margin or not, and how many more takes would tell.

import type { Density } from "../../statistics/index.ts";
import { below, difference, normalQuantile, quantileOf } from "../../statistics/index.ts";
import { familyLevel } from "./family.ts";

export interface Interval {
  low: number;
  high: number;
}
/** A level with what the allowance for the day adds: nothing without one. */
export interface SessionLevel {
  density: Density;
  /** Mean position of its takes in the day, and the error of the day's trend. */
  position: number;
  trendSd: number;
}

/** Margin within which setups count as the same. */
export const SAME_RATIO = 1.1;

export interface PairVerdict {
  /** Median of the log of a over b; negative: a is steadier. */
  log: number;
  /** All pairs hold together with 90 %. */
  family: Interval;
  /** This pair alone with 90 %. */
  alone: Interval;
  /** Of the claim of sameness. */
  same: Interval;
  probASteadier: number;
  toldApart: boolean;
  /** Within 10 % of each other; may hold beside `toldApart`. */
  sameWithin10: boolean;
}

export function pairVerdict(a: SessionLevel, b: SessionLevel, setups: number): PairVerdict {
  const d = difference(a.density, b.density);
  const at = (level: number): Interval => widened(d, level / 2, (a.position - b.position) * a.trendSd);
  const [family, same] = [at(familyLevel(setups)), at(Math.min(0.1, 0.3 / setups))];
  const margin = Math.log(SAME_RATIO);
  return {
    log: quantileOf(d, 0.5),
    family,
    alone: at(0.1),
    same,
    probASteadier: below(d, 0),
    toldApart: family.low > 0 || family.high < 0,
    sameWithin10: same.low > -margin && same.high < margin,
  };
}

/** Quantiles `tail` and 1 - `tail`, each side widened by what the day may have done. */
export function widened(density: Density, tail: number, dayError: number): Interval {
  const middle = quantileOf(density, 0.5);
  const z = normalQuantile(1 - tail);
  return {
    low: middle - Math.hypot(middle - quantileOf(density, tail), z * dayError),
    high: middle + Math.hypot(quantileOf(density, 1 - tail) - middle, z * dayError),
  };
}

/** Least half width with which a plan reckons, and the most takes worth a number. */
const LEAST_GAP = 0.03;
const DOZEN = 12;
/**
 * Takes more of each that would tell, if the difference is what it looks like: to tell the two apart where they seem 10 % apart, else to call
 * them the same. "many": more than a dozen. Null: it is told already. A plan, no claim: not simulated.
 */
export function moreTakes(v: PairVerdict, meanTakes: number): number | "many" | null {
  if (v.toldApart || v.sameWithin10) return null;
  const margin = Math.log(SAME_RATIO);
  const far = Math.abs(v.log) >= margin;
  const interval = far ? v.family : v.same;
  const half = (interval.high - interval.low) / 2;
  const gap = far ? Math.abs(v.log) : Math.max(LEAST_GAP, margin - Math.abs(v.log));
  const more = Math.max(1, Math.ceil(meanTakes * (half / gap) ** 2 - meanTakes));
  return more > DOZEN ? "many" : more;
}
