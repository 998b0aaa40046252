// The chance of lasting any time, as plain data that can travel: points on the scale of a normal law, where a lognormal is a straight line, joined by
// a cubic that never turns back (Fritsch and Carlson, SIAM J. Numer. Anal. 17, 1980). Not a grid of answers: between the points it is right to four digits.

import { normalCdf, normalQuantile } from "../distributions.ts";

export interface ChanceCurve {
  /** Log seconds, rising by equal steps, and beside each the normal quantile of the chance of lasting longer, falling. */
  logSec: number[];
  probit: number[];
}

const POINTS = 27;
/** Beyond these chances nothing is told apart. */
const [ALMOST_ALL, ALMOST_NONE] = [0.9999, 0.0005];
/** No run is spoken of that lasts longer than so many times the longest known one. */
const LONGEST = 20;

/** `chance` of seconds, falling; `aboutSec`: a time of the middle, `spread`: of log time; `longestSec`: of the runs it was read from. */
export function chanceCurve(chance: (sec: number) => number, aboutSec: number, spread: number, longestSec: number): ChanceCurve {
  if (!(aboutSec > 0)) throw new RangeError(`aboutSec must be positive, got ${aboutSec}`);
  if (!(spread > 0)) throw new RangeError(`spread must be positive, got ${spread}`);
  const most = Math.log(LONGEST * Math.max(aboutSec, longestSec));
  const stride = Math.min(1, 1.5 * spread);
  let [from, to] = [Math.log(aboutSec) - 2 * stride, Math.log(aboutSec) + 2 * stride];
  while (chance(Math.exp(from)) < ALMOST_ALL && from > to - WIDEST) from -= stride;
  while (chance(Math.exp(to)) > ALMOST_NONE && to < most) to += stride;
  const logSec = Array.from({ length: POINTS }, (_, i) => from + ((to - from) * i) / (POINTS - 1));
  let above = Number.POSITIVE_INFINITY;
  const probit = logSec.map((log) => (above = Math.min(above, normalQuantile(clamped(chance(Math.exp(log)))))));
  return { logSec, probit };
}
const WIDEST = 12;
const clamped = (p: number): number => Math.min(1 - 1e-9, Math.max(1e-9, p));

/** P(a run to come lasts beyond `sec`). */
export function chanceAt(curve: ChanceCurve, sec: number): number {
  return sec <= 0 ? 1 : sec === Number.POSITIVE_INFINITY ? 0 : normalCdf(probitAt(curve, Math.log(sec)));
}

/** The time that is lasted with the chance, seconds; the end of the curve where it never falls so far. */
export function timeOfChance(curve: ChanceCurve, chance: number): number {
  if (!(chance > 0 && chance < 1)) throw new RangeError(`chance must lie between 0 and 1, got ${chance}`);
  const wanted = normalQuantile(chance);
  const { logSec } = curve;
  let [lo, hi] = [(logSec[0] as number) - WIDEST, logSec.at(-1) as number];
  for (let i = 0; i < 60; i++) {
    const mid = (lo + hi) / 2;
    if (probitAt(curve, mid) > wanted) lo = mid;
    else hi = mid;
  }
  return Math.exp(lo);
}

function probitAt({ logSec, probit }: ChanceCurve, log: number): number {
  const n = logSec.length;
  const step = (logSec[1] as number) - (logSec[0] as number);
  const at = (log - (logSec[0] as number)) / step;
  // Straight on beyond the ends.
  if (at <= 0) return (probit[0] as number) + at * slope(probit, 0);
  if (at >= n - 1) return (probit[n - 1] as number) + (at - n + 1) * slope(probit, n - 1);
  const i = Math.floor(at);
  const x = at - i;
  const [a, b] = [probit[i] as number, probit[i + 1] as number];
  const [da, db] = [slope(probit, i), slope(probit, i + 1)];
  return a + x * (da + x * (3 * (b - a) - 2 * da - db + x * (2 * (a - b) + da + db)));
}

/** Per step, at point i: the harmonic mean of its neighbours' rises, so that no cubic turns back. */
function slope(y: readonly number[], i: number): number {
  const rise = (k: number): number => (y[k + 1] as number) - (y[k] as number);
  if (i === 0) return rise(0);
  if (i === y.length - 1) return rise(i - 1);
  const [before, after] = [rise(i - 1), rise(i)];
  return before * after <= 0 ? 0 : (2 * before * after) / (before + after);
}
