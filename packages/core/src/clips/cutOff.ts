// A last file that was cut off cannot be read, but it bounds the end: its size over the bitrate of its siblings, and the time it was last
// written, set by what the siblings' times say of their own ends. Both with their error; claims use the early bound.

import type { Placed } from "./arrange.ts";
import { isReadable } from "./clip.ts";

export interface CutOffBound {
  /** Where the cut-off file is taken to begin. */
  fromMs: number;
  /** The end lies here, camera time. */
  loMs: number;
  hiMs: number;
  by: ("size" | "last written")[];
}
export type CutOff = ({ ok: true } & CutOffBound) | { ok: false; reason: "nothing-cut-off" | "no-siblings" | "size-and-time-disagree" };

/** With one sibling its own spread is not known: this much either way (ours). */
const ALONE_SHARE = 0.1;
/** File systems keep the time of writing to two seconds. */
const WRITTEN_MS = 2000;
/** Siblings whose times of writing stray further say nothing: the files were copied. */
const STRAY_MS = 5000;

/** `placed`: as arranged, the cut-off clip last. `followsOn`: the clip went on from the one before without a gap; null start otherwise. */
export function boundCutOff(placed: readonly Placed[], startMs: number | null = null): CutOff {
  const last = placed.at(-1);
  if (last === undefined || last.endMs !== null) return { ok: false, reason: "nothing-cut-off" };
  const fromMs = startMs ?? last.startMs;
  const size = bySize(placed, last);
  if (size === null) return { ok: false, reason: "no-siblings" };
  const sized = { loMs: fromMs + size.loMs, hiMs: fromMs + size.hiMs };
  const written = byTimeWritten(placed, last);
  if (written === null) return { ok: true, fromMs, ...sized, by: ["size"] };
  const both = { loMs: Math.max(sized.loMs, written.loMs), hiMs: Math.min(sized.hiMs, written.hiMs) };
  return both.loMs > both.hiMs
    ? { ok: false, reason: "size-and-time-disagree" }
    : { ok: true, fromMs, ...both, by: ["size", "last written"] };
}

/** Its length in ms, between what the fastest and the slowest sibling would have needed. */
function bySize(placed: readonly Placed[], last: Placed): { loMs: number; hiMs: number } | null {
  const rates = placed.flatMap(({ clip }) => (isReadable(clip) && clip.read.durationMs > 0 ? [clip.bytes / clip.read.durationMs] : []));
  if (rates.length === 0) return null;
  const spread = rates.length === 1 ? ALONE_SHARE : 0;
  const lo = last.clip.bytes / Math.max(...rates) / (1 + spread);
  const hi = last.clip.bytes / Math.min(...rates) / (1 - spread);
  return { loMs: Math.floor(lo), hiMs: Math.ceil(hi) };
}

function byTimeWritten(placed: readonly Placed[], last: Placed): { loMs: number; hiMs: number } | null {
  const lags = placed.flatMap((p) => (p.endMs !== null && p.clip.modifiedMs !== null ? [p.clip.modifiedMs - p.endMs] : []));
  if (lags.length === 0 || last.clip.modifiedMs === null) return null;
  const [lo, hi] = [Math.min(...lags), Math.max(...lags)];
  if (hi - lo > STRAY_MS) return null;
  return { loMs: last.clip.modifiedMs - hi - WRITTEN_MS, hiMs: last.clip.modifiedMs - lo + WRITTEN_MS };
}
