// All cells of a pool under one law: how likely the runs are with every scatter left free, and how one cell scatters given all of them. Exact sums over
// the grid, no draws. Source: docs/methods/dependable-limit.md, step 5.

import { LIKENESSES, SIGMA, SIGMAS } from "./grid.ts";
import type { Law } from "./laws.ts";
import type { Marginal } from "./marginal.ts";
import type { LimitCell, LimitRun } from "./runs.ts";
import { isShutdown, middleSec } from "./runs.ts";

/** A cell under a law, made ready once for every pool it is in. */
export interface Prepared {
  marginal: Marginal;
  /** Likelihoods by scatter, the largest 1, and the log of that largest. */
  likelihood: Float64Array;
  logTop: number;
  /** The likelihood averaged over the cell's scatter, by likeness. */
  averages: Float64Array;
  /** What sets the laws of both families on the same footing: densities of time, not of transformed time. */
  logJacobian: number;
}

export function prepared(marginal: Marginal, law: Law, cell: LimitCell): Prepared {
  const logTop = marginal.logLikelihood.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  const likelihood = marginal.logLikelihood.map((l) => Math.exp(l - logTop));
  const averages = Float64Array.from(LIKENESSES, ({ given }) => {
    let sum = 0;
    for (let q = 0; q < SIGMAS; q++) sum += (given[q] as number) * (likelihood[q] as number);
    return sum;
  });
  return { marginal, likelihood, logTop, averages, logJacobian: law.tauSec === null ? 0 : jacobian(cell.runs, law.tauSec) };
}

function jacobian(runs: readonly LimitRun[], tauSec: number): number {
  const log = (run: LimitRun): number => {
    const x = middleSec(run) / tauSec;
    return Math.log(x / Math.expm1(x));
  };
  const shut = runs.filter(isShutdown);
  const exact = shut.filter((r) => r.kind === "exact").reduce((sum, r) => sum + log(r), 0);
  return exact - shut.reduce((sum, r) => sum + log(r), 0) / shut.length;
}

export interface Posterior {
  logEvidence: number;
  /** The first cell's scatter, by q; sums to 1. */
  scatter: Float64Array;
  /** P(the first cell scatters more than twice as widely as is typical of the pool). */
  wild: number;
}

export function posteriorOf(cells: readonly Prepared[]): Posterior {
  const [target] = cells as [Prepared, ...Prepared[]];
  const scatter = new Float64Array(SIGMAS);
  let [evidence, wild] = [0, 0];
  LIKENESSES.forEach(({ i, weight, given }, k) => {
    let others = weight;
    for (let c = 1; c < cells.length; c++) others *= (cells[c] as Prepared).averages[k] as number;
    evidence += others * (target.averages[k] as number);
    for (let q = 0; q < SIGMAS; q++) {
      const part = others * (given[q] as number) * (target.likelihood[q] as number);
      scatter[q] = (scatter[q] as number) + part;
      if ((SIGMA[q] as number) > 2 * (SIGMA[i] as number)) wild += part;
    }
  });
  const logTops = cells.reduce((sum, c) => sum + c.logTop + c.logJacobian, 0);
  return { logEvidence: Math.log(evidence) + logTops, scatter: scatter.map((s) => s / evidence), wild: wild / evidence };
}
