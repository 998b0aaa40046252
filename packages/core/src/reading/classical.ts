// What one law alone would say of a cell's own runs: a comparison shown behind the dependable limit, never a claim.

import { lifetimesOf, shutdownsOf } from "../cells/index.ts";
import type { ClaimLevels, Timed } from "../cells/index.ts";
import type { Lifetimes } from "../statistics/index.ts";
import { completeLognormalLower, conditionalLognormalLower, conditionalWeibullLower, fitLife } from "../statistics/index.ts";

export interface ClassicalBounds {
  /** Seconds; null: it does not exist for these runs. */
  weibull: number | null;
  lognormal: number | null;
}

/** Weibull, conditional on the runs (Lawless); lognormal by the noncentral t, or with runs that did not end by the same integral over both of its parameters. */
export function classicalBounds(records: readonly Timed[], levels: ClaimLevels): ClassicalBounds {
  if (shutdownsOf(records).length < 2) return { weibull: null, lognormal: null };
  const data = lifetimesOf(records);
  const p = 1 - levels.share;
  const fit = fitLife(data, "weibull");
  const weibull = fit.ok ? conditionalWeibullLower(data, fit, p, levels.confidence) : fit;
  const lognormal = data.event.includes(0)
    ? censoredLognormal(data, p, levels.confidence)
    : completeLognormalLower(data, p, levels.confidence);
  return { weibull: weibull.ok ? weibull.lower : null, lognormal: lognormal.ok ? lognormal.lower : null };
}

function censoredLognormal(data: Lifetimes, p: number, confidence: number) {
  const fit = fitLife(data, "lognormal");
  return fit.ok ? conditionalLognormalLower(data, fit, p, confidence) : fit;
}
