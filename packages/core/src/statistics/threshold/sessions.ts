// Several sessions of one setting: their thresholds scatter, and from three on the claim speaks for new sessions of these hands.

import { SESSION_SCATTER, SLOPE } from "./assumptions.ts";
import { quantileAt } from "./cuts.ts";
import type { Ladder } from "./ladder.ts";
import { isRising, refusalOf, withoutLoneSuccess } from "./ladder.ts";
import type { HoldClaim } from "./oneSession.ts";
import { nothing, sessionClaim, settled } from "./oneSession.ts";
import { kernelOf, scattered, spread } from "./scattered.ts";
import type { HoldSettings } from "./settings.ts";
import type { Surface, ThresholdGrid } from "./surface.ts";
import { priorAt, surfaceOf, thresholdAt, thresholdGrid } from "./surface.ts";

/** From so many on a claim speaks for sessions not yet shot. */
export const SESSIONS_FOR_NEW = 3;
/** -z²/2 of a two-sided 90 %: a side on which the likelihood never falls so far has no limit. */
const OPEN = Math.exp(-1.3527);
/** Share of what could be wrong that the claim's quantile takes: 8 % where 10 % is asked, found by simulation. */
const CLAIM_TAIL = 0.8;

export interface PooledSessions {
  grid: ThresholdGrid;
  /** What is believed of the mean threshold, and of a new session's by slope. */
  mean: Float64Array;
  fresh: readonly Float64Array[];
  open: { low: boolean; high: boolean };
}

export function poolSessions(ladders: readonly Ladder[], share: number, grid: ThresholdGrid = thresholdGrid(...ladders)): PooledSessions {
  const surfaces = ladders.map((l) => surfaceOf(l, share, grid));
  return pooled(surfaces, grid);
}

function pooled(surfaces: readonly Surface[], grid: ThresholdGrid): PooledSessions {
  const prior = Float64Array.from({ length: grid.length }, (_, j) => priorAt(thresholdAt(grid, j), grid.slowest));
  const most = surfaces.map((s) => s.bySlope.reduce((m, row) => row.reduce((a, b) => Math.max(a, b), m), 0));
  const [mean, bare] = [new Float64Array(grid.length), new Float64Array(grid.length)];
  const fresh = SLOPE.map(() => new Float64Array(grid.length));
  for (const scatter of SESSION_SCATTER) {
    const kernel = kernelOf(scatter.value);
    for (const [i, slope] of SLOPE.entries()) {
      const all = new Float64Array(grid.length).fill(slope.weight * scatter.weight);
      for (const [s, surface] of surfaces.entries()) {
        const one = spread(surface.bySlope[i] as Float64Array, kernel);
        for (let j = 0; j < grid.length; j++) all[j] = ((all[j] as number) * (one[j] as number)) / (most[s] as number);
      }
      add(bare, all);
      const believed = all.map((v, j) => v * (prior[j] as number));
      add(mean, believed);
      add(fresh[i] as Float64Array, scattered(believed, kernel));
    }
  }
  const top = bare.reduce((a, b) => Math.max(a, b), 0);
  return { grid, mean, fresh, open: { low: (bare[0] as number) >= OPEN * top, high: (bare.at(-1) as number) >= OPEN * top } };
}

export function add(to: Float64Array, more: ArrayLike<number>): void {
  for (let j = 0; j < to.length; j++) to[j] = (to[j] as number) + (more[j] as number);
}

/** One session is read by itself. */
export function sessionsClaim(ladders: readonly Ladder[], settings: HoldSettings): HoldClaim {
  const [only] = ladders;
  if (ladders.length === 1 && only !== undefined) return sessionClaim(only, settings);
  const refusal = refusalOf(ladders.flat());
  const rising = ladders.filter(isRising).length >= 2;
  if (refusal !== null && refusal !== "rising" && refusal !== "none-kept") return nothing(refusal, ladders.length);
  if (rising) return nothing("rising", ladders.length);
  const grid = thresholdGrid(...ladders);
  const pool = poolSessions(ladders, settings.share, grid);
  const told = readPool(pool, settings);
  const base = { interval: told.interval, mean: told.mean, sessions: ladders.length };
  if (refusal === "none-kept") return { ...base, reason: refusal, claim: null, flags: [], lone: [] };
  const lone = ladders.map(withoutLoneSuccess);
  const without = ladders.map((l, s) => lone[s]?.ladder ?? l).filter((l) => l.length > 0);
  const claim = lone.every((l) => l === null)
    ? told.claim
    : Math.min(told.claim, readPool(poolSessions(without, settings.share, grid), settings).claim);
  return { ...base, ...settled(claim, told.interval.high, grid, [...new Set(lone.flatMap((l) => (l === null ? [] : [l.x])))]) };
}

function readPool({ grid, mean, fresh, open }: PooledSessions, { confidence }: HoldSettings) {
  const next = new Float64Array(grid.length);
  for (const row of fresh) add(next, row);
  const tail = (1 - confidence) / 2;
  const sides = (of: Float64Array) => ({
    low: open.low ? null : quantileAt(of, grid.from, tail),
    high: open.high ? null : quantileAt(of, grid.from, 1 - tail),
  });
  return { claim: quantileAt(next, grid.from, CLAIM_TAIL * (1 - confidence)), interval: sides(next), mean: sides(mean) };
}
