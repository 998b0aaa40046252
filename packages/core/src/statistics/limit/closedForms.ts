// Marginals without a grid: a normal law when every run is exact, a Weibull when runs are exact or cut off.
// Sources: docs/methods/dependable-limit.md, step 3; the normal one is the textbook's (flat prior on the mean), the Weibull one follows from
// e^(-b mu) times the sum of e^(b v) being gamma distributed (Lawless, Statistical Models and Methods for Lifetime Data, ch. 4, from memory).

import { gammaCdf } from "../distributions.ts";
import { SIGMA, SIGMAS } from "./grid.ts";
import type { Law } from "./laws.ts";
import type { Marginal } from "./marginal.ts";
import { phi, sf } from "./normalTable.ts";

const LOG_TAU = Math.log(2 * Math.PI);

/** `v`: transformed times of shutdowns, at least one. */
export function normalMarginal(law: Law, v: readonly number[]): Marginal {
  const n = v.length;
  const mean = v.reduce((a, b) => a + b, 0) / n;
  const squares = v.reduce((sum, x) => sum + (x - mean) ** 2, 0);
  const scales = SIGMA.map((sigma) => law.scale(sigma));
  const logLikelihood = Float64Array.from(
    scales,
    (s) => -(n - 1) * Math.log(s) - squares / (2 * s * s) - ((n - 1) / 2) * LOG_TAU - Math.log(n) / 2,
  );
  return {
    logLikelihood,
    below: (q, y) => phi((Math.sqrt(n) * (y - mean)) / (scales[q] as number)),
    survival: (q, x) => sf((x - mean) / ((scales[q] as number) * Math.sqrt(1 + 1 / n))),
  };
}

/** `exact`: shutdowns, at least one; `cut`: runs that lasted at least so long. */
export function weibullMarginal(law: Law, exact: readonly number[], cut: readonly number[]): Marginal {
  const r = exact.length;
  const all = [...exact, ...cut];
  const top = Math.max(...all);
  const sum = exact.reduce((a, b) => a + b, 0);
  const shapes = SIGMA.map((sigma) => 1 / law.scale(sigma));
  const logA = Float64Array.from(shapes, (b) => b * top + Math.log(all.reduce((total, v) => total + Math.exp(b * (v - top)), 0)));
  const logGamma = logFactorial(r - 1);
  const logLikelihood = Float64Array.from(
    { length: SIGMAS },
    (_, q) => (r - 1) * Math.log(shapes[q] as number) + (shapes[q] as number) * sum - r * (logA[q] as number) + logGamma,
  );
  return {
    logLikelihood,
    below: (q, y) => 1 - gammaCdf(Math.exp((logA[q] as number) - (shapes[q] as number) * y), r),
    survival: (q, v) => Math.exp(-r * Math.log1p(Math.exp((shapes[q] as number) * v - (logA[q] as number)))),
  };
}

function logFactorial(n: number): number {
  let sum = 0;
  for (let k = 2; k <= n; k++) sum += Math.log(k);
  return sum;
}
