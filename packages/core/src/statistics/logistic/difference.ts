// The difference of two thresholds, one curve each: square-and-add of their profiles (Zou and Donner 2008), delta, and the joint profile.

import { normalQuantile } from "../distributions.ts";
import type { Counts } from "./binomial.ts";
import { fitLogit } from "./binomial.ts";
import type { Ends, ProfiledThreshold } from "./thresholds.ts";
import { deltaInterval, profileAt, profiledThreshold, profileEnds } from "./thresholds.ts";

export interface ThresholdDifference {
  a: ProfiledThreshold;
  b: ProfiledThreshold;
  /** First less second; null where either has no point. */
  difference: number | null;
  delta: Ends | null;
  squareAndAdd: Ends | null;
  joint: Ends | null;
}

export function thresholdDifference(
  one: readonly Counts[],
  two: readonly Counts[],
  share: number,
  confidence: number,
): ThresholdDifference {
  const [a, b] = [profiledThreshold(one, share, confidence), profiledThreshold(two, share, confidence)];
  const [fa, fb] = [fitLogit(one), fitLogit(two)];
  if (a.threshold === null || b.threshold === null || fa === null || fb === null)
    return { a, b, difference: null, delta: null, squareAndAdd: null, joint: null };
  const difference = a.threshold - b.threshold;
  const [da, db] = [deltaInterval(fa, share, confidence), deltaInterval(fb, share, confidence)];
  const half = normalQuantile((1 + confidence) / 2) * Math.hypot(da.se, db.se);
  const squareAndAdd: Ends = [
    difference - Math.hypot(a.threshold - a.profile[0], b.profile[1] - b.threshold),
    difference + Math.hypot(a.profile[1] - a.threshold, b.threshold - b.profile[0]),
  ];
  const width = Math.max(...[...one, ...two].map((d) => d.x)) - Math.min(...[...one, ...two].map((d) => d.x));
  const joint = profileEnds(
    (d) => jointAt(one, two, share, d, b.threshold ?? 0, a.threshold ?? 0, width),
    difference,
    a.most + b.most,
    normalQuantile((1 + confidence) / 2) ** 2 / 2,
    width,
  );
  return { a, b, difference, delta: [difference - half, difference + half], squareAndAdd, joint };
}

/** Largest sum of both profiles with the first threshold `d` above the second's. */
function jointAt(
  one: readonly Counts[],
  two: readonly Counts[],
  share: number,
  d: number,
  second: number,
  first: number,
  width: number,
): number {
  const at = (t: number): number => profileAt(one, share, t + d) + profileAt(two, share, t);
  let [lo, hi] = [Math.min(second, first - d) - 0.01 * width, Math.max(second, first - d) + 0.01 * width];
  for (let i = 0; i < 45; i++) {
    const [u, v] = [lo + (hi - lo) * 0.382, lo + (hi - lo) * 0.618];
    if (at(u) > at(v)) hi = v;
    else lo = u;
  }
  return at((lo + hi) / 2);
}
