// A run to come by few ends, where the scatter is presumed: log time is normal about a middle nobody knows, with a scatter such as cameras (or batteries)
// usually have. Source: worked out for this project; docs/methods/ends-first.md. No claim is made from it.

import { normalQuantile } from "../distributions.ts";
import { phi } from "./normalTable.ts";
import type { ChanceCurve } from "./chanceCurve.ts";
import { chanceCurve, timeOfChance } from "./chanceCurve.ts";
import { logBetween } from "./gridded.ts";
import { lawsFor } from "./laws.ts";
import type { LimitRun } from "./runs.ts";
import { isShutdown, middleSec } from "./runs.ts";

/** Middle of the presumed scatter of log time, and how widely its logarithm lies about it. */
export const PRESUMED = { heat: 0.1, battery: 0.05 } as const;
const LOG_SPREAD = 0.4675;
const NODES = 25;
const BEYOND = 1.5;

interface Point {
  weight: number;
  mu: number;
  sd: number;
}

/** At least one run must be an end, else `RangeError`. `about`: the middle of the presumed scatter. */
export function predictiveCurve(runs: readonly LimitRun[], about: number): ChanceCurve {
  const ends = runs.filter(isShutdown).map(middleSec);
  if (ends.length === 0) throw new RangeError(`runs must hold an end, got ${runs.length} without one`);
  const points = runs.every((r) => r.kind === "exact")
    ? closed(
        runs.map((r) => Math.log(middleSec(r))),
        about,
      )
    : posterior(runs, about);
  const chance = (sec: number): number => points.reduce((sum, p) => sum + p.weight * phi((p.mu - Math.log(sec)) / p.sd), 0);
  const middle = Math.exp(ends.reduce((sum, sec) => sum + Math.log(sec), 0) / ends.length);
  return chanceCurve(chance, middle, about, Math.max(...runs.map(middleSec)));
}

/** What the share of runs is known to last with the confidence, if they scatter as presumed: seconds. At least one run must be an end. */
export function presumedLimitSec(runs: readonly LimitRun[], about: number, share: number, confidence: number): number {
  const curve = predictiveCurve(runs, about);
  const z = normalQuantile(share);
  const quantiles = posterior(runs, about)
    .map(({ mu, sd, weight }) => ({ log: mu - z * sd, weight }))
    .sort((a, b) => a.log - b.log);
  let below = 0;
  const log = quantiles.find((q) => (below += q.weight) >= 1 - confidence)?.log ?? Number.NEGATIVE_INFINITY;
  return Math.min(Math.exp(log), timeOfChance(curve, share));
}

const [normal] = lawsFor(1, 1) as [ReturnType<typeof lawsFor>[number]];

/** Ends alone: the middle is normal about their mean, so a run to come is too. */
function closed(logs: readonly number[], about: number): Point[] {
  const n = logs.length;
  const mean = logs.reduce((a, b) => a + b, 0) / n;
  const squares = logs.reduce((sum, v) => sum + (v - mean) ** 2, 0);
  const nodes = Array.from({ length: NODES }, (_, k) => {
    const z = -3 + (6 * k) / (NODES - 1);
    const sd = about * Math.exp(LOG_SPREAD * z);
    return { log: -0.5 * z * z - (n - 1) * Math.log(sd) - squares / (2 * sd * sd), sd };
  });
  const top = Math.max(...nodes.map((p) => p.log));
  const sum = nodes.reduce((s, p) => s + Math.exp(p.log - top), 0);
  return nodes.map(({ log, sd }) => ({ weight: Math.exp(log - top) / sum, mu: mean, sd: sd * Math.sqrt(1 + 1 / n) }));
}

function posterior(runs: readonly LimitRun[], about: number): Point[] {
  const logs = runs.map((r) => Math.log(middleSec(r)));
  const [from, to] = [Math.min(...logs) - BEYOND, Math.max(...logs) + BEYOND];
  const all: { log: number; mu: number; sd: number }[] = [];
  for (let k = 0; k < NODES; k++) {
    const z = -3 + (6 * k) / (NODES - 1);
    const sd = about * Math.exp(LOG_SPREAD * z);
    const step = Math.min(sd / 3, 0.05);
    for (let mu = from; mu <= to; mu += step)
      all.push({ log: -0.5 * z * z + Math.log(step) + runs.reduce((sum, r) => sum + logLikelihood(r, mu, sd), 0), mu, sd });
  }
  const top = all.reduce((most, p) => Math.max(most, p.log), Number.NEGATIVE_INFINITY);
  const kept = all.filter((p) => p.log > top - DROP).map(({ log, mu, sd }) => ({ weight: Math.exp(log - top), mu, sd }));
  const sum = kept.reduce((s, p) => s + p.weight, 0);
  return kept.map((p) => ({ ...p, weight: p.weight / sum }));
}
const DROP = 16;

function logLikelihood(run: LimitRun, mu: number, sd: number): number {
  if (run.kind === "interval") return logBetween(normal, (Math.log(run.loSec) - mu) / sd, (Math.log(run.hiSec) - mu) / sd);
  const w = (Math.log(run.sec) - mu) / sd;
  return run.kind === "exact" ? normal.logDensity(w) - Math.log(sd) : normal.logSurvival(w);
}

/** Log standard deviation of a lognormal between its tenth and ninetieth percentile. */
export const sdBetween = (loSec: number, hiSec: number): number => Math.log(hiSec / loSec) / (2 * normalQuantile(0.9));
