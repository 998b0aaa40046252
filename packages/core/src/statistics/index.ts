export { assumedQuantileLower, scaleLower } from "./assumedShape.ts";
export type { Statistic } from "./bootstrap.ts";
export { bootstrapBca } from "./bootstrap.ts";
export { correlation } from "./correlation.ts";
export { lagCorrelation } from "./lagCorrelation.ts";
export type { Density } from "./density.ts";
export { below, densityOf, difference, mixture, quantileOf, sum } from "./density.ts";
export { betaQuantile, logNormalPdf, logNormalSf, normalCdf, normalQuantile, studentQuantile, logGamma } from "./distributions.ts";
export { scatterBeyond, varianceOf } from "./scatter.ts";
export type { SurvivalStep } from "./kaplanMeier.ts";
export { kaplanMeier, survivalQuantile } from "./kaplanMeier.ts";
export { kept } from "./kept.ts";
export {
  completeLognormalLower,
  conditionalWeibullLower,
  conditionalWeibullShare,
  likelihoodRatioLower,
  logQuantile,
  waldLower,
} from "./lifeBounds.ts";
export type { LifeLaw } from "./lifeLikelihood.ts";
export type { LifeFit } from "./lifeModel.ts";
export { estimateLife, fitLife, lawQuantile } from "./lifeModel.ts";
export type { Lifetimes } from "./lifetimes.ts";
export { unusable } from "./lifetimes.ts";
export { dot, explained, invertPositive, leastSquares, quadratic, solvePositive } from "./linear.ts";
export { logRank } from "./logRank.ts";
export type { BoundResult } from "./lifeBounds.ts";
export { conditionalLognormalLower } from "./lognormalBound.ts";
export type { ChanceCurve } from "./limit/chanceCurve.ts";
export { chanceAt, chanceCurve, timeOfChance } from "./limit/chanceCurve.ts";
export { phi } from "./limit/normalTable.ts";
export { PRESUMED, predictiveCurve, presumedLimitSec, sdBetween } from "./limit/predictive.ts";
export type { LifeLimit, LimitReader, LimitSettings } from "./limit/lifeLimits.ts";
export { lifeLimits, limitReader } from "./limit/lifeLimits.ts";
export type { Refusal as LimitRefusal } from "./limit/pool.ts";
export { DAYS_FOR_NEW } from "./limit/pool.ts";
export type { LimitCell, LimitRun } from "./limit/runs.ts";
export { isDoubtful, isShutdown, middleSec, takenAsEnd } from "./limit/runs.ts";
export { hodgesLehmann, mannWhitney, shiftInterval } from "./mannWhitney.ts";
export { bootstrapPivots, pivotInterval } from "./pivot.ts";
export { nthSmallest } from "./nthSmallest.ts";
export { clopperPearson, clopperPearsonLower, clopperPearsonUpper, newcombe, wilson, wilsonAt } from "./proportions.ts";
export type { Random } from "./random.ts";
export { randomFrom, seedOf } from "./random.ts";
export { bisect } from "./roots.ts";
export { cohenKappa, fleissKappa, weightedKappa } from "./rankings/agreement.ts";
export type { Strengths, StrengthsResult } from "./rankings/davidson.ts";
export { strengthsOf, threeWay } from "./rankings/davidson.ts";
export { reaches } from "./rankings/links.ts";
export type { Slope } from "./newton.ts";
export { maximiseConcave } from "./newton.ts";
export { signTest } from "./signTest.ts";
export { normalToleranceFactor, orderOfBound, regressionToleranceFactor } from "./toleranceFactors.ts";
export {
  confidenceOfOrder,
  confidenceOfShortest,
  recordsNeeded,
  recordsNeededForOrder,
  shareOutlastingShortest,
} from "./distributionFree.ts";
export type { HoldRefusal, Ladder, Visit } from "./threshold/ladder.ts";
export type { HoldClaim } from "./threshold/oneSession.ts";
export { sessionsClaim } from "./threshold/sessions.ts";
export type { HoldSettings } from "./threshold/settings.ts";
export type { Gain } from "./threshold/gained.ts";
export { gainInSession, gainOverSessions, gainUnpaired } from "./threshold/gained.ts";
export type { Belief, KeepRate } from "./threshold/keepRate.ts";
export { nextExposure } from "./threshold/nextExposure.ts";
export { beliefOf, keepRateAt, meanRates } from "./threshold/keepRate.ts";
export type { Counts } from "./logistic/binomial.ts";
export { fitLogit, refusalOfCounts, separationOf } from "./logistic/binomial.ts";
export { fitCommonSlope as commonSlopeOf, groupThreshold, placeDifference } from "./logistic/commonSlope.ts";
export type { OrderedVisit } from "./logistic/orderScore.ts";
export { laterIsWorse, orderScore } from "./logistic/orderScore.ts";
export { thresholdDifference } from "./logistic/difference.ts";
export { fitFirth, fitMode } from "./logistic/penalised.ts";
export { deltaInterval, fiellerInterval, firthThreshold, profiledThreshold } from "./logistic/thresholds.ts";
