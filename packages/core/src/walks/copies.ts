// Corrected copies: clips rendered afterwards from the clips of another setup. A copy is told from its picture: what a walk did to sharpness
// and light, frame by frame, no correction takes away; and what is left of its shake has the rhythm of the walk.

import type { ClipSeries } from "../motion/index.ts";
import { highPass, resampled, runningSum } from "../motion/index.ts";
import { lagCorrelation } from "../statistics/index.ts";
import type { WalkSetup } from "./plan.ts";

/** The setup whose takes this one corrects: the same in everything but the correction. Null: it corrects none on the list, and is walked itself. */
export function parentOf(setups: readonly WalkSetup[], s: WalkSetup): WalkSetup | null {
  if (s.afterwards === "none") return null;
  const same = (p: WalkSetup): boolean =>
    p.lens === s.lens &&
    p.sensor === s.sensor &&
    p.electronic === s.electronic &&
    p.horizon === s.horizon &&
    p.support === s.support &&
    p.shutterSec === s.shutterSec &&
    p.sharpening === s.sharpening;
  return setups.find((p) => p.afterwards === "none" && same(p)) ?? null;
}

/** Samples a second of the signature. */
const HZ = 20;
const LEAST_SEC = 2;
/** Of the shorter clip, at least this much must lie on the other. */
const LEAST_SHARE = 0.7;
/** Least mean correlation, and by how much the best must lead. */
const LEAST = 0.6;
const LEAD = 0.1;

/** Sharpness as a logarithm, light in stops, height and roll: each less its slow way, 20 a second. */
export type Signature = readonly Float64Array[];

/** Null below 2 s. */
export function signatureOf(series: Pick<ClipSeries, "timesSec" | "sharpness" | "lightStops" | "dyFrac" | "rollRad">): Signature | null {
  const times = Float64Array.from(series.timesSec);
  if ((times.at(-1) ?? 0) - (times[0] ?? 0) < LEAST_SEC) return null;
  const quick = (v: ArrayLike<number>): Float64Array => highPass(resampled(Float64Array.from(v), times, HZ), HZ);
  const sharpness = series.sharpness.map((v) => Math.log(Math.max(v, 1e-6)));
  return [quick(sharpness), quick(series.lightStops), quick(runningSum(series.dyFrac)), quick(runningSum(series.rollRad))];
}

export interface CopyMatch<K> {
  parent: K;
  /** From the parent's first frame to the copy's. */
  lagSec: number;
  /** −1 to 1. */
  correlation: number;
}

/** The clip of which `copy` is a corrected copy; null when none is alike enough, or two are about as much. */
export function matchCopy<K>(copy: Signature, parents: readonly (readonly [K, Signature])[]): CopyMatch<K> | null {
  const found = parents.map(([parent, s]) => ({ parent, ...bestLag(copy, s) })).sort((a, b) => b.correlation - a.correlation);
  const [best, second] = found;
  if (best === undefined || best.correlation < LEAST) return null;
  if (second !== undefined && best.correlation - second.correlation < LEAD) return null;
  return best;
}

function bestLag(a: Signature, b: Signature): { lagSec: number; correlation: number } {
  const [n, m] = [a[0]?.length ?? 0, b[0]?.length ?? 0];
  const least = Math.ceil(LEAST_SHARE * Math.min(n, m));
  let best = { lagSec: 0, correlation: -1 };
  for (let lag = least - n; lag <= m - least; lag++) {
    const [from, to] = [Math.max(0, -lag), Math.min(n, m - lag)];
    const each = a.map((sign, k) => lagCorrelation(sign, b[k] ?? [], from, to, lag));
    const correlation = each.reduce((sum, r) => sum + r, 0) / each.length;
    if (correlation > best.correlation) best = { lagSec: lag / HZ, correlation };
  }
  return best;
}
