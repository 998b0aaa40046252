// The classical curve of kept against exposure, and differences of two.

import type { Counts } from "@keep-rolling/core/statistics";
import {
  commonSlopeOf,
  deltaInterval,
  fiellerInterval,
  firthThreshold,
  fitFirth,
  fitLogit,
  fitMode,
  groupThreshold,
  placeDifference,
  profiledThreshold,
  refusalOfCounts,
  separationOf,
  thresholdDifference,
} from "@keep-rolling/core/statistics";
import type { Answer, Case } from "./compare.ts";
import { readInputs } from "./inputs.ts";

interface Shots {
  x_log2_seconds: number[];
  keep: number[];
  trials: number[];
}
const countsOf = ({ x_log2_seconds, keep, trials }: Shots): Counts[] =>
  x_log2_seconds.map((x, i) => ({ x, kept: keep[i] ?? Number.NaN, shots: trials[i] ?? Number.NaN }));

export function logisticThreshold(c: Case): Answer {
  readInputs(c.inputs, ["x_log2_seconds", "keep", "trials", "confidence"]);
  const data = countsOf(c.inputs as unknown as Shots);
  const refusal = refusalOfCounts(data);
  if (refusal !== null) return { reason: refusal, values: { data_type: refusal } };
  const { type } = separationOf(data);
  const [ml, firth] = [fitLogit(data), fitFirth(data)];
  const asked = c.expected.thresholds as { P: number; confidence: number }[];
  return {
    reason: ml === null ? type : null,
    values: {
      data_type: type,
      ...(ml === null
        ? {}
        : {
            ml: {
              ...curveValues(ml),
              loglik_kernel: ml.logLikelihood,
              deviance: ml.deviance,
              null_deviance: ml.nullDeviance,
              lr_slope: ml.ratio,
              p_slope_lr: ml.p,
            },
          }),
      firth: { ...curveValues(firth), penalised_loglik: firth.value },
      map_cauchy: fitMode(data, "cauchy"),
      map_normal: fitMode(data, "normal"),
      thresholds: asked.map(({ P, confidence }) => {
        const profiled = profiledThreshold(data, P, confidence);
        const penalised = firthThreshold(data, P, confidence);
        const delta = ml === null ? null : deltaInterval(ml, P, confidence);
        return {
          P,
          confidence,
          ml:
            ml === null || delta === null
              ? { threshold: null, gap: profiled.gap, sup_loglik: profiled.most, profile: profiled.profile }
              : {
                  threshold: delta.threshold,
                  se: delta.se,
                  delta: delta.ends,
                  fieller: fiellerInterval(ml, P, confidence),
                  profile: profiled.profile,
                  profile_one_sided_lower: profiled.profileLower,
                },
          firth: { threshold: penalised.threshold, se: penalised.se, delta: penalised.ends, profile: penalised.profile },
        };
      }),
    },
  };
}

const curveValues = ({ intercept, slope, covariance }: { intercept: number; slope: number; covariance: readonly number[] }) => ({
  intercept,
  slope,
  se: [Math.sqrt(covariance[0] ?? Number.NaN), Math.sqrt(covariance[2] ?? Number.NaN)],
  cov: covariance[1],
});

export const logisticDifference = (c: Case): Answer => ("group" in c.inputs ? commonSlope(c) : twoCurves(c));

function twoCurves(c: Case): Answer {
  readInputs(c.inputs, ["P", "confidence", "A", "B"]);
  const { P, confidence, A, B } = c.inputs as unknown as { P: number; confidence: number; A: Shots; B: Shots };
  const d = thresholdDifference(countsOf(A), countsOf(B), P, confidence);
  const one = (t: typeof d.a) => ({ type: t.type, threshold: t.threshold, profile: t.profile });
  return {
    reason: d.difference === null ? (d.a.threshold === null ? d.a.type : d.b.type) : null,
    values: { A: one(d.a), B: one(d.b), difference_stops: d.difference, delta: d.delta, mover: d.squareAndAdd, profile_joint: d.joint },
  };
}

const SHARES = { p25: 0.25, p50: 0.5, p75: 0.75 };
function commonSlope(c: Case): Answer {
  readInputs(c.inputs, ["x", "events", "trials", "group"]);
  const { x, events, trials, group } = c.inputs as unknown as { x: number[]; events: number[]; trials: number[]; group: string[] };
  const names = [...new Set(group)].sort();
  const data = x.map((v, i) => ({ x: v, kept: events[i] ?? Number.NaN, shots: trials[i] ?? Number.NaN }));
  const fit = commonSlopeOf(
    data,
    group.map((g) => names.indexOf(g)),
  );
  if (fit === null) return { reason: "no-maximum", values: {} };
  const [first = "", second = ""] = names;
  const at = (share: number) => groupThreshold(fit, 0, share);
  const other = groupThreshold(fit, 1, 0.5);
  const { difference, se } = placeDifference(fit, 0, 1);
  return {
    reason: null,
    values: {
      [`coef_${first}`]: fit.intercepts[0],
      [`coef_${second}`]: fit.intercepts[1],
      slope: fit.slope,
      se: fit.covariance.map((row, i) => Math.sqrt(row[i] ?? Number.NaN)),
      [`${first}_x`]: Object.fromEntries(Object.entries(SHARES).map(([k, s]) => [k, at(s).threshold])),
      [`${first}_se`]: Object.fromEntries(Object.entries(SHARES).map(([k, s]) => [k, at(s).se])),
      [`${second}_p50`]: other.threshold,
      [`${second}_se50`]: other.se,
      [`difference_${first}_minus_${second}`]: difference,
      difference_se: se,
    },
  };
}
