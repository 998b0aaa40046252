// Where the logistic curve passes a share: by the delta method, Fieller's theorem and the profile, of the plain and of Firth's curve.

import { normalQuantile } from "../distributions.ts";
import { bisect } from "../roots.ts";
import type { Counts } from "./binomial.ts";
import { expit, fitLogit, logit, logLikelihood, separationOf } from "./binomial.ts";
import { firthValue, fitFirth } from "./penalised.ts";

export type Ends = readonly [number, number];
export type Fieller = { kind: "interval"; lower: number; upper: number } | { kind: "complement"; outside: Ends } | { kind: "whole-line" };

interface Curve {
  intercept: number;
  slope: number;
  covariance: readonly [number, number, number];
}
export const thresholdOf = ({ intercept, slope }: Pick<Curve, "intercept" | "slope">, share: number): number =>
  (logit(share) - intercept) / slope;

export function deltaInterval(curve: Curve, share: number, confidence: number): { threshold: number; se: number; ends: Ends } {
  const threshold = thresholdOf(curve, share);
  const [vaa, vab, vbb] = curve.covariance;
  const se = Math.sqrt(vaa + 2 * threshold * vab + threshold ** 2 * vbb) / Math.abs(curve.slope);
  const z = normalQuantile((1 + confidence) / 2);
  return { threshold, se, ends: [threshold - z * se, threshold + z * se] };
}

/** Fieller (1954): an interval, all but one, or nothing said. */
export function fiellerInterval(curve: Curve, share: number, confidence: number): Fieller {
  const z2 = normalQuantile((1 + confidence) / 2) ** 2;
  const [vaa, vab, vbb] = curve.covariance;
  const d = logit(share) - curve.intercept;
  const [a, b, c] = [curve.slope ** 2 - z2 * vbb, -2 * (d * curve.slope + z2 * vab), d * d - z2 * vaa];
  const discriminant = b * b - 4 * a * c;
  if (discriminant < 0) return { kind: "whole-line" };
  const roots = [(-b - Math.sqrt(discriminant)) / (2 * a), (-b + Math.sqrt(discriminant)) / (2 * a)].sort((x, y) => x - y);
  const [lower = Number.NaN, upper = Number.NaN] = roots;
  return a > 0 ? { kind: "interval", lower, upper } : { kind: "complement", outside: [lower, upper] };
}

/** Steeper than this no data of shots can tell from a step. */
const STEEPEST = 1e9;

/** Largest log likelihood of curves that pass the share at theta; concave in the slope. */
export function profileAt(data: readonly Counts[], share: number, theta: number): number {
  const c = logit(share);
  const gradient = (b: number): number =>
    data.reduce((s, { x, kept, shots }) => s + (x - theta) * (kept - shots * expit(c + b * (x - theta))), 0);
  // Slopes on the scale of their hyperbolic sine, from flat to a step.
  const most = Math.asinh(STEEPEST);
  const b = Math.sinh(bisect((u) => gradient(Math.sinh(u)), -most, most));
  return logLikelihood(data, c - b * theta, b);
}

/**
 * The same with Firth's penalty: not concave, so a coarse grid first, then the golden section. Slopes up to 30 a unit of x are looked at, as in the
 * check cases: far steeper than hands are per stop. Data on another scale want a scale on which their slope is not near it.
 */
export function firthProfileAt(data: readonly Counts[], share: number, theta: number): number {
  const c = logit(share);
  const at = (u: number): number => firthValue(data, c - Math.sinh(u) * theta, Math.sinh(u));
  let best = 0;
  const step = 0.05;
  for (let u = -MOST_FIRTH; u <= MOST_FIRTH; u += step) if (at(u) > at(best)) best = u;
  return at(goldenMost(at, Math.max(-MOST_FIRTH, best - step), Math.min(MOST_FIRTH, best + step)));
}
const MOST_FIRTH = Math.asinh(30);
const GOLDEN = (Math.sqrt(5) - 1) / 2;
function goldenMost(f: (u: number) => number, lo: number, hi: number): number {
  let [a, b] = [lo, hi];
  for (let i = 0; i < 60; i++) {
    const [c, d] = [b - GOLDEN * (b - a), a + GOLDEN * (b - a)];
    if (f(c) > f(d)) b = d;
    else a = c;
  }
  return (a + b) / 2;
}

/** The connected part about `start` where the profile lies within `drop` of `most`; infinite where it never leaves. */
export function profileEnds(profile: (theta: number) => number, start: number, most: number, drop: number, width: number): Ends {
  const inside = (theta: number): boolean => most - profile(theta) <= drop;
  const end = (direction: 1 | -1): number => {
    let [here, step] = [start, width / 40];
    while (Math.abs(here - start) < FAR * width) {
      const next = here + direction * step;
      if (!inside(next)) return bisect((t) => (inside(t) ? -1 : 1) * direction, Math.min(here, next), Math.max(here, next), 1e-10 * width);
      here = next;
      step *= 1.1;
    }
    return direction * Number.POSITIVE_INFINITY;
  };
  return [end(-1), end(1)];
}
const FAR = 1e5;

export interface ProfiledThreshold {
  type: ReturnType<typeof separationOf>["type"];
  /** Null where kept and lost do not overlap: then only the interval is known. */
  threshold: number | null;
  gap: Ends | null;
  /** Largest log likelihood. */
  most: number;
  profile: Ends;
  profileLower: number;
}
/** @param confidence of the two-sided profile, and of its one-sided lower end */
export function profiledThreshold(data: readonly Counts[], share: number, confidence: number): ProfiledThreshold {
  const { type, gap } = separationOf(data);
  const fit = fitLogit(data);
  const threshold = fit === null ? null : thresholdOf(fit, share);
  const start = threshold ?? (gap === null ? Number.NaN : (gap[0] + gap[1]) / 2);
  const most = fit?.logLikelihood ?? profileAt(data, share, start);
  const width = Math.max(...data.map((d) => d.x)) - Math.min(...data.map((d) => d.x));
  const profile = (theta: number): number => profileAt(data, share, theta);
  const two = normalQuantile((1 + confidence) / 2) ** 2 / 2;
  const one = normalQuantile(confidence) ** 2 / 2;
  return {
    type,
    threshold,
    gap,
    most,
    profile: profileEnds(profile, start, most, two, width),
    profileLower: profileEnds(profile, start, most, one, width)[0],
  };
}

export function firthThreshold(data: readonly Counts[], share: number, confidence: number) {
  const fit = fitFirth(data);
  const delta = deltaInterval(fit, share, confidence);
  const width = Math.max(...data.map((d) => d.x)) - Math.min(...data.map((d) => d.x));
  const drop = normalQuantile((1 + confidence) / 2) ** 2 / 2;
  const profile = profileEnds((t) => firthProfileAt(data, share, t), delta.threshold, fit.value, drop, width);
  return { ...delta, fit, profile };
}
