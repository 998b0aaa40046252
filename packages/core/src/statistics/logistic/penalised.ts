// The logistic curve with a penalty, which has a steepest end even where kept and lost do not overlap: Firth (1993), and modes under weak priors
// (Gelman and others 2008). Checked against R (brglm2, and the modes by optim).

import type { Counts } from "./binomial.ts";
import { covarianceAt, expit, informationAt, logLikelihood } from "./binomial.ts";

export interface PenalisedFit {
  intercept: number;
  slope: number;
  /** Inverse of the information at the estimate, without the penalty's own curvature. */
  covariance: readonly [number, number, number];
  /** With half the log determinant of the information. */
  value: number;
}

export function firthValue(data: readonly Counts[], a: number, b: number): number {
  const [aa, ab, bb] = informationAt(data, a, b);
  const det = aa * bb - ab * ab;
  return det > 0 ? logLikelihood(data, a, b) + 0.5 * Math.log(det) : Number.NEGATIVE_INFINITY;
}

const ROUNDS = 500;
const WITHIN = 1e-12;

/** Newton on the modified score, each step halved until it does not go downhill. */
export function fitFirth(given: readonly Counts[]): PenalisedFit {
  const shots = given.reduce((s, d) => s + d.shots, 0);
  const centre = given.reduce((s, d) => s + d.shots * d.x, 0) / shots;
  const data = given.map((d) => ({ ...d, x: d.x - centre }));
  let [a, b] = [0, 0];
  let here = firthValue(data, a, b);
  for (let round = 0; round < ROUNDS; round++) {
    const [da, db] = modifiedStep(data, a, b);
    if (Math.abs(da) + Math.abs(db) < WITHIN) break;
    let part = 1;
    let next = firthValue(data, a + da, b + db);
    while (next < here - 1e-14 * Math.abs(here) && part > 1e-6) {
      part /= 2;
      next = firthValue(data, a + part * da, b + part * db);
    }
    a += part * da;
    b += part * db;
    here = next;
  }
  const intercept = a - b * centre;
  return { intercept, slope: b, covariance: covarianceAt(given, intercept, b), value: firthValue(given, intercept, b) };
}

function modifiedStep(data: readonly Counts[], a: number, b: number): [number, number] {
  const [vaa, vab, vbb] = covarianceAt(data, a, b);
  let [ua, ub] = [0, 0];
  for (const { x, kept, shots } of data) {
    const p = expit(a + b * x);
    const leverage = shots * p * (1 - p) * (vaa + 2 * x * vab + x * x * vbb);
    const score = kept - shots * p + leverage * (0.5 - p);
    ua += score;
    ub += score * x;
  }
  return [vaa * ua + vab * ub, vab * ua + vbb * ub];
}

const SCALES = { intercept: 10, slope: 2.5 };

/**
 * Mode under independent priors on z = (x - mean) / (2 sd) over shots: Cauchy or normal, scale 10 on the curve at the centre, 2.5 on its slope.
 * Cauchy by its normals of unknown width (expectation and maximisation).
 */
export function fitMode(data: readonly Counts[], prior: "cauchy" | "normal"): { intercept: number; slope: number } {
  const n = data.reduce((s, d) => s + d.shots, 0);
  const mean = data.reduce((s, d) => s + d.shots * d.x, 0) / n;
  const sd = Math.sqrt(data.reduce((s, d) => s + d.shots * (d.x - mean) ** 2, 0) / (n - 1));
  const standard = data.map((d) => ({ ...d, x: (d.x - mean) / (2 * sd) }));
  let [a, b] = [0, 0];
  for (let round = 0; round < 100 * ROUNDS; round++) {
    const precision = (value: number, scale: number): number => (prior === "normal" ? 1 / scale ** 2 : 2 / (scale ** 2 + value ** 2));
    const [ta, tb] = [precision(a, SCALES.intercept), precision(b, SCALES.slope)];
    const [da, db] = ridgeStep(standard, a, b, ta, tb);
    a += da;
    b += db;
    if (Math.abs(da) + Math.abs(db) < WITHIN) break;
  }
  return { intercept: a - (b * mean) / (2 * sd), slope: b / (2 * sd) };
}

/** One Newton step of the likelihood with these precisions; concave, so that half steps always gain. */
function ridgeStep(data: readonly Counts[], a: number, b: number, ta: number, tb: number): [number, number] {
  const [aa, ab, bb] = informationAt(data, a, b);
  let [ua, ub] = [-ta * a, -tb * b];
  for (const { x, kept, shots } of data) {
    const off = kept - shots * expit(a + b * x);
    ua += off;
    ub += off * x;
  }
  const [iaa, ibb] = [aa + ta, bb + tb];
  const det = iaa * ibb - ab * ab;
  const [da, db] = [(ibb * ua - ab * ub) / det, (iaa * ub - ab * ua) / det];
  // Far from the mode a whole step can overshoot.
  const most = Math.max(Math.abs(da), Math.abs(db), 1);
  return [da / most, db / most];
}
