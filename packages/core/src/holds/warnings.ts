// What would spoil a test as it is planned, told before the first shot.

import type { ToSet } from "../exposure/index.ts";
import { equalExposure, flickerStops, SEEN_STOPS } from "../exposure/index.ts";
import type { HoldPlan } from "./plan.ts";
import { plannedVisits } from "./plan.ts";

export interface PlanWarnings {
  /** Times at which the picture cannot be kept as bright, with how far off it is, faster first. */
  unequal: readonly { x: number; tooBright: number }[];
  /** Times at which these lamps make one picture brighter than the next, by how many stops at worst. */
  flicker: readonly { x: number; stops: number }[];
  /** Times of a minute and more. */
  minutes: readonly number[];
  /** Seconds the shutter alone is open, all shots. */
  openSec: number;
}

/** What to set at one time; null where nothing was metered. */
export function setAt({ metered, brightness }: Pick<HoldPlan, "metered" | "brightness">, x: number): ToSet | null {
  if (metered === null) return null;
  return brightness === "equal"
    ? equalExposure(metered, x)
    : { iso: metered.iso, fNumber: metered.fNumber, filters: [], tooBright: x - metered.x };
}

const FLICKER_SEEN = 0.1;
const MINUTE = Math.log2(60) - 0.1;

export function planWarnings(plan: HoldPlan): PlanWarnings {
  const visits = plannedVisits(plan);
  const xs = [...new Set(visits.map((v) => v.x))].sort((a, b) => a - b);
  const mains = plan.light === "lamps, 50 Hz" ? 50 : plan.light === "lamps, 60 Hz" ? 60 : null;
  return {
    unequal:
      plan.brightness === "fixed"
        ? []
        : xs.flatMap((x) => {
            const off = setAt(plan, x)?.tooBright ?? 0;
            return Math.abs(off) > SEEN_STOPS ? [{ x, tooBright: off }] : [];
          }),
    flicker: mains === null ? [] : xs.map((x) => ({ x, stops: flickerStops(2 ** x, mains) })).filter((f) => f.stops > FLICKER_SEEN),
    minutes: xs.filter((x) => x >= MINUTE),
    openSec: visits.reduce((sum, v) => sum + 2 ** v.x, 0) * plan.shotsEach,
  };
}
