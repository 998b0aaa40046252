// The dependable exposure time of one setting in one session: slope maximised, lapse and dependence averaged (hold-threshold, see docs/methods).

import { SLOPE } from "./assumptions.ts";
import type { Sides } from "./cuts.ts";
import { cutAt } from "./cuts.ts";
import type { HoldRefusal, Ladder } from "./ladder.ts";
import { refusalOf, withoutLoneSuccess } from "./ladder.ts";
import type { HoldSettings } from "./settings.ts";
import { claimZ, intervalZ } from "./settings.ts";
import type { Surface, ThresholdGrid } from "./surface.ts";
import { surfaceOf } from "./surface.ts";

export const HOLD_FLAGS = ["lone-success-not-counted", "at-least", "faster-than-any-shot"] as const;
export type HoldFlag = (typeof HOLD_FLAGS)[number];

export interface HoldClaim {
  reason: HoldRefusal | null;
  /** log2 of seconds; null exactly when there is a reason. */
  claim: number | null;
  /** Two-sided, of the session's threshold or of a new session's; null where nothing can be said. A null side has no limit. */
  interval: Sides | null;
  /** Of these hands' mean threshold; null for one session. */
  mean: Sides | null;
  flags: readonly HoldFlag[];
  /** Exposures whose single keeper was not counted. */
  lone: readonly number[];
  sessions: number;
}

/** Largest over the slopes, by threshold. */
export function profileOf({ bySlope, grid }: Surface): Float64Array {
  const most = new Float64Array(grid.length);
  for (const [i, row] of bySlope.entries())
    for (let j = 0; j < grid.length; j++) most[j] = Math.max(most[j] as number, (SLOPE[i]?.weight ?? 0) * (row[j] as number));
  return most;
}

export const nothing = (reason: HoldRefusal, sessions: number): HoldClaim => ({
  reason,
  claim: null,
  interval: null,
  mean: null,
  flags: [],
  lone: [],
  sessions,
});

export function sessionClaim(ladder: Ladder, settings: HoldSettings): HoldClaim {
  const refusal = refusalOf(ladder);
  if (refusal !== null && refusal !== "none-kept") return nothing(refusal, 1);
  const surface = surfaceOf(ladder, settings.share);
  const profile = profileOf(surface);
  const { from } = surface.grid;
  const interval = cutAt(profile, from, intervalZ(settings));
  const base = { interval, mean: null, sessions: 1 };
  if (refusal !== null) return { ...base, reason: refusal, claim: null, flags: [], lone: [] };
  const low = cutAt(profile, from, claimZ(settings)).low;
  const lone = withoutLoneSuccess(ladder);
  const lowWithout =
    lone === null ? low : lowOf(surfaceOf(lone.ladder.length === 0 ? ladder : lone.ladder, settings.share, surface.grid), claimZ(settings));
  return { ...base, ...settled(slowestAllowed(low, lowWithout), interval.high, surface.grid, lone === null ? [] : [lone.x]) };
}
const lowOf = (surface: Surface, z: number): number | null => cutAt(profileOf(surface), surface.grid.from, z).low;
/** A side without a limit is faster than any. */
const slowestAllowed = (a: number | null, b: number | null): number =>
  Math.min(a ?? Number.NEGATIVE_INFINITY, b ?? Number.NEGATIVE_INFINITY);

/** Capped at the slowest exposure shot, refused where the ladder starts too slow, flagged where it is more, or less, than was shot. */
export function settled(
  claim: number,
  high: number | null,
  grid: ThresholdGrid,
  lone: readonly number[],
): Pick<HoldClaim, "reason" | "claim" | "flags" | "lone"> {
  const capped = Math.min(claim, grid.slowest);
  if (capped < grid.fastest - 1) return { reason: "ladder-starts-too-slow", claim: null, flags: [], lone };
  const flags: HoldFlag[] = [
    ...(lone.length > 0 ? (["lone-success-not-counted"] as const) : []),
    ...(claim > grid.slowest || high === null ? (["at-least"] as const) : []),
    ...(capped < grid.fastest ? (["faster-than-any-shot"] as const) : []),
  ];
  return { reason: null, claim: capped, flags, lone };
}
