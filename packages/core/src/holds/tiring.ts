// Whether the hands tire: kept less often the later a shot comes, at the same exposure.

import type { OrderedVisit } from "../statistics/index.ts";
import { laterIsWorse, orderScore } from "../statistics/index.ts";
import type { Setting } from "./plan.ts";
import { SETTINGS } from "./plan.ts";
import type { HoldShot } from "./shots.ts";
import { visitsOf } from "./shots.ts";

export type Tiring =
  /** "order-is-exposure": slower times came later, so that neither can be told from the other. */
  { ok: true; p: number; tires: boolean } | { ok: false; reason: "order-is-exposure" | "no-curve" };

/** Less is left of the order than this: whatever came later was also slower. */
const LEAST_FREE = 0.25;

/** @param shots judged, in the order they were taken */
export function tiringOf(shots: readonly HoldShot[]): Tiring {
  const scores = SETTINGS.flatMap((s) => orderScore(placed(shots, s)) ?? []);
  if (scores.length === 0) return { ok: false, reason: "no-curve" };
  const free = scores.filter((s) => s.free >= LEAST_FREE);
  if (free.length === 0) return { ok: false, reason: "order-is-exposure" };
  const p = laterIsWorse(free);
  return p === null ? { ok: false, reason: "no-curve" } : { ok: true, p, tires: p <= 0.05 };
}

function placed(shots: readonly HoldShot[], setting: Setting): OrderedVisit[] {
  const visits = visitsOf(shots, setting);
  const own = shots.flatMap((s, i) => (s.setting === setting ? [i] : []));
  let at = 0;
  return visits.map((v) => {
    const places = own.slice(at, at + v.shots);
    at += v.shots;
    return { ...v, place: places.reduce((s, p) => s + p, 0) / v.shots };
  });
}
