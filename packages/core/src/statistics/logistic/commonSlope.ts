// Two or more groups on one slope, each with its own place: R's glm(y ~ group + x - 1, binomial).

import { invertPositive } from "../linear.ts";
import { maximiseConcave } from "../newton.ts";
import type { Counts } from "./binomial.ts";
import { expit, logit, logOnePlusExp } from "./binomial.ts";

export interface CommonSlope {
  /** By group, in order of first mention. */
  intercepts: readonly number[];
  slope: number;
  /** Of the intercepts, then the slope. */
  covariance: readonly (readonly number[])[];
}

/** Null where the likelihood has no maximum. @param groups of each row of `data` */
export function fitCommonSlope(data: readonly Counts[], groups: readonly number[]): CommonSlope | null {
  const k = Math.max(...groups) + 1;
  const rows = data.map((d, i) => Array.from({ length: k + 1 }, (_, c) => (c === k ? d.x : c === groups[i] ? 1 : 0)));
  const found = maximiseConcave(
    (beta) => {
      const gradient = new Array<number>(k + 1).fill(0);
      const information = gradient.map(() => new Array<number>(k + 1).fill(0));
      let value = 0;
      for (const [i, d] of data.entries()) {
        const row = rows[i] as number[];
        const eta = row.reduce((s, v, c) => s + v * (beta[c] as number), 0);
        const p = expit(eta);
        value -= d.kept * logOnePlusExp(-eta) + (d.shots - d.kept) * logOnePlusExp(eta);
        for (const [c, v] of row.entries()) {
          gradient[c] = (gradient[c] as number) + v * (d.kept - d.shots * p);
          for (const [e, w] of row.entries())
            (information[c] as number[])[e] = ((information[c] as number[])[e] as number) + v * w * d.shots * p * (1 - p);
        }
      }
      return { value, gradient, information };
    },
    new Array<number>(k + 1).fill(0),
  );
  const covariance = found === null ? null : invertPositive(found.information);
  if (found === null || covariance === null) return null;
  return { intercepts: found.at.slice(0, k), slope: found.at[k] as number, covariance };
}

/** Where a group passes the share, and its standard error. */
export function groupThreshold(fit: CommonSlope, group: number, share: number): { threshold: number; se: number } {
  const k = fit.intercepts.length;
  const threshold = (logit(share) - (fit.intercepts[group] as number)) / fit.slope;
  const v = (i: number, j: number): number => fit.covariance[i]?.[j] ?? Number.NaN;
  return { threshold, se: Math.sqrt(v(group, group) + 2 * threshold * v(group, k) + threshold ** 2 * v(k, k)) / Math.abs(fit.slope) };
}

/** At a half: the first group's place less the second's, and its standard error. */
export function placeDifference(fit: CommonSlope, first: number, second: number): { difference: number; se: number } {
  const k = fit.intercepts.length;
  const difference = ((fit.intercepts[second] as number) - (fit.intercepts[first] as number)) / fit.slope;
  const by = fit.covariance.map((_, i) => (i === second ? 1 : i === first ? -1 : i === k ? -difference : 0) / fit.slope);
  const variance = by.reduce((s, u, i) => s + by.reduce((t, w, j) => t + u * w * (fit.covariance[i]?.[j] ?? 0), 0), 0);
  return { difference, se: Math.sqrt(variance) };
}
