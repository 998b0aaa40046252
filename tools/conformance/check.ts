// Which family of cases is answered by what.

import type { Answer, Case } from "./compare.ts";
import { differences } from "./compare.ts";
import { apex, cropFactor, exposureSeries, exposureStops, ndFilter, stabilisationStops } from "./exposure.ts";
import { byAmbient, cooling, duty, heatIndex, logFit, lumped, twoNode } from "./heat.ts";
import { freeTolerance, groups, normalTolerance, oneCell, productLimit, regression } from "./life.ts";
import { holdThreshold } from "./holds.ts";
import { dependableLimit } from "./limit.ts";
import { logisticDifference, logisticThreshold } from "./logistic.ts";
import { bradleyTerry, cohen, davidson, fleiss, sign } from "./rankings.ts";
import { pearson, resampled, share, shareDifference, twoSamples } from "./samples.ts";
import { blindJudging, walkComparison } from "./walks.ts";

export const FAMILIES: Readonly<Record<string, (c: Case) => Answer>> = {
  "kaplan-meier": productLimit,
  "log-rank": groups,
  "weibull-mle": oneCell("weibull"),
  "lognormal-mle": oneCell("lognormal"),
  "aft-weibull": regression("weibull"),
  "aft-lognormal": regression("lognormal"),
  "tolerance-normal-k": normalTolerance,
  "tolerance-nonparam": freeTolerance,
  proportion: share,
  "proportion-difference": shareDifference,
  "mann-whitney": twoSamples,
  "bootstrap-bca": resampled,
  correlation: pearson,
  "thermal-lumped": lumped,
  "thermal-cooling": cooling,
  "thermal-two-node": twoNode,
  "thermal-shutdown-vs-ambient": byAmbient,
  "thermal-duty-cycle": duty,
  "thermal-fit": logFit,
  "heat-index": heatIndex,
  "dependable-limit": dependableLimit,
  "bradley-terry": bradleyTerry,
  davidson,
  "sign-test": sign,
  "cohen-kappa": cohen,
  "fleiss-kappa": fleiss,
  "walk-comparison": walkComparison,
  "blind-judging": blindJudging,
  "hold-threshold": holdThreshold,
  "logistic-threshold": logisticThreshold,
  "logistic-threshold-difference": logisticDifference,
  "exposure-stops": exposureStops,
  "exposure-series": exposureSeries,
  apex,
  "nd-filter": ndFilter,
  "crop-factor": cropFactor,
  "stabilisation-stops": stabilisationStops,
};

/** What is wrong with one case; empty when it passes. What a case makes the core throw is a failure with its sentence. */
export function checkCase(c: Case, answered: (c: Case) => Answer = answerTo): string[] {
  if (FAMILIES[c.family] === undefined) return [`the family ${c.family} is not known here`];
  try {
    return differences(c, answered(c));
  } catch (error) {
    return [error instanceof Error ? error.message : String(error)];
  }
}
export function answerTo(c: Case): Answer {
  const answer = FAMILIES[c.family];
  if (answer === undefined) throw new RangeError(`family must be a known one, got ${c.family}`);
  return answer(c);
}
