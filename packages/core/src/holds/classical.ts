// The classical logistic curve (Firth) beside the dependable time: for comparison, no claim rests on it. It takes shots for independent, so its
// interval is too narrow where shots of one go are alike.

import type { Ladder } from "../statistics/index.ts";
import { firthThreshold, refusalOfCounts } from "../statistics/index.ts";

export interface Classical {
  /** log2 of seconds at which the share is kept. */
  at: number;
  /** 90 % of its profile; null: no limit on that side. */
  low: number | null;
  high: number | null;
}

/** Null where the curve does not fall, or nothing was kept, lost, or shot at two times. */
export function classicalOf(ladder: Ladder, share: number): Classical | null {
  if (refusalOfCounts(ladder) !== null) return null;
  const { fit, threshold, profile } = firthThreshold(ladder, share, 0.9);
  if (!(fit.slope < 0)) return null;
  const [low, high] = profile.map((end) => (Number.isFinite(end) ? end : null));
  return { at: threshold, low: low ?? null, high: high ?? null };
}
