// What earlier cold runs say about a start that is not cold: the heat that is left takes its share of the time, by the ledger's one body.

import { formatTick } from "../format/index.ts";
import { plateauOf, WARM_SHARE } from "../heat/index.ts";
import type { HeatRange } from "./earlier.ts";

/** Cold time in ms to the time from `heat` (share of the rise to shutdown): t = τ ln((p − h) / (p − 1)), p the level the cold run climbs to. */
export function fromHeat(coldMs: number, heat: number, tauMs: number): number {
  if (!(tauMs > 0)) throw new RangeError(`tauMs must be above zero, got ${tauMs}`);
  if (heat <= 0 || coldMs <= 0) return Math.max(0, coldMs);
  if (heat >= 1) return 0;
  const p = plateauOf(Math.max(1000, coldMs), tauMs);
  return Math.min(coldMs, Math.floor(tauMs * Math.log((p - heat) / (p - 1))));
}

/** The range from a start with heat in the body; as it is where the start counts as cold. What lasted at least so long cold lasts at least its share. */
export function warmed(range: HeatRange, heat: number, tauMs: number): HeatRange {
  if (heat < WARM_SHARE) return range;
  const percent = Math.ceil(100 * Math.min(1, heat) - 1e-9);
  return {
    ...range,
    loMs: fromHeat(range.loMs, heat, tauMs),
    midMs: fromHeat(range.midMs, heat, tauMs),
    hiMs: range.hiMs === null ? null : fromHeat(range.hiMs, heat, tauMs),
    basisWords: `${range.basisWords}, less the ${percent} % of heat that is left`,
  };
}

/** "0:41 to 0:52", "at least 2:10", "0:41, one run": a single run is no range. */
export function rangeText({ loMs, hiMs, by, n }: Pick<HeatRange, "loMs" | "hiMs" | "by" | "n">): string {
  if (hiMs === null) return `at least ${formatTick(loMs)}`;
  if (by === "seen" && n === 1) return `about ${formatTick(loMs)}, one run`;
  return `${formatTick(loMs)} to ${formatTick(hiMs)}`;
}
