import type { ClipSeries } from "./record.ts";

const MOST_LOST = 0.2;

/** At most a fifth of the pairs lost: fewer are bridged, and flagged. */
export function isFollowed({ by }: Pick<ClipSeries, "by">): boolean {
  return by.filter((b) => b === "none" || b === "coarse").length <= MOST_LOST * by.length;
}
