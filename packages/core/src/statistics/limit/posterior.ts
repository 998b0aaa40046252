// All cells of a pool under one law: how likely the runs are with every scatter left free, and how one cell scatters given all of them. Exact sums over
// the grid, no draws. Source: docs/methods/dependable-limit.md, step 5.

import { LIKENESSES, SIGMA, SIGMAS } from "./grid.ts";
import type { Law } from "./laws.ts";
import type { Marginal } from "./marginal.ts";
import type { LimitCell, LimitRun } from "./runs.ts";
import { isShutdown, middleSec } from "./runs.ts";

const NOTHING = 90;
const KINDS = LIKENESSES.length;
/** `given` of all of them, one after the other. */
const GIVEN = Float64Array.from(LIKENESSES.flatMap((l) => [...l.given]));

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
  // Numbers too small to be held in full cost a hundred times as much, and change nothing.
  const likelihood = marginal.logLikelihood.map((l) => (l < logTop - NOTHING ? 0 : Math.exp(l - logTop)));
  const averages = new Float64Array(KINDS);
  for (let k = 0; k < KINDS; k++) {
    let sum = 0;
    for (let q = 0; q < SIGMAS; q++) sum += (GIVEN[k * SIGMAS + q] as number) * (likelihood[q] as number);
    averages[k] = sum;
  }
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

/** Ways of being alike that weigh less than this share of the weightiest change no digit. */
const NO_WEIGHT = 1e-14;

export function posteriorOf(cells: readonly Prepared[]): Posterior {
  const [target] = cells as [Prepared, ...Prepared[]];
  const others = new Float64Array(KINDS);
  let [evidence, most] = [0, 0];
  for (let k = 0; k < KINDS; k++) {
    let weight = (LIKENESSES[k] as (typeof LIKENESSES)[number]).weight;
    for (let c = 1; c < cells.length; c++) weight *= (cells[c] as Prepared).averages[k] as number;
    others[k] = weight;
    most = Math.max(most, weight);
    evidence += weight * (target.averages[k] as number);
  }
  const { scatter, wild } = scatterOf(target.likelihood, others, NO_WEIGHT * most);
  const logTops = cells.reduce((sum, c) => sum + c.logTop + c.logJacobian, 0);
  return { logEvidence: Math.log(evidence) + logTops, scatter: scatter.map((s) => s / evidence), wild: wild / evidence };
}

function scatterOf(likelihood: Float64Array, others: Float64Array, least: number): { scatter: Float64Array; wild: number } {
  const scatter = new Float64Array(SIGMAS);
  let wild = 0;
  for (let k = 0; k < KINDS; k++) {
    const weight = others[k] as number;
    if (weight < least) continue;
    const twice = 2 * (SIGMA[(LIKENESSES[k] as (typeof LIKENESSES)[number]).i] as number);
    for (let q = 0; q < SIGMAS; q++) {
      const part = weight * (GIVEN[k * SIGMAS + q] as number) * (likelihood[q] as number);
      scatter[q] = (scatter[q] as number) + part;
      if ((SIGMA[q] as number) > twice) wild += part;
    }
  }
  return { scatter, wild };
}
