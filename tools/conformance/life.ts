// Runtimes: product limit, log-rank, life models with their bounds, tolerance limits.

import type { BoundResult, LifeFit, LifeLaw, Lifetimes, SurvivalStep } from "@keep-rolling/core/statistics";
import {
  assumedQuantileLower,
  completeLognormalLower,
  conditionalLognormalLower,
  conditionalWeibullLower,
  fitLife,
  kaplanMeier,
  likelihoodRatioLower,
  logQuantile,
  logRank,
  normalToleranceFactor,
  orderOfBound,
  regressionToleranceFactor,
  scaleLower,
  survivalQuantile,
  unusable,
  waldLower,
} from "@keep-rolling/core/statistics";
import {
  confidenceOfShortest,
  recordsNeeded,
  recordsNeededForOrder,
  confidenceOfOrder,
  shareOutlastingShortest,
} from "@keep-rolling/core/statistics";
import { normalQuantile } from "@keep-rolling/core/statistics";
import type { Answer, Case } from "./compare.ts";
import { readInputs } from "./inputs.ts";

const given = (values: Record<string, unknown>): Answer => ({ reason: null, values });
const refused = (reason: string, values: Record<string, unknown>): Answer => ({ reason, values });

export function productLimit(c: Case): Answer {
  const input = readInputs(c.inputs, ["time", "event", "confidence"]);
  const confidence = input.number("confidence");
  const data = input.lifetimes();
  const wrong = unusable(data);
  if (wrong !== null) return undefinedAll(c, wrong);
  const steps = kaplanMeier(data, confidence);
  const z = normalQuantile((1 + confidence) / 2);
  const plain = (s: SurvivalStep, sign: number): number | null =>
    s.se === null || s.survival === 1 ? null : Math.min(1, Math.max(0, s.survival + sign * z * s.se));
  const expected = (key: string): { p: number }[] => (c.expected[key] as { p: number }[] | undefined) ?? [];
  const quantiles = (key: string, limits: (s: SurvivalStep) => { lower: number; upper: number } | null) =>
    expected(key).map(({ p }) => ({
      p,
      quantile: survivalQuantile(steps, p),
      lower: crossing(steps, p, (s) => limits(s)?.lower ?? null),
      upper: crossing(steps, p, (s) => limits(s)?.upper ?? null),
    }));
  return given({
    time: steps.map((s) => s.time),
    n_risk: steps.map((s) => s.atRisk),
    n_event: steps.map((s) => s.events),
    n_censor: steps.map((s) => s.censored),
    survival: steps.map((s) => s.survival),
    greenwood_se_of_S: steps.map((s) => s.se),
    lower_log: steps.map((s) => s.log?.lower ?? null),
    upper_log: steps.map((s) => s.log?.upper ?? null),
    lower_loglog: steps.map((s) => s.logLog?.lower ?? null),
    upper_loglog: steps.map((s) => s.logLog?.upper ?? null),
    lower_plain: steps.map((s) => plain(s, -1)),
    upper_plain: steps.map((s) => plain(s, 1)),
    quantiles_log: quantiles("quantiles_log", (s) => s.log),
    quantiles_loglog: quantiles("quantiles_loglog", (s) => s.logLog),
  });
}

/** Where a limit of the curve falls to 1 - p; null where it never does. */
function crossing(steps: readonly SurvivalStep[], p: number, limit: (s: SurvivalStep) => number | null): number | null {
  const curve = steps.flatMap((s) => {
    const survival = limit(s);
    return survival === null ? [] : [{ time: s.time, survival }];
  });
  return survivalQuantile(curve, p);
}

export function groups(c: Case): Answer {
  const input = readInputs(c.inputs, ["time", "event", "group"]);
  const data = input.lifetimes();
  const of = input.list("group");
  const names = [...new Set(of)].sort((a, b) =>
    typeof a === "number" && typeof b === "number" ? a - b : String(a).localeCompare(String(b), "en"),
  );
  const r = logRank(
    names.map((g): Lifetimes => ({ time: data.time.filter((_, i) => of[i] === g), event: data.event.filter((_, i) => of[i] === g) })),
  );
  if (!r.ok) return undefinedAll(c, r.reason);
  // Of two groups one number says it all.
  const variance = names.length === 2 ? r.covariance[0]?.[0] : r.covariance;
  return given({ observed: r.observed, expected: r.expected, variance, chisq: r.chiSquare, df: r.df, p: r.p });
}

/** A refusal that leaves nothing defined. */
const undefinedAll = (c: Case, reason: string): Answer =>
  refused(reason, {
    ...Object.fromEntries(Object.keys(c.expected).map((key) => [key, null])),
    ml_exists: false,
    estimable: false,
  });

interface ExpectedBound {
  p: number;
  confidence: number;
  at?: number[];
}

export function oneCell(law: LifeLaw): (c: Case) => Answer {
  return (c) => {
    const data = readInputs(c.inputs, ["time", "event"]).lifetimes();
    const wrong = unusable(data);
    if (wrong !== null) return undefinedAll(c, wrong);
    const fit = fitLife(data, law);
    const always = { ...withoutShape(data), ...assumed(c, data) };
    if (!fit.ok) return refused(fit.reason, { ml_exists: false, upper_bound: null, ...always });
    const conditional = conditionalOf(data, fit, 0.1, 0.9);
    const values = {
      ml_exists: true,
      ...fitValues(fit),
      ...bounds(c, data, [], fit, "bounds"),
      ...exactComplete(c, data, fit),
      lower_conditional: conditional.ok ? conditional.lower : null,
      ...always,
    };
    // With one shutdown the fit exists, but nothing can be claimed from it.
    return !conditional.ok && conditional.reason === "too-few-shutdowns" ? refused(conditional.reason, values) : given(values);
  };
}

function fitValues(fit: LifeFit): Record<string, unknown> {
  const [mu] = fit.coef;
  const [row, last] = [fit.covariance[0] ?? [], fit.covariance.at(-1) ?? []];
  return {
    n: fit.n,
    failures: fit.failures,
    mu,
    sigma: fit.sigma,
    se_mu: Math.sqrt(row[0] ?? 0),
    se_log_sigma: Math.sqrt(last.at(-1) ?? 0),
    cov_mu_logsigma: row.at(-1),
    loglik: fit.logLik,
    shape: 1 / fit.sigma,
    scale: Math.exp(mu ?? 0),
    median: Math.exp(logQuantile(fit, { p: 0.5, at: fit.coef.slice(1).map(() => 0) }).log),
  };
}

/** Conditional on the runs: Weibull by Lawless, lognormal by the noncentral t or, with runs that did not end, by the same integral. */
function conditionalOf(data: Lifetimes, fit: LifeFit, p: number, confidence: number): BoundResult {
  if (fit.law === "weibull") return conditionalWeibullLower(data, fit, p, confidence);
  return data.event.includes(0) ? conditionalLognormalLower(data, fit, p, confidence) : completeLognormalLower(data, p, confidence);
}

function bounds(c: Case, data: Lifetimes, design: readonly (readonly number[])[], fit: LifeFit, key: string): Record<string, unknown> {
  const expected = (c.expected[key] as ExpectedBound[] | undefined) ?? [];
  return {
    [key]: expected.map(({ p, confidence, at = [] }) => {
      const q = { p, at };
      const { log, se } = logQuantile(fit, q);
      const exact = conditionalOf(data, fit, p, confidence);
      return {
        at,
        p,
        confidence,
        estimate: Math.exp(log),
        se_log: se,
        lower_wald_log: waldLower(fit, q, confidence),
        lower_LR: likelihoodRatioLower(data, design, fit, q, confidence, "normal"),
        lower_LR_t: likelihoodRatioLower(data, design, fit, q, confidence, "t"),
        ...(design.length === 0 && exact.ok ? { lower_conditional: exact.lower } : {}),
      };
    }),
  };
}

/** What the shortest record supports without any shape. */
function withoutShape({ time }: Lifetimes): Record<string, unknown> {
  const n = time.length;
  return {
    nonparametric: {
      min_observed: Math.min(...time),
      fraction_exceeding_min_at_90: shareOutlastingShortest(n, 0.9),
      fraction_exceeding_min_at_95: shareOutlastingShortest(n, 0.95),
      confidence_that_min_is_below_B10: confidenceOfShortest(n, 0.9),
      confidence_that_90min_is_below_B10: confidenceOfShortest(n, 0.9),
      confidence_that_min_is_below_median: confidenceOfShortest(n, 0.5),
      note: "",
    },
  };
}

function assumed(c: Case, data: Lifetimes): Record<string, unknown> {
  const expected = (c.expected.weibayes as { assumed_shape: number }[] | undefined) ?? [];
  return {
    weibayes: expected.map(({ assumed_shape }) => ({
      assumed_shape,
      eta_lower95: scaleLower(data, assumed_shape, 0.95),
      eta_lower90: scaleLower(data, assumed_shape, 0.9),
      B10_lower95: assumedQuantileLower(data, assumed_shape, 0.1, 0.95),
      B10_lower90: assumedQuantileLower(data, assumed_shape, 0.1, 0.9),
    })),
  };
}

export function regression(law: LifeLaw): (c: Case) => Answer {
  return (c) => {
    const input = readInputs(c.inputs, ["time", "event", "covariates", "X"]);
    const data = input.lifetimes();
    const design = input.list("X") as number[][];
    const wrong = unusable(data);
    if (wrong !== null) return undefinedAll(c, wrong);
    const fit = fitLife(data, law, design);
    if (!fit.ok) return refused(fit.reason, { estimable: false, ...leastSquaresLine(data, design), ...groupFit(data, design, law) });
    return given({
      estimable: true,
      coef: fit.coef,
      se: fit.coef.map((_, i) => Math.sqrt(fit.covariance[i]?.[i] ?? 0)),
      sigma: fit.sigma,
      se_log_sigma: Math.sqrt(fit.covariance.at(-1)?.at(-1) ?? 0),
      loglik: fit.logLik,
      vcov_b_logsigma: fit.covariance,
      ...bounds(c, data, design, fit, "predictions"),
      ...exactComplete(c, data, fit),
    });
  };
}

/** Complete lognormal regression: exact by the noncentral t, h = x'(X'X)^-1 x. */
function exactComplete(c: Case, data: Lifetimes, fit: LifeFit): Record<string, unknown> {
  if (fit.law !== "lognormal" || data.event.includes(0)) return {};
  const df = fit.n - fit.coef.length;
  const s = fit.sigma * Math.sqrt(fit.n / df);
  const expected = (c.expected.exact_complete as ExpectedBound[] | undefined) ?? [];
  return {
    exact_complete: expected.map(({ at = [], p, confidence }) => {
      const row = [1, ...at];
      // The covariance of the coefficients is sigma^2 (X'X)^-1 in complete data.
      const h =
        row.reduce((sum, a, i) => sum + a * row.reduce((inner, b, j) => inner + b * (fit.covariance[i]?.[j] ?? 0), 0), 0) / fit.sigma ** 2;
      const k = regressionToleranceFactor(df, h, 1 - p, confidence);
      const fitted = row.reduce((sum, a, i) => sum + a * (fit.coef[i] ?? 0), 0);
      return { at, p, confidence, s, h, k, lower: Math.exp(fitted - k * s) };
    }),
  };
}

/** One covariate, points exactly on a line: its coefficients, with no interval. */
function leastSquaresLine({ time }: Lifetimes, design: readonly (readonly number[])[]): Record<string, unknown> {
  const x = design.map((r) => r[0] ?? 0);
  const y = time.map((t) => Math.log(t));
  const mean = (v: readonly number[]): number => v.reduce((a, b) => a + b, 0) / v.length;
  const [mx, my] = [mean(x), mean(y)];
  const slope = x.reduce((sum, v, i) => sum + (v - mx) * ((y[i] ?? 0) - my), 0) / x.reduce((sum, v) => sum + (v - mx) ** 2, 0);
  return { coef: [my - slope * mx, slope] };
}

/** Separated by a yes/no setting: the fit of the runs that have it. */
function groupFit(data: Lifetimes, design: readonly (readonly number[])[], law: LifeLaw): Record<string, unknown> {
  const rows = design.flatMap((r, i) => (r[0] === 1 ? [i] : []));
  const fit = fitLife({ time: rows.map((i) => data.time[i] ?? 0), event: rows.map((i) => data.event[i] ?? 0) }, law);
  return fit.ok ? { sun_only_fit: { shape: 1 / fit.sigma, scale: Math.exp(fit.coef[0] ?? 0) } } : {};
}

export function normalTolerance(c: Case): Answer {
  const input = readInputs(c.inputs, ["n", "coverage", "confidence", "time", "scale"]);
  const [coverage, confidence] = [input.number("coverage"), input.number("confidence")];
  const time = input.has("time") ? input.numbers("time") : null;
  const wrong = time === null ? null : unusable({ time, event: [] });
  if (wrong !== null) return undefinedAll(c, wrong);
  const logs = time?.map((t) => Math.log(t)) ?? null;
  const n = logs?.length ?? input.number("n");
  if (n < 2) return refused("too-few-shutdowns", { k: null });
  const k = normalToleranceFactor(n, coverage, confidence);
  if (logs === null) return given({ k });
  const mean = logs.reduce((a, b) => a + b, 0) / n;
  const sd = Math.sqrt(logs.reduce((sum, v) => sum + (v - mean) ** 2, 0) / (n - 1));
  return given({ k, mean_log: mean, sd_log: sd, lower: Math.exp(mean - k * sd) });
}

export function freeTolerance(c: Case): Answer {
  const input = readInputs(c.inputs, ["n", "coverage", "confidence", "order", "time", "event"]);
  const [coverage, confidence] = [input.number("coverage"), input.number("confidence")];
  if (input.has("order")) {
    const n = recordsNeededForOrder(coverage, confidence, input.number("order"));
    return given({ n, achieved_confidence: confidenceOfOrder(n, coverage, input.number("order")) });
  }
  const data = input.has("time") ? input.lifetimes() : null;
  const n = data?.time.length ?? input.number("n");
  if (n === 0) return undefinedAll(c, "no-runs");
  const bound = orderOfBound(n, coverage, confidence);
  const lower = data === null ? null : boundBy(data, bound.order);
  const censored = lower?.censored ?? false;
  const values = {
    order: bound.order,
    achieved: bound.achieved,
    lower: lower?.sec ?? null,
    confidence_of_minimum: confidenceOfShortest(n, coverage),
    coverage_of_minimum_at_conf: shareOutlastingShortest(n, confidence),
    n_needed_for_minimum: recordsNeeded(coverage, confidence),
  };
  if (bound.order === 0) return refused("too-few-records", values);
  return censored ? refused("shortest-is-censored", values) : given(values);
}

/** The record of that order, the shortest at least. A run that was cut counts as if it had ended there, which only lowers the bound; that is said. */
function boundBy({ time, event }: Lifetimes, order: number): { sec: number; censored: boolean } {
  const sorted = time.map((sec, i) => ({ sec, cut: event[i] === 0 })).sort((a, b) => a.sec - b.sec);
  const upTo = sorted.slice(0, Math.max(1, order));
  return { sec: upTo.at(-1)?.sec ?? 0, censored: upTo.some((r) => r.cut) };
}
