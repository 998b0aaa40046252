// Shares, two samples, resampling, correlation. Figures kept for comparison only (Wald, Jeffreys, mid-p, continuity) are worked out here, not
// in the core: nothing ever claims them.

import { bootstrapBca, correlation, hodgesLehmann, mannWhitney, shiftInterval } from "@keep-rolling/core/statistics";
import type { Statistic } from "@keep-rolling/core/statistics";
import { betaQuantile, bisect, logGamma, normalQuantile } from "@keep-rolling/core/statistics";
import { randomFrom } from "@keep-rolling/core/statistics";
import { clopperPearson, clopperPearsonLower, clopperPearsonUpper, newcombe, wilson, wilsonAt } from "@keep-rolling/core/statistics";
import type { Answer, Case } from "./compare.ts";
import { readInputs, UnknownInput } from "./inputs.ts";

const given = (values: Record<string, unknown>): Answer => ({ reason: null, values });
const refused = (reason: string, values: Record<string, unknown>): Answer => ({ reason, values });
const pair = (l: { lower: number; upper: number } | null): [number, number] | null => (l === null ? null : [l.lower, l.upper]);

export function share(c: Case): Answer {
  const input = readInputs(c.inputs, ["k", "n", "confidence"]);
  const [k, n, confidence] = [input.number("k"), input.number("n"), input.number("confidence")];
  if (!isCount(k, n)) return refused("no-count", nothingOf(c));
  const exact = pair(clopperPearson(k, n, confidence));
  if (n === 0) return refused("no-trials", { p: null, clopper_pearson: exact, wilson: pair(wilson(k, n, confidence)) });
  const [p, z] = [k / n, normalQuantile((1 + confidence) / 2)];
  const one = normalQuantile(confidence);
  const half = z * Math.sqrt((p * (1 - p)) / n);
  return given({
    p,
    wald: [p - half, p + half],
    wilson: pair(wilson(k, n, confidence)),
    wilson_cc: wilsonContinuity(k, n, z),
    clopper_pearson: exact,
    jeffreys: [jeffreys(k, n, (1 - confidence) / 2, "lower"), jeffreys(k, n, (1 - confidence) / 2, "upper")],
    mid_p: [midP(k, n, (1 - confidence) / 2), 1 - midP(n - k, n, (1 - confidence) / 2)],
    one_sided_lower: {
      clopper_pearson: clopperPearsonLower(k, n, confidence),
      wilson: wilsonAt(k, n, one)?.lower,
      jeffreys: jeffreys(k, n, 1 - confidence, "lower"),
    },
    one_sided_upper: {
      clopper_pearson: clopperPearsonUpper(k, n, confidence),
      wilson: wilsonAt(k, n, one)?.upper,
      jeffreys: jeffreys(k, n, 1 - confidence, "upper"),
    },
  });
}

function wilsonContinuity(k: number, n: number, z: number): [number, number] {
  const p = k / n;
  const q = 1 - p;
  const lower = (2 * n * p + z * z - 1 - z * Math.sqrt(z * z - 2 - 1 / n + 4 * p * (n * q + 1))) / (2 * (n + z * z));
  const upper = (2 * n * p + z * z + 1 + z * Math.sqrt(z * z + 2 - 1 / n + 4 * p * (n * q - 1))) / (2 * (n + z * z));
  return [k === 0 ? 0 : lower, k === n ? 1 : upper];
}

function jeffreys(k: number, n: number, tail: number, side: "lower" | "upper"): number {
  if (side === "lower") return k === 0 ? 0 : betaQuantile(tail, k + 0.5, n - k + 0.5);
  return k === n ? 1 : betaQuantile(1 - tail, k + 0.5, n - k + 0.5);
}

/** k of n, as counts are. */
const isCount = (k: number, n: number): boolean => Number.isInteger(k) && Number.isInteger(n) && k >= 0 && k <= n;
const nothingOf = (c: Case): Record<string, null> => Object.fromEntries(Object.keys(c.expected).map((key) => [key, null]));

/** p where P(X > k) + P(X = k) / 2 is the tail. */
function midP(k: number, n: number, tail: number): number {
  if (k === 0) return 0;
  return bisect((p) => beyond(k, n, p) - tail, 1e-15, k / n);
}

/** P(X > k) + P(X = k) / 2 for k at or above n p: the terms fall from k on, so the sum is short however many trials there were. */
function beyond(k: number, n: number, p: number): number {
  const logTerm = logChoose(n, k) + k * Math.log(p) + (k === n ? 0 : (n - k) * Math.log1p(-p));
  let [term, sum] = [1, 0.5];
  for (let i = k; i < n && term > 1e-18 * sum; i++) {
    term *= ((n - i) / (i + 1)) * (p / (1 - p));
    sum += term;
  }
  return Math.exp(logTerm) * sum;
}
const logChoose = (n: number, k: number): number => logGamma(n + 1) - logGamma(k + 1) - logGamma(n - k + 1);

export function shareDifference(c: Case): Answer {
  const input = readInputs(c.inputs, ["k1", "n1", "k2", "n2", "confidence"]);
  const [k1, n1, k2, n2] = [input.number("k1"), input.number("n1"), input.number("k2"), input.number("n2")];
  if (!isCount(k1, n1) || !isCount(k2, n2)) return refused("no-count", nothingOf(c));
  const r = newcombe(k1, n1, k2, n2, input.number("confidence"));
  if (!r.ok) return refused(r.reason, { difference: null, newcombe_hybrid_score: null });
  return given({ difference: r.difference, newcombe_hybrid_score: [r.lower, r.upper] });
}

export function twoSamples(c: Case): Answer {
  const input = readInputs(c.inputs, ["x", "y", "confidence"]);
  const [x, y] = [input.numbers("x"), input.numbers("y")];
  const r = mannWhitney(x, y);
  if (!r.ok) return refused(r.reason, nothingOf(c));
  return given({
    U_x: r.u,
    U_y: r.uOther,
    cliffs_delta: r.delta,
    A_prob_superiority: r.superiority,
    var_U_ties: r.variance,
    z_corrected: r.z,
    p_normal_corrected: r.pNormal,
    p_exact_two_sided: r.exact?.twoSided ?? null,
    p_exact_greater: r.exact?.greater ?? null,
    p_exact_less: r.exact?.less ?? null,
    cliff_var_unbiased: r.deltaVariance,
    hodges_lehmann: hodgesLehmann(x, y),
    hl_ci95: pair(shiftInterval(x, y, 0.95)),
  });
}

const mean: Statistic = (x) => x.reduce((a, b) => a + b, 0) / x.length;
const STATISTICS: Readonly<Record<string, Statistic>> = {
  mean,
  median: (x) => {
    const s = [...x].sort((a, b) => a - b);
    const m = s.length / 2;
    return s.length % 2 === 1 ? (s[Math.floor(m)] ?? 0) : ((s[m - 1] ?? 0) + (s[m] ?? 0)) / 2;
  },
  "variance with divisor n": (x) => {
    const middle = mean(x);
    return mean(x.map((v) => (v - middle) ** 2));
  },
};
/** The reference was drawn itself; ours must add no error of its own to it. */
const DRAWS = 400_000;

export function resampled(c: Case): Answer {
  const input = readInputs(c.inputs, ["x", "statistic", "confidence", "resampling"]);
  const statistic = STATISTICS[input.text("statistic")];
  if (statistic === undefined) throw new UnknownInput(`the statistic ${input.text("statistic")} is not known here`);
  const x = input.numbers("x");
  if (x.length === 0) return refused("empty", nothingOf(c));
  const r = bootstrapBca(x, statistic, input.number("confidence"), randomFrom(1), DRAWS);
  if (!r.ok) return refused(r.reason, { estimate: statistic(x), percentile: [statistic(x), statistic(x)], acceleration: null, bca: null });
  return given({
    estimate: r.estimate,
    boot_mean: r.mean,
    boot_sd: r.sd,
    percentile: pair(r.percentile),
    z0: r.z0,
    acceleration: r.acceleration,
    bca_levels: pair(r.levels),
    bca: pair(r.bca),
    bca_montecarlo: pair(r.bca),
  });
}

export function pearson(c: Case): Answer {
  const input = readInputs(c.inputs, ["x", "y"]);
  const r = correlation(input.numbers("x"), input.numbers("y"));
  return r.ok ? given({ r: r.r, jackknife_se: r.jackknifeSe }) : refused(r.reason, { r: null, jackknife_se: null });
}
