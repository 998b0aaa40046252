// Two clips of one walk by two bodies: when one begins within the other. By loudness first, then by how both go up and down.

import { ENVELOPE_HZ } from "../sound/index.ts";
import { lagCorrelation } from "../statistics/index.ts";

export interface SyncClip {
  /** Loudness, `ENVELOPE_HZ` a second; null without sound. */
  loudness: Float64Array | null;
  /** Height less its slow way, `PATH_HZ` a second; empty where it was not followed. */
  height: Float64Array;
}
export interface Sync {
  /** From the first clip's first frame to the second's; negative: the second began earlier. */
  lagSec: number;
  by: "sound" | "sound, then path" | "path";
  correlation: number;
}

export const PATH_HZ = 100;
const LEAST_SEC = 2;
const MOST_LAG_SEC = 30;
/** Of the shorter clip: over a few steps any two walks are alike. */
const LEAST_SHARE = 0.5;
/** About the lag by sound the path may move it. */
const NEAR_SEC = 0.1;
const LEAST = 0.5;
/** Another lag about as good: nobody can say. Steps look alike, so paths alone must lead clearly. */
const LEAD = 0.1;

/** Null where neither says. */
export function syncOf(a: SyncClip, b: SyncClip): Sync | null {
  const sound = a.loudness === null || b.loudness === null ? null : bestLag(a.loudness, b.loudness, ENVELOPE_HZ, 0, MOST_LAG_SEC);
  if (sound !== null) {
    const near = bestLag(a.height, b.height, PATH_HZ, sound.lagSec, NEAR_SEC);
    return near === null ? { ...sound, by: "sound" } : { lagSec: near.lagSec, correlation: near.correlation, by: "sound, then path" };
  }
  const path = bestLag(a.height, b.height, PATH_HZ, 0, MOST_LAG_SEC);
  return path === null ? null : { ...path, by: "path" };
}

/** Correlation's peak over lags of `b` within `a`, to a part of a sample; null when it is low or another peak stands about as high. */
function bestLag(
  a: Float64Array,
  b: Float64Array,
  hz: number,
  aboutSec: number,
  withinSec: number,
): { lagSec: number; correlation: number } | null {
  const least = Math.max(LEAST_SEC * hz, LEAST_SHARE * Math.min(a.length, b.length));
  const middle = Math.round(aboutSec * hz);
  const reach = Math.round(withinSec * hz);
  const scores = new Map<number, number>();
  for (let lag = middle - reach; lag <= middle + reach; lag++) {
    // Sample i of b lies on sample i + lag of a.
    const [from, to] = [Math.max(0, -lag), Math.min(b.length, a.length - lag)];
    if (to - from >= least) scores.set(lag, lagCorrelation(b, a, from, to, lag));
  }
  let best = Number.NaN;
  for (const [lag, score] of scores) if (Number.isNaN(best) || score > (scores.get(best) as number)) best = lag;
  const top = scores.get(best);
  // A peak at the end of the search is none: the true one lies beyond it.
  if (top === undefined || top < LEAST || Math.abs(best - middle) === reach) return null;
  const elsewhere = Math.max(-1, ...[...scores].flatMap(([lag, score]) => (Math.abs(lag - best) > 0.25 * hz ? [score] : [])));
  if (top - elsewhere < LEAD) return null;
  const [before, after] = [scores.get(best - 1) ?? top, scores.get(best + 1) ?? top];
  const bend = before - 2 * top + after;
  const part = bend < 0 ? (0.5 * (before - after)) / bend : 0;
  return { lagSec: (best + part) / hz, correlation: top };
}
