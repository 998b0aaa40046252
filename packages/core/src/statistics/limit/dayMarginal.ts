// The marginal of a cell whose days repeat: runs of one day may be alike. The likelihood is the mean over four strengths of likeness of a Gaussian copula,
// equicorrelated within a day. Not concave: the middle is scanned, narrowed, and scanned again. Source: docs/methods/dependable-limit.md, step 3.

import { logNormalPdf } from "../distributions.ts";
import { SIGMA, SIGMAS } from "./grid.ts";
import type { Law } from "./laws.ts";
import type { Curve, Marginal } from "./marginal.ts";
import { curvedMarginal, curveOf } from "./marginal.ts";
import { logSf, normalScore } from "./normalTable.ts";
import type { LimitRun } from "./runs.ts";
import { isShutdown, middleSec } from "./runs.ts";

const LIKENESS_WITHIN_A_DAY = [0, 0.3, 0.6, 0.9];
/** Points of the first look and of the second. */
const [COARSE, FINE] = [65, 61];
const DROP = 16;
const SCAN = 9;
const SCAN_ABOVE_WEIBULL = 15;
/** Nodes over the day's common part, of those cut off. */
const NODES = Array.from({ length: 15 }, (_, i) => -4.2 + 0.6 * i);
const NODE_WEIGHTS = (() => {
  const raw = NODES.map((d) => Math.exp(logNormalPdf(d)));
  const sum = raw.reduce((a, b) => a + b, 0);
  return raw.map((w) => w / sum);
})();

interface Day {
  /** Transformed times of shutdowns, and of runs cut off. */
  shut: number[];
  cut: number[];
  /** Room for the normal scores of those cut off. */
  scores: Float64Array;
}

export const repeatsDays = (runs: readonly LimitRun[]): boolean => grouped(runs).some((day) => day.length > 1);

function grouped(runs: readonly LimitRun[]): LimitRun[][] {
  const days = new Map<string | null, LimitRun[]>();
  for (const run of runs) days.set(run.day, [...(days.get(run.day) ?? []), run]);
  return [...days.values()];
}

export function dayMarginal(law: Law, runs: readonly LimitRun[]): Marginal {
  const days = grouped(runs).map((day): Day => {
    const cut = day.filter((r) => !isShutdown(r)).map((r) => law.v(middleSec(r)));
    return { shut: day.filter(isShutdown).map((r) => law.v(middleSec(r))), cut, scores: new Float64Array(cut.length) };
  });
  const shut = days.flatMap((d) => d.shut);
  const mean = shut.reduce((a, b) => a + b, 0) / shut.length;
  const curves: Curve[] = [];
  const logLikelihood = new Float64Array(SIGMAS);
  for (let q = 0; q < SIGMAS; q++) {
    const scale = law.scale(SIGMA[q] as number);
    // Of times far apart against the scatter the top lies beyond any scan about the mean: the scan reaches over all of them.
    const from = Math.min(mean, ...shut) - SCAN * scale;
    const to = Math.max(mean, ...shut) + (law.normal ? SCAN : SCAN_ABOVE_WEIBULL) * scale;
    const log = (mu: number): number => logLikelihoodAt(law, days, scale, mu);
    const [lo, hi] = narrowed(log, from, to);
    const { curve, logIntegral } = curveOf(lo, (hi - lo) / (FINE - 1), sampled(log, lo, hi, FINE));
    curves.push(curve);
    logLikelihood[q] = logIntegral;
  }
  return curvedMarginal(law, logLikelihood, curves);
}

function sampled(log: (mu: number) => number, from: number, to: number, points: number): Float64Array {
  const logs = new Float64Array(points);
  for (let k = 0; k < points; k++) logs[k] = log(from + (k * (to - from)) / (points - 1));
  return logs;
}

/** Where the log is within DROP of its top, one point wider on each side. */
function narrowed(log: (mu: number) => number, from: number, to: number): [number, number] {
  const logs = sampled(log, from, to, COARSE);
  const top = logs.reduce((a, b) => Math.max(a, b), Number.NEGATIVE_INFINITY);
  const first = logs.findIndex((l) => l > top - DROP);
  const last = logs.findLastIndex((l) => l > top - DROP);
  const step = (to - from) / (COARSE - 1);
  return [from + Math.max(0, first - 1) * step, from + Math.min(COARSE - 1, last + 1) * step];
}

function logLikelihoodAt(law: Law, days: readonly Day[], scale: number, mu: number): number {
  const logs = new Float64Array(LIKENESS_WITHIN_A_DAY.length);
  for (const day of days) addDay(logs, law, day, scale, mu);
  let [top, sum] = [Number.NEGATIVE_INFINITY, 0];
  for (const log of logs) top = Math.max(top, log);
  if (top === Number.NEGATIVE_INFINITY) return top;
  for (const log of logs) sum += Math.exp(log - top);
  return top + Math.log(sum / logs.length);
}

/** Adds what a day says to each strength of likeness. */
function addDay(logs: Float64Array, law: Law, { shut, cut, scores }: Day, scale: number, mu: number): void {
  const e = shut.length;
  let [alone, total, squares, independent] = [-e * Math.log(scale), 0, 0, 0];
  for (const v of shut) {
    const w = (v - mu) / scale;
    const z = law.normal ? w : normalScore(w);
    alone += law.logDensity(w);
    total += z;
    squares += z * z;
  }
  for (let k = 0; k < cut.length; k++) {
    const w = ((cut[k] as number) - mu) / scale;
    scores[k] = law.normal ? w : normalScore(w);
    independent += law.logSurvival(w);
  }
  for (let k = 0; k < logs.length; k++) {
    const rho = LIKENESS_WITHIN_A_DAY[k] as number;
    // One run alone on its day is alike to nothing.
    if (rho === 0 || e + cut.length < 2) {
      logs[k] = (logs[k] as number) + alone + independent;
      continue;
    }
    const inflated = 1 + (e - 1) * rho;
    const shared =
      e < 2
        ? 0
        : ((e - 1) * Math.log(1 - rho) + Math.log(inflated)) / 2 + ((squares - (rho * total * total) / inflated) / (1 - rho) - squares) / 2;
    logs[k] = (logs[k] as number) + alone - shared + (cut.length === 0 ? 0 : logOfCut(scores, e, total, rho));
  }
}

/** log P(all cut runs of the day last), given what its shutdowns say of the day. */
function logOfCut(scores: Float64Array, e: number, total: number, rho: number): number {
  const variance = 1 / (1 + (e * rho) / (1 - rho));
  const middle = ((variance * Math.sqrt(rho)) / (1 - rho)) * total;
  const [spread, root, rest] = [Math.sqrt(variance), Math.sqrt(rho), Math.sqrt(1 - rho)];
  let sum = 0;
  for (let k = 0; k < NODES.length; k++) {
    const shift = root * (middle + spread * (NODES[k] as number));
    let log = 0;
    for (const score of scores) log += logSf((score - shift) / rest);
    sum += (NODE_WEIGHTS[k] as number) * Math.exp(log);
  }
  return Math.log(sum);
}
