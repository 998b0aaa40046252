// The live chance: P(reach t | has lasted s, with this path). Log runtime is normal about the middle of the cell's earlier shutdowns; a run whose
// gauge climbs faster than theirs is expected to end sooner, by a slope learnt from them. How well it would have told earlier runs, each
// left out in turn, stands beside it.

import { studentCdf } from "../statistics/index.ts";
import { varianceOf } from "../statistics/index.ts";
import type { RunFold } from "../runs/index.ts";
import { pathOf } from "./levelling.ts";
import type { Path } from "./levelling.ts";

/** An earlier run of the cell: ended by heat, seconds; censored ones say too little of the middle to be used here. */
export interface Past {
  runId: string;
  timeSec: number;
  path: Path;
}
export const pastOf = (runs: readonly { runId: string; timeSec: number; event: 0 | 1; fold: RunFold }[]): Past[] =>
  runs.filter((r) => r.event === 1).map((r) => ({ runId: r.runId, timeSec: r.timeSec, path: pathOf(r.fold, "gauge") }));

export interface Scatter {
  /** Log standard deviation and its degrees of freedom, of the cell or pooled. */
  sd: number;
  df: number;
}
export interface Outlook {
  /** Middle of log seconds, and the spread of a run to come about it. */
  log: number;
  spread: number;
  df: number;
  /** This run's steps came so many times as late as the others'; null: the path was not used. */
  pace: number | null;
}
export type OutlookResult = ({ ok: true } & Outlook) | { ok: false; reason: "too-few-runs" };

const LEAST_PAST = 2;
const LEAST_FOR_PACE = 4;

/** `sinceSec`: what of the path is known by now. Without a scatter of one's own from three runs on, `scatter` must be given. */
export function outlook(past: readonly Past[], path: Path, sinceSec: number, scatter: Scatter | null): OutlookResult {
  const n = past.length;
  if (n < LEAST_PAST || (scatter === null && n < 3)) return { ok: false, reason: "too-few-runs" };
  const logs = past.map((p) => Math.log(p.timeSec));
  const middle = logs.reduce((a, b) => a + b, 0) / n;
  const { sd, df } = scatter ?? { sd: Math.sqrt(varianceOf(logs)), df: n - 1 };
  const plain: Outlook = { log: middle, spread: sd * Math.sqrt(1 + 1 / n), df, pace: null };
  if (n < LEAST_FOR_PACE) return { ok: true, ...plain };
  const pace = paceOf(path, past, sinceSec);
  if (pace === null) return { ok: true, ...plain };
  // Slope of log time on log pace among the earlier runs, each paced against the others at the same moment.
  const pairs = past.flatMap((p, i) => {
    const own = paceOf(
      p.path,
      past.filter((_, k) => k !== i),
      Math.min(sinceSec, p.timeSec),
    );
    return own === null ? [] : [{ x: own, y: (logs[i] ?? 0) - middle }];
  });
  if (pairs.length < LEAST_FOR_PACE) return { ok: true, ...plain };
  const xx = pairs.reduce((s, p) => s + p.x * p.x, 0);
  const slope = xx > 0 ? Math.min(1, Math.max(0, pairs.reduce((s, p) => s + p.x * p.y, 0) / xx)) : 0;
  const left = pairs.reduce((s, p) => s + (p.y - slope * p.x) ** 2, 0) / Math.max(1, pairs.length - 2);
  const spread = Math.min(plain.spread, Math.sqrt(left) * Math.sqrt(1 + 1 / n));
  return {
    ok: true,
    log: middle + slope * pace,
    spread: Math.max(spread, plain.spread / 4),
    df: Math.min(df, Math.max(1, pairs.length - 2)),
    pace: Math.exp(pace),
  };
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
export function chanceToReach(o: Outlook, tSec: number, sinceSec: number): number {
  if (tSec <= sinceSec) return 1;
  const beyond = (t: number): number => (t <= 0 ? 1 : studentCdf(-(Math.log(t) - o.log) / o.spread, o.df));
  const now = beyond(sinceSec);
  return now > 0 ? Math.min(1, beyond(tSec) / now) : 0;
}

export interface Calibration {
  /** At this share of each earlier run's own length. */
  at: number;
  /** Runs asked, and how many reached the time given a chance of `stated`. */
  runs: number;
  reached: number;
}
export const STATED = 0.8;

/** Each earlier run told from the others alone, at a quarter, half and three quarters of its length. */
export function calibrate(past: readonly Past[], scatter: Scatter | null): Calibration[] {
  return [0.25, 0.5, 0.75].map((at) => {
    let [runs, reached] = [0, 0];
    past.forEach((p, i) => {
      const sinceSec = at * p.timeSec;
      const o = outlook(
        past.filter((_, k) => k !== i),
        p.path,
        sinceSec,
        scatter,
      );
      if (!o.ok) return;
      runs++;
      // Later than the time that is reached with that chance, without a search for it.
      if (chanceToReach(o, p.timeSec, sinceSec) < STATED) reached++;
    });
    return { at, runs, reached };
  });
}

/** The time that is reached with the chance, by bisection on log time. */
export function timeOfChance(o: Outlook, chance: number, sinceSec: number): number {
  let [lo, hi] = [Math.log(Math.max(1, sinceSec)), o.log + 20 * o.spread + 1];
  for (let i = 0; i < 60; i++) {
    const mid = (lo + hi) / 2;
    if (chanceToReach(o, Math.exp(mid), sinceSec) > chance) lo = mid;
    else hi = mid;
  }
  return Math.exp(lo);
}
