// Stops between two settings: on less off, one stance less another, one tester less another. Never from labels, never a point without two ends.

import { DAY_SCATTER, GAIN_SCATTER, SLOPE, STEPS } from "./assumptions.ts";
import type { Sides } from "./cuts.ts";
import { cutAt, quantileAt } from "./cuts.ts";
import type { HoldRefusal, Ladder } from "./ladder.ts";
import { refusalOf } from "./ladder.ts";
import { profileOf } from "./oneSession.ts";
import { kernelOf, spread } from "./scattered.ts";
import { add, poolSessions, SESSIONS_FOR_NEW } from "./sessions.ts";
import type { HoldSettings } from "./settings.ts";
import { intervalZ } from "./settings.ts";
import type { Surface, ThresholdGrid } from "./surface.ts";
import { priorAt, surfaceOf, thresholdAt, thresholdGrid } from "./surface.ts";

export type Gain =
  | ({ ok: true /** Null where a side has no limit, and for several sessions. */; point: number | null } & Sides)
  | { ok: false; reason: HoldRefusal | "too-few-sessions" };

/** Why a ladder says nothing of a difference; all lost still bounds it. */
const useless = (ladder: Ladder): HoldRefusal | null => {
  const refusal = refusalOf(ladder);
  return refusal === "none-kept" ? null : refusal;
};
const refusalAmong = (ladders: readonly Ladder[]): HoldRefusal | null => ladders.map(useless).find((r) => r !== null) ?? null;

/** Of one session in which both were shot. @param settings `adaptive` where either ladder is */
export function gainInSession(on: Ladder, off: Ladder, settings: HoldSettings): Gain {
  const reason = refusalAmong([on, off]);
  if (reason !== null) return { ok: false, reason };
  const [a, b] = [surfaceOf(on, settings.share), surfaceOf(off, settings.share)];
  const [qa, qb] = [profileOf(a), profileOf(b)];
  const z = intervalZ(settings);
  const from = differenceFrom(a.grid, b.grid);
  const profile = differences(qa, qb, Math.max);
  const { low, high } = limited(cutAt(profile, from, z), cutAt(qa, a.grid.from, z), cutAt(qb, b.grid.from, z));
  const best = profile.indexOf(profile.reduce((m, v) => Math.max(m, v), 0));
  return { ok: true, low, high, point: low === null || high === null ? null : from + best / STEPS };
}

/** A difference has no limit where the one that sets it has none. */
const limited = (d: Sides, on: Sides, off: Sides): Sides => ({
  low: on.low === null || off.high === null ? null : d.low,
  high: on.high === null || off.low === null ? null : d.high,
});
const differenceFrom = (on: ThresholdGrid, off: ThresholdGrid): number => on.from - off.from - (off.length - 1) / STEPS;

/** Over all pairs with one difference: the largest product, or their sum. */
function differences(on: Float64Array, off: Float64Array, join: (a: number, b: number) => number): Float64Array {
  const d = new Float64Array(on.length + off.length - 1);
  for (const [i, a] of on.entries())
    if (a > 0)
      for (const [j, b] of off.entries()) {
        const k = i - j + off.length - 1;
        d[k] = join(d[k] as number, a * b);
      }
  return d;
}
const plus = (a: number, b: number): number => a + b;

export interface PairedSession {
  on: Ladder;
  off: Ladder;
}
/** Mean of these hands over sessions in each of which both were shot: the day's form cancels. One session is read by itself. */
export function gainOverSessions(pairs: readonly PairedSession[], settings: HoldSettings): Gain {
  const [only] = pairs;
  if (pairs.length === 1 && only !== undefined) return gainInSession(only.on, only.off, settings);
  const reason = pairs.length === 0 ? "no-shots" : refusalAmong(pairs.flatMap((p) => [p.on, p.off]));
  if (reason !== null) return { ok: false, reason };
  const [onGrid, offGrid] = [thresholdGrid(...pairs.map((p) => p.on)), thresholdGrid(...pairs.map((p) => p.off))];
  const z = intervalZ(settings);
  const each = pairs.map(({ on, off }) => {
    const [a, b] = [surfaceOf(on, settings.share, onGrid), surfaceOf(off, settings.share, offGrid)];
    const sides = { on: cutAt(profileOf(a), onGrid.from, z), off: cutAt(profileOf(b), offGrid.from, z) };
    return { d: scaled(differences(believed(a), believed(b), plus)), ...limited(CLOSED, sides.on, sides.off) };
  });
  const sum = new Float64Array(onGrid.length + offGrid.length - 1);
  for (const scatter of GAIN_SCATTER) {
    const kernel = kernelOf(scatter.value);
    const all = new Float64Array(sum.length).fill(scatter.weight);
    for (const { d } of each) for (const [k, v] of spread(d, kernel).entries()) all[k] = (all[k] as number) * v;
    add(sum, all);
  }
  const from = differenceFrom(onGrid, offGrid);
  const open = { low: each.every((e) => e.low === null), high: each.every((e) => e.high === null) };
  return ends(sum, from, settings.confidence, open);
}
const CLOSED: Sides = { low: 0, high: 0 };

/** What is believed of a session's threshold, slope averaged. */
function believed({ bySlope, grid }: Surface): Float64Array {
  const sum = new Float64Array(grid.length);
  for (const [i, row] of bySlope.entries())
    add(
      sum,
      row.map((v) => v * (SLOPE[i]?.weight ?? 0)),
    );
  return sum.map((v, j) => v * priorAt(thresholdAt(grid, j), grid.slowest));
}
const scaled = (values: Float64Array): Float64Array => {
  const most = values.reduce((m, v) => Math.max(m, v), 0);
  return values.map((v) => v / most);
};
function ends(weights: Float64Array, from: number, confidence: number, open: { low: boolean; high: boolean }): Gain {
  const tail = (1 - confidence) / 2;
  return {
    ok: true,
    point: null,
    low: open.low ? null : quantileAt(weights, from, tail),
    high: open.high ? null : quantileAt(weights, from, 1 - tail),
  };
}

/** Two settings, or two testers, never shot in one session: the day is in the difference. Not proven by simulation. */
export function gainUnpaired(on: readonly Ladder[], off: readonly Ladder[], settings: HoldSettings): Gain {
  const reason = on.length === 0 || off.length === 0 ? "no-shots" : refusalAmong([...on, ...off]);
  if (reason !== null) return { ok: false, reason };
  const [oneOn, oneOff] = [on[0], off[0]];
  if (on.length === 1 && off.length === 1 && oneOn !== undefined && oneOff !== undefined)
    return widened(gainInSession(oneOn, oneOff, settings));
  if (on.length < SESSIONS_FOR_NEW || off.length < SESSIONS_FOR_NEW) return { ok: false, reason: "too-few-sessions" };
  const [a, b] = [poolSessions(on, settings.share), poolSessions(off, settings.share)];
  const open = { low: a.open.low || b.open.high, high: a.open.high || b.open.low };
  return ends(differences(a.mean, b.mean, plus), differenceFrom(a.grid, b.grid), settings.confidence, open);
}

/** Two sessions' days are in it: each end goes out about the middle. An end alone goes out by what the days can do. */
function widened(gain: Gain): Gain {
  if (!gain.ok) return gain;
  const days = 1.645 * Math.SQRT2 * DAY_SCATTER;
  const { low, high } = gain;
  if (low === null || high === null)
    return { ...gain, point: null, low: low === null ? null : low - days, high: high === null ? null : high + days };
  const [middle, half] = [(low + high) / 2, Math.hypot((high - low) / 2, days)];
  return { ...gain, low: middle - half, high: middle + half };
}
