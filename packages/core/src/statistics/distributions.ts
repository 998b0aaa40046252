// Distributions and special functions: a thin, typed door to the library (jstat), and the normal tail where the library loses its digits.

import library from "jstat";

const { jStat } = library;

function requireShare(name: string, p: number): void {
  if (!(p > 0 && p < 1)) throw new RangeError(`${name} must lie between 0 and 1, got ${p}`);
}

export function normalQuantile(p: number): number {
  requireShare("p", p);
  return jStat.normal.inv(p, 0, 1);
}
export const normalCdf = (z: number): number => (z < -TAIL ? Math.exp(logNormalSf(-z)) : jStat.normal.cdf(z, 0, 1));

export function studentQuantile(p: number, df: number): number {
  requireShare("p", p);
  const key = `${p} ${df}`;
  const known = STUDENT.get(key) ?? jStat.studentt.inv(p, df);
  if (STUDENT.size < STUDENT_MOST) STUDENT.set(key, known);
  return known;
}
/** Every point of a curve asks for the same one. */
const STUDENT = new Map<string, number>();
const STUDENT_MOST = 500;

export const studentCdf = (x: number, df: number): number => jStat.studentt.cdf(x, df);
/** P(X > x) for chi-square with `df` whole degrees of freedom, by its finite sum (Abramowitz and Stegun 26.4.4 and 26.4.5): the tail keeps its digits. */
export function chiSquareSf(x: number, df: number): number {
  if (!(Number.isInteger(df) && df >= 1)) throw new RangeError(`df must be a whole number from 1 on, got ${df}`);
  if (x <= 0) return 1;
  const odd = df % 2 === 1;
  let sum = odd ? 2 * Math.exp(logNormalSf(Math.sqrt(x))) : Math.exp(-x / 2);
  // x^a e^-x / gamma(a + 1) with half of x, from a = 1/2 or 1 upwards.
  let term = odd ? Math.sqrt((2 * x) / Math.PI) * Math.exp(-x / 2) : (x / 2) * Math.exp(-x / 2);
  for (let k = odd ? 3 : 4; k <= df; k += 2) {
    sum += term;
    term *= x / k;
  }
  return Math.min(1, sum);
}
export function betaQuantile(p: number, a: number, b: number): number {
  requireShare("p", p);
  return jStat.beta.inv(p, a, b);
}
/** log of the gamma function, x > 0. */
export const logGamma = (x: number): number => jStat.gammaln(x);
/** Regularised lower incomplete gamma P(a, x). */
export function gammaCdf(x: number, a: number): number {
  if (x <= 0) return 0;
  // Beyond 700 the tail of whole and small a is zero to the last digit, and its terms overflow.
  if (x === Number.POSITIVE_INFINITY || (x > 700 && a <= 60)) return 1;
  // For whole a and x not small the upper tail is a short sum; near zero one minus it would lose digits.
  if (Number.isInteger(a) && a <= 60 && x > 1) return 1 - erlangTail(x, a);
  return jStat.lowRegGamma(a, x);
}

/** e^-x times the sum of x^k / k! for k below a. */
function erlangTail(x: number, a: number): number {
  let [term, sum] = [1, 1];
  for (let k = 1; k < a; k++) {
    term *= x / k;
    sum += term;
  }
  return sum * Math.exp(-x);
}
export const noncentralTCdf = (x: number, df: number, ncp: number): number => jStat.noncentralt.cdf(x, df, ncp);

const HALF_LOG_TAU = 0.5 * Math.log(2 * Math.PI);
/** Beyond this the library's normal tail has lost digits, and the continued fraction has them all. */
const TAIL = 3.5;
const FRACTION_STEPS = 80;

export const logNormalPdf = (z: number): number => -0.5 * z * z - HALF_LOG_TAU;

/** phi(w) / Phi(-w), the hazard of the normal; Laplace's continued fraction of Mills' ratio in the tail (relative error below 1e-14). */
export function normalHazard(w: number): number {
  if (w < TAIL) return Math.exp(logNormalPdf(w)) / (1 - jStat.normal.cdf(w, 0, 1));
  let tail = w;
  for (let k = FRACTION_STEPS; k >= 1; k--) tail = w + k / tail;
  return tail;
}

/** log P(Z > w) where the hazard at w is known; below the middle the hazard may be too small to divide by. */
export const logSfFrom = (w: number, hazard: number): number => (w < 0 ? logNormalSf(w) : logNormalPdf(w) - Math.log(hazard));

/** log P(Z > w), with all digits in the far tail. */
export const logNormalSf = (w: number): number =>
  w < TAIL ? Math.log1p(-jStat.normal.cdf(w, 0, 1)) : logNormalPdf(w) - Math.log(normalHazard(w));
