// Batteries against watts. Watts come from the unit's own earlier runs: a battery that ran empty, or its reading before and after.
// Claims use the hungriest run; times are rounded down, counts up.

import type { RunFold } from "../runs/index.ts";
import { recordedAt } from "../runs/index.ts";

const HOUR_MS = 3_600_000;

/** Milliseconds one charge lasts, whole seconds down. 17 Wh at 6.8 W: 2 h 30 min. */
export function msPerCharge(wh: number, watts: number): number {
  if (!(wh > 0)) throw new RangeError(`wh must be positive, got ${wh}`);
  if (!(watts > 0)) throw new RangeError(`watts must be positive, got ${watts}`);
  return Math.floor((wh / watts) * 3600 + 1e-9) * 1000;
}

/** Batteries for `ms` of recording, at least one. */
export const batteriesFor = (ms: number, wh: number, watts: number): number => Math.max(1, Math.ceil(ms / msPerCharge(wh, watts) - 1e-9));

/** A drop of fewer points than this says too little: the shown per cent may be off by a few. */
const LEAST_DROP_PCT = 15;

/**
 * Mean watts of one run from `wh` of battery, or null when it says nothing: it ran on mains, a battery was swapped, or the drop was too
 * small. An empty battery uses the whole charge; else first and last battery reading of the recorded time.
 */
export function wattsOf(fold: RunFold, wh: number): number | null {
  if (fold.setup === null || fold.state !== "ended" || fold.setup.condition.power !== "internal") return null;
  if (fold.gaps.some((g) => g.cause === "battery swap" || g.power === "off")) return null;
  const read = fold.readings.flatMap((r) => (r.body.batteryPct === undefined ? [] : [{ atMs: r.atMs, pct: r.body.batteryPct }]));
  const first = read[0];
  const emptyAtMs = fold.end?.cause === "battery empty" ? fold.end.loMs : null;
  const last = emptyAtMs === null ? read.at(-1) : { atMs: emptyAtMs, pct: 0 };
  const from = first ?? (emptyAtMs !== null && fold.startMs !== null ? { atMs: fold.startMs, pct: 100 } : undefined);
  if (from === undefined || last === undefined || from.pct - last.pct < LEAST_DROP_PCT) return null;
  const recordedMs = recordedAt(fold, last.atMs) - recordedAt(fold, from.atMs);
  return recordedMs <= 0 ? null : ((from.pct - last.pct) / 100) * (wh / (recordedMs / HOUR_MS));
}
