// Laying takes on each other: by the first footfall, or by their counted beginnings, then by hand; and at which share of its width each is
// shown, so that all show the field of the narrowest.

import { fieldLeft } from "@keep-rolling/core/walks";
import type { TakeRead } from "../../../workers/jobs/readTakes.ts";
import type { Span } from "./player.ts";

export type LaidBy = "footfall" | "start" | "sound";
export interface LaidTake {
  /** Moment of its own clip, s, that is the shared time's zero. */
  zeroSec: number;
  by: LaidBy;
}

/**
 * By footfalls only where every take has one: otherwise some would be laid by another rule than the rest. By sound two takes of one walk, of which
 * the second's clip begins `lagSec` later.
 */
export function laid(reads: readonly TakeRead[], wanted: LaidBy, nudgesSec: readonly number[], lagSec: number | null = null): LaidTake[] {
  if (wanted === "sound" && lagSec !== null) {
    const [first] = reads;
    const zero = first?.whole.timesSec[first.inFrame] ?? 0;
    return reads.map((_, i) => ({ by: "sound", zeroSec: zero - (i === 0 ? 0 : lagSec) + (nudgesSec[i] ?? 0) }));
  }
  const by: LaidBy = wanted !== "start" && reads.every((r) => r.footfallsSec.length > 0) ? "footfall" : "start";
  return reads.map((r, i) => ({
    by,
    zeroSec: (by === "footfall" ? (r.footfallsSec[0] ?? 0) : (r.whole.timesSec[r.inFrame] ?? 0)) + (nudgesSec[i] ?? 0),
  }));
}

/** The time all takes have in common, counted parts only; null when they share none. `timesSec`: frames of the first picture, its own time. */
export function spanOf(reads: readonly TakeRead[], takes: readonly LaidTake[], timesSec: readonly number[]): Span | null {
  const ends = reads.map((r, i) => {
    const zero = takes[i]?.zeroSec ?? 0;
    const at = (frame: number): number => (r.whole.timesSec[Math.min(frame, r.whole.timesSec.length - 1)] ?? 0) - zero;
    return { from: at(r.inFrame), to: at(r.outFrame - 1) };
  });
  const [fromSec, toSec] = [Math.max(...ends.map((e) => e.from)), Math.min(...ends.map((e) => e.to))];
  const zero = takes[0]?.zeroSec ?? 0;
  const own = timesSec.map((t) => t - zero).filter((t) => t >= fromSec - 1e-6 && t <= toSec + 1e-6);
  return own.length < 2 ? null : { fromSec: own[0] ?? fromSec, toSec, timesSec: own };
}

export interface Field {
  /** Share of its own width that is shown. */
  shown: number;
  note: string;
}
/** By crop factors against the control; where one is not known, or `match` is off, nothing is cut. Shares of the field kept. */
export function fields(cropFactors: readonly (number | null)[], match: boolean): Field[] {
  if (!match) return cropFactors.map(() => ({ shown: 1, note: "its own field" }));
  if (cropFactors.some((c) => c === null)) return cropFactors.map(() => ({ shown: 1, note: "field not known: nothing cut" }));
  const kept = cropFactors.map((c) => fieldLeft(c ?? 1));
  const least = Math.min(...kept);
  return kept.map((k) => {
    const shown = least / k;
    return shown > 0.995
      ? { shown: 1, note: "the narrowest field: nothing cut" }
      : { shown, note: `cut to ${Math.round(100 * shown)} % of its width` };
  });
}

const PATH_SEC = 1.5;
/** The measured way of the last second and a half before `sec` of the clip. */
export function pathBefore({ whole }: TakeRead, sec: number): { x: number; y: number }[] {
  return whole.timesSec.flatMap((t, i) => (t <= sec + 1e-6 && t >= sec - PATH_SEC ? [{ x: whole.x[i] ?? 0, y: whole.y[i] ?? 0 }] : []));
}
