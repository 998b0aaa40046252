// The live chance: P(reach t | has lasted s, with this path). The chance to last any time is the dependable limit's own; a run whose gauge climbs faster
// than earlier ones is expected to end sooner, by a slope learnt from them. How well it would have told earlier runs, each left out in turn, stands
// beside it.

import type { Lasting } from "../cells/index.ts";
import type { RunFold } from "../runs/index.ts";
import type { ChanceCurve } from "../statistics/index.ts";
import { chanceAt, timeOfChance as timeOn } from "../statistics/index.ts";
import { pathOf } from "./path.ts";
import type { Path } from "./path.ts";
import type { CellLimits } from "./limit.ts";

/** An earlier run of the cell: ended by heat, seconds; censored ones say too little of the middle to be used here. */
export interface Past {
  runId: string;
  timeSec: number;
  path: Path;
}
export const pastOf = (runs: readonly { runId: string; timeSec: number; event: 0 | 1; fold: RunFold }[]): Past[] =>
  runs.filter((r) => r.event === 1).map((r) => ({ runId: r.runId, timeSec: r.timeSec, path: pathOf(r.fold, "gauge") }));

export interface Outlook {
  curve: ChanceCurve;
  /** Times of the curve are multiplied by this. */
  stretch: number;
  /** This run's steps came so many times as late as the others'; null: the path was not used. */
  pace: number | null;
}
export type OutlookResult = ({ ok: true } & Outlook) | { ok: false; reason: "too-few-runs" };

/** Fewer shutdowns give no per cent. */
const LEAST_PAST = 3;
const LEAST_FOR_PACE = 4;

/** `curve`: the chance to last any time by earlier runs; null: they carry no claim. `sinceSec`: what of the path is known by now. */
export function outlook(curve: ChanceCurve | null, past: readonly Past[], path: Path, sinceSec: number): OutlookResult {
  if (curve === null || past.length < LEAST_PAST) return { ok: false, reason: "too-few-runs" };
  const plain = { ok: true as const, curve, stretch: 1, pace: null };
  if (past.length < LEAST_FOR_PACE) return plain;
  const pace = paceOf(path, past, sinceSec);
  const slope = pace === null ? null : slopeOf(past, sinceSec);
  return pace === null || slope === null ? plain : { ok: true, curve, stretch: Math.exp(slope * pace), pace: Math.exp(pace) };
}

/** Slope of log time on log pace among the earlier runs, each paced against the others at the same moment; 0 to 1. */
function slopeOf(past: readonly Past[], sinceSec: number): number | null {
  const middle = past.reduce((sum, p) => sum + Math.log(p.timeSec), 0) / past.length;
  const pairs = past.flatMap((p, i) => {
    const others = past.filter((_, k) => k !== i);
    const own = paceOf(p.path, others, Math.min(sinceSec, p.timeSec));
    return own === null ? [] : [{ x: own, y: Math.log(p.timeSec) - middle }];
  });
  if (pairs.length < LEAST_FOR_PACE) return null;
  const xx = pairs.reduce((sum, p) => sum + p.x * p.x, 0);
  return xx > 0 ? Math.min(1, Math.max(0, pairs.reduce((sum, p) => sum + p.x * p.y, 0) / xx)) : 0;
}

const PACE_STEPS = 3;

/** Mean log ratio of the last three steps' times to the others' mean time for that step; null without a step in common. */
function paceOf(path: Path, others: readonly Past[], sinceSec: number): number | null {
  const ratios: number[] = [];
  for (let i = path.time.length - 1; i >= 0 && ratios.length < PACE_STEPS; i--) {
    const [t, step] = [path.time[i] ?? 0, path.tempC[i] ?? 0];
    if (t > sinceSec || t <= 0 || !Number.isInteger(step)) continue;
    const theirs = others.flatMap((o) => logReached(o.path).get(step) ?? []);
    if (theirs.length > 0) ratios.push(Math.log(t) - theirs.reduce((a, b) => a + b, 0) / theirs.length);
  }
  return ratios.length === 0 ? null : ratios.reduce((a, b) => a + b, 0) / ratios.length;
}

/** Log seconds at which each step was first reached; leaving each run out in turn asks for the same ones again and again. */
function logReached(path: Path): ReadonlyMap<number, number> {
  const known = REACHED.get(path);
  if (known !== undefined) return known;
  const made = new Map<number, number>();
  path.tempC.forEach((step, i) => {
    const sec = path.time[i] ?? 0;
    if (sec > 0 && path.tempC.indexOf(step) === i) made.set(step, Math.log(sec));
  });
  REACHED.set(path, made);
  return made;
}
const REACHED = new WeakMap<Path, ReadonlyMap<number, number>>();

/** P(T > t | T > s), 0 to 1; 1 when t is not after s. */
export function chanceToReach({ curve, stretch }: Outlook, tSec: number, sinceSec: number): number {
  if (tSec <= sinceSec) return 1;
  const now = chanceAt(curve, sinceSec / stretch);
  return now > 0 ? Math.min(1, chanceAt(curve, tSec / stretch) / now) : 0;
}

export interface Calibration {
  /** At this share of each earlier run's own length. */
  at: number;
  /** Runs asked, and how many reached the time given a chance of `stated`. */
  runs: number;
  reached: number;
}
export const STATED = 0.8;

/** Each earlier run told from the others alone, at a quarter, half and three quarters of its length. `records`: of the cell, as they stand at `index`. */
export function calibrate(past: readonly Past[], records: readonly Lasting[], limits: CellLimits, index: number): Calibration[] {
  const told = past.map((p, i) => ({
    run: p,
    others: past.filter((_, k) => k !== i),
    curve:
      past.length <= LEAST_PAST
        ? null
        : limits.curveWith(
            index,
            records.filter((r) => r.runId !== p.runId),
          ),
  }));
  return [0.25, 0.5, 0.75].map((at) => {
    const outlooks = told.flatMap(({ run, others, curve }) => {
      const sinceSec = at * run.timeSec;
      const o = outlook(curve, others, run.path, sinceSec);
      // Later than the time that is reached with that chance, without a search for it.
      return o.ok ? [chanceToReach(o, run.timeSec, sinceSec) < STATED] : [];
    });
    return { at, runs: outlooks.length, reached: outlooks.filter((reached) => reached).length };
  });
}

/** The time that is reached with the chance. */
export function timeOfChance({ curve, stretch }: Outlook, chance: number, sinceSec: number): number {
  return Math.max(sinceSec, stretch * timeOn(curve, Math.min(1 - 1e-9, chance * chanceAt(curve, sinceSec / stretch))));
}
