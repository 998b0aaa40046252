// A run that heat did not end: had it levelled off below shutdown, or was it still climbing? A gauge shows whole steps, so what is known is between which
// readings each boundary was crossed. All rises that fit are weighed: plateau, start, time constant and a slow part. Worked out and simulated for this
// project; docs/methods/levelling.md.

import { normalCdf } from "../statistics/index.ts";
import type { Rise, Seen } from "./rises.ts";
import { boundariesOf, distanceOutside, END_SD, END_STEP, levelAt, PLATEAU_STEP, timeAt, weighedRises } from "./rises.ts";
import { tellsAfter } from "./tellsAfter.ts";

export const SHUTDOWN_STEP = END_STEP;
/** Without recoveries the slow time constant is taken to lie here, minutes. */
export const TAU_UNKNOWN_MIN = { lo: 15, hi: 60 };
const SURE = 0.9;
const SHORTEST_TAUS = 0.96;
const LEAST_READINGS = 3;
const [MISFIT_MOST, DISTANCE_MOST] = [2, 2.5];

export interface LevellingQuestion {
  /** Whole steps as read, in order; seconds since the start. */
  readings: readonly { sec: number; step: number }[];
  /** It was still recording then. */
  endSec: number;
  /** 90 % range of the slow time constant, minutes. */
  tauMin: { lo: number; hi: number };
  /** Fan, sun, screen, power or place changed while it ran. */
  changed: boolean;
}
export type Levelling =
  | { ok: true; verdict: "levels off"; levelsOff: number; upper: number }
  /** Eight of ten shutdowns come within the range, if nothing changes. */
  | { ok: true; verdict: "still climbing"; levelsOff: number; upper: number; rangeSec: { lo: number; hi: number } }
  | { ok: true; verdict: "cannot tell"; levelsOff: number; upper: number; tells: { afterMin: number; mostly: boolean } | null }
  | { ok: false; reason: LevellingRefusal };
export const LEVELLING_REFUSALS = [
  "surroundings-changed",
  "too-few-readings",
  "too-short",
  "gauge-fell",
  "not-one-rise",
  "shutdown-level-not-known",
] as const;
export type LevellingRefusal = (typeof LEVELLING_REFUSALS)[number];

export function levelling(q: LevellingQuestion): Levelling {
  const { tauMin, endSec } = q;
  if (!(tauMin.lo > 0 && tauMin.hi >= tauMin.lo)) throw new RangeError(`tauMin must be a range, got ${tauMin.lo} to ${tauMin.hi}`);
  const tau0Sec = 60 * Math.sqrt(tauMin.lo * tauMin.hi);
  const cutSec = Math.max(8 * 60, 0.3 * tau0Sec);
  const readings = q.readings.filter((r) => r.sec <= endSec).sort((a, b) => a.sec - b.sec);
  if (q.changed) return { ok: false, reason: "surroundings-changed" };
  if (readings.filter((r) => r.sec >= cutSec).length < LEAST_READINGS) return { ok: false, reason: "too-few-readings" };
  if (endSec < SHORTEST_TAUS * tauMin.lo * 60) return { ok: false, reason: "too-short" };
  if (fell(readings.filter((r) => r.sec >= cutSec))) return { ok: false, reason: "gauge-fell" };
  const seen = boundariesOf(readings, cutSec, endSec);
  const { rises, best } = weighedRises(seen, tauMin);
  // No rise at all passes between these readings.
  if (rises.length === 0) return { ok: false, reason: "not-one-rise" };
  if (misfit(seen, best)) return { ok: false, reason: "not-one-rise" };
  const levelsOff = rises.reduce((sum, r) => sum + r.weight * normalCdf((SHUTDOWN_STEP - r.plateau) / END_SD), 0);
  const said = { ok: true as const, levelsOff, upper: upperOf(rises) };
  if (levelsOff >= SURE) return { ...said, verdict: "levels off" };
  if (1 - levelsOff >= SURE) return { ...said, verdict: "still climbing", rangeSec: rangeOf(rises, endSec) };
  return { ...said, verdict: "cannot tell", tells: tellsAfter(rises, seen, intervalOf(readings)) };
}

/** A step down that is back within two readings is flicker. */
function fell(readings: readonly { step: number }[]): boolean {
  let highest = 0;
  return readings.some(({ step }, i) => {
    const drop = highest - step;
    highest = Math.max(highest, step);
    if (drop <= 0) return false;
    return drop > 1 || !readings.slice(i + 1, i + 3).some((next) => next.step >= highest);
  });
}

/** Even the best rise does not pass between the readings: something changed. */
function misfit(seen: Seen, best: Rise): boolean {
  const distances = distanceOutside(seen, best);
  return distances.some((d) => d > DISTANCE_MOST) || distances.reduce((sum, d) => sum + d * d, best.z * best.z) > MISFIT_MOST;
}

/** Ninth tenth of the plateau, linear within the bins of the grid. */
function upperOf(rises: readonly Rise[]): number {
  const bins = new Map<number, number>();
  for (const r of rises) bins.set(r.plateau, (bins.get(r.plateau) ?? 0) + r.weight);
  let below = 0;
  for (const [plateau, weight] of [...bins].sort((a, b) => a[0] - b[0])) {
    if (below + weight >= SURE) return plateau + PLATEAU_STEP * ((SURE - below) / weight - 0.5);
    below += weight;
  }
  return Number.POSITIVE_INFINITY;
}
/** Three levels of shutdown stand for its normal law. */
const LEVELS = [
  [SHUTDOWN_STEP, 0.408],
  [SHUTDOWN_STEP - 1.2247 * END_SD, 0.296],
  [SHUTDOWN_STEP + 1.2247 * END_SD, 0.296],
] as const;

function rangeOf(rises: readonly Rise[], endSec: number): { lo: number; hi: number } {
  const times = rises.flatMap((r) =>
    LEVELS.flatMap(([level, share]) => {
      if (r.plateau <= level || levelAt(r, endSec) >= level) return [];
      return [{ sec: timeAt(r, level, endSec), weight: r.weight * share }];
    }),
  );
  times.sort((a, b) => a.sec - b.sec);
  const whole = times.reduce((sum, t) => sum + t.weight, 0);
  const at = (p: number): number => {
    let sum = 0;
    for (const t of times) if ((sum += t.weight) >= p * whole) return t.sec;
    return times.at(-1)?.sec ?? endSec;
  };
  return { lo: at(0.1), hi: at(0.9) };
}

/** What the tester's readings were usually apart, seconds. */
function intervalOf(readings: readonly { sec: number }[]): number {
  const gaps = readings.slice(1).map((r, i) => r.sec - (readings[i]?.sec ?? 0));
  return gaps.sort((a, b) => a - b)[gaps.length >> 1] ?? 300;
}
