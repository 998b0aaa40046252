// log P(Z > w) millions of times: cubic Hermite interpolation of the exact tail between nodes 1/64 apart (relative error below 1e-7), and the normal
// score of a smallest extreme value the same way.

import { logNormalPdf, logNormalSf, normalHazard, normalQuantile } from "../distributions.ts";

const PER_UNIT = 64;

interface Table {
  from: number;
  values: Float64Array;
  slopes: Float64Array;
}

function tableOf(from: number, to: number, value: (x: number) => number, slope: (x: number) => number): Table {
  const n = Math.round((to - from) * PER_UNIT) + 1;
  const at = (i: number): number => from + i / PER_UNIT;
  return {
    from,
    values: Float64Array.from({ length: n }, (_, i) => value(at(i))),
    slopes: Float64Array.from({ length: n }, (_, i) => slope(at(i)) / PER_UNIT),
  };
}

function read({ from, values, slopes }: Table, x: number): number {
  const at = (x - from) * PER_UNIT;
  const i = Math.min(values.length - 2, Math.floor(at));
  const t = at - i;
  const y0 = values[i] as number;
  const rise = y0 - (values[i + 1] as number);
  const d0 = slopes[i] as number;
  const d1 = slopes[i + 1] as number;
  return y0 + t * (d0 + t * (-3 * rise - 2 * d0 - d1 + t * (2 * rise + d0 + d1)));
}

const [LOW, HIGH] = [-9, 38];
const TAIL = tableOf(LOW, HIGH, logNormalSf, (x) => -normalHazard(x));

/** log P(Z > w) for any w. */
export function logSf(w: number): number {
  if (w > LOW && w < HIGH) return read(TAIL, w);
  if (w <= LOW) return Math.exp(logNormalPdf(w)) / w;
  return logNormalPdf(w) - Math.log(w) + Math.log1p(-1 / (w * w));
}

const SURVIVAL = tableOf(
  -8,
  8,
  (x) => Math.exp(logNormalSf(x)),
  (x) => -Math.exp(logNormalPdf(x)),
);

/** P(Z > w) to nine digits, without a logarithm: for averages over many. */
export const sf = (w: number): number => (w <= -8 ? 1 : w >= 8 ? 0 : read(SURVIVAL, w));

/** P(Z <= z). */
export const phi = (z: number): number => (z < 0 ? Math.exp(logSf(-z)) : 1 - Math.exp(logSf(z)));

const [EV_LOW, EV_HIGH] = [-34, 3.4];
const SCORE = tableOf(EV_LOW, EV_HIGH, scoreOf, (x) => (scoreOf(x + 1e-4) - scoreOf(x - 1e-4)) / 2e-4);

/** The normal score of a smallest extreme value w: the z with the same share below it. Ends are held. */
export const normalScore = (w: number): number => read(SCORE, Math.min(EV_HIGH, Math.max(EV_LOW, w)));

function scoreOf(w: number): number {
  const above = Math.exp(-Math.exp(w));
  const [log, side] = above > 0.5 ? [Math.log(-Math.expm1(-Math.exp(w))), 1] : [-Math.exp(w), -1];
  let z = normalQuantile(Math.exp(log));
  // The library's quantile loses digits in the far tail; two steps of Newton on the logarithm bring them back.
  for (let i = 0; i < 2; i++) z -= (logNormalSf(-z) - log) / normalHazard(-z);
  return side * z;
}
