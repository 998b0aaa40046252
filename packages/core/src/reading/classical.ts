// What one law alone would say of a cell's own runs: a comparison shown behind the dependable limit, never a claim.

import { lifetimesOf, shutdownsOf } from "../cells/index.ts";
import type { ClaimLevels, Timed } from "../cells/index.ts";
import { completeLognormalLower, conditionalWeibullLower, fitLife } from "../statistics/index.ts";

export interface ClassicalBounds {
  /** Seconds; null: it does not exist for these runs. */
  weibull: number | null;
  lognormal: number | null;
}

/** Weibull, conditional on the runs (Lawless); lognormal by the noncentral t, which needs every run to have ended. */
export function classicalBounds(records: readonly Timed[], levels: ClaimLevels): ClassicalBounds {
  if (shutdownsOf(records).length < 2) return { weibull: null, lognormal: null };
  const data = lifetimesOf(records);
  const p = 1 - levels.share;
  const fit = fitLife(data, "weibull");
  const weibull = fit.ok ? conditionalWeibullLower(data, fit, p, levels.confidence) : fit;
  const lognormal = completeLognormalLower(data, p, levels.confidence);
  return { weibull: weibull.ok ? weibull.lower : null, lognormal: lognormal.ok ? lognormal.lower : null };
}
