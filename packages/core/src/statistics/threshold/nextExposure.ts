// Which exposure to shoot next, so that the threshold becomes known soonest.

import { STEPS } from "./assumptions.ts";
import { cutAt } from "./cuts.ts";
import type { Belief } from "./keepRate.ts";
import { beliefFrom } from "./keepRate.ts";
import type { Ladder, Visit } from "./ladder.ts";
import { countOf, fastestOf, SAME_RUNG, slowestOf } from "./ladder.ts";
import { profileOf } from "./oneSession.ts";
import type { HoldSettings } from "./settings.ts";
import { intervalZ } from "./settings.ts";
import { keepCurve, surfaceOf } from "./surface.ts";

const NARROW_STOPS = 0.7;
const MOST_SHOTS = 60;

export type NextExposure =
  | { done: true; why: "narrow-enough" | "shots-enough" }
  | { done: false; x: number; why: "ascent" | "faster" | "narrows" };

export interface NextSettings extends HoldSettings {
  /** Where the ladder begins, log2 of seconds, on the series. */
  start: number;
}

/** Visits of two shots in the order they were shot. */
export function nextExposure(visits: Ladder, settings: NextSettings): NextExposure {
  const { shots } = countOf(visits);
  if (shots === 0) return { done: false, x: settings.start, why: "ascent" };
  if (shots >= MOST_SHOTS) return { done: true, why: "shots-enough" };
  if (!visits.some(allKept)) return { done: false, x: fastestOf(visits) - 2, why: "faster" };
  const upwards = ascentFrom(visits);
  if (upwards !== null) return { done: false, x: upwards, why: "ascent" };
  const surface = surfaceOf(visits, settings.share);
  const { low, high } = cutAt(profileOf(surface), surface.grid.from, intervalZ({ ...settings, adaptive: true }));
  if (low !== null && high !== null && high - low < NARROW_STOPS) return { done: true, why: "narrow-enough" };
  return { done: false, x: narrowing(visits, beliefFrom(surface)), why: "narrows" };
}

const allKept = (v: Visit): boolean => v.shots > 0 && v.kept === v.shots;

/** One whole stop slower while everything since the start was kept and nothing was lost there; null once the ascent has ended. */
function ascentFrom(visits: Ladder): number | null {
  const begun = visits.findIndex(allKept);
  const climb = visits.slice(begun);
  const slowest = slowestOf(climb);
  const lostBefore = visits.slice(0, begun).some((v) => v.x <= slowest + 1 + SAME_RUNG);
  return climb.every(allKept) && !lostBefore ? slowest + 1 : null;
}

/** Third stops from one faster than the fastest to one slower than the slowest; never one where two or more were shot and all kept. */
function narrowing(visits: Ladder, belief: Belief): number {
  const { grid } = belief;
  const thirds = Math.round((grid.slowest - grid.fastest + 2) * 3);
  const places = Array.from({ length: thirds + 1 }, (_, k) => grid.fastest - 1 + k / 3);
  const gains = expectedGains(belief, grid.fastest - 1, thirds + 1);
  let best: { x: number; gain: number } | null = null;
  for (const [k, x] of places.entries()) {
    const here = countOf(visits.filter((v) => Math.abs(v.x - x) < SAME_RUNG));
    if (here.shots >= 2 && here.kept === here.shots) continue;
    const gain = gains[k] as number;
    // Ties go to the faster.
    if (best === null || gain > best.gain + 1e-15) best = { x, gain };
  }
  return best?.x ?? grid.fastest - 1;
}

const PER_THIRD = STEPS / 3;
/** Expected fall of the threshold's variance by one shot, at exposures a third of a stop apart from `from`. */
function expectedGains({ grid, share, cells }: Belief, from: number, count: number): Float64Array {
  let [total, sum] = [0, 0];
  for (const { weights } of cells)
    for (let j = 0; j < grid.length; j++) {
      total += weights[j] as number;
      sum += (weights[j] as number) * j;
    }
  const centre = sum / total;
  const [p1, q1] = [new Float64Array(count), new Float64Array(count)];
  for (const { slope, lapse, weights } of cells) {
    // All exposures lie alike on the grid: one curve, laid at another place for each.
    const curve = keepCurve(from + (PER_THIRD * (count - 1)) / STEPS, slope, lapse, share, {
      ...grid,
      length: grid.length + PER_THIRD * (count - 1),
    });
    for (let k = 0; k < count; k++) {
      const shift = PER_THIRD * (count - 1 - k);
      for (let j = 0; j < grid.length; j++) {
        const mass = ((weights[j] as number) / total) * (curve[j + shift] as number);
        p1[k] = (p1[k] as number) + mass;
        q1[k] = (q1[k] as number) + (mass * (j - centre)) / STEPS;
      }
    }
  }
  return p1.map((p, k) => (q1[k] as number) ** 2 / p + (q1[k] as number) ** 2 / (1 - p));
}
