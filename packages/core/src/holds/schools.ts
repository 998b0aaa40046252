// One setting read as testers read it by hand, beside the dependable time. None of these is an estimate, and none says how sure it is.

import type { HoldShot } from "./shots.ts";

/** The slowest time, log2 of seconds, that each would write down; null: none. */
export interface Schools {
  /** One shot was kept. */
  best: number | null;
  /** The first shot was kept, there and at every faster time. */
  firstTry: number | null;
  /** Kept twice or more. */
  confirmed: number | null;
  /** At least half were kept, there and at every faster time. */
  typical: number | null;
}

/** @param shots judged, of one setting, in the order they were taken */
export function schoolsOf(shots: readonly HoldShot[]): Schools {
  const places = new Map<string, HoldShot[]>();
  for (const s of shots) places.set(s.x.toFixed(4), [...(places.get(s.x.toFixed(4)) ?? []), s]);
  const times = [...places.values()]
    .map((there) => ({
      x: (there[0] as HoldShot).x,
      first: there[0]?.grade === "kept",
      kept: there.filter((s) => s.grade === "kept").length,
      of: there.length,
    }))
    .sort((a, b) => a.x - b.x);
  const slowest = (good: (t: (typeof times)[number]) => boolean): number | null => times.findLast(good)?.x ?? null;
  const unbroken = (good: (t: (typeof times)[number]) => boolean): number | null => {
    const broken = times.findIndex((t) => !good(t));
    return times[(broken < 0 ? times.length : broken) - 1]?.x ?? null;
  };
  return {
    best: slowest((t) => t.kept > 0),
    firstTry: unbroken((t) => t.first),
    confirmed: slowest((t) => t.kept > 1),
    typical: unbroken((t) => 2 * t.kept >= t.of),
  };
}
