// A censored run is more than "at least": its gauge or shell readings are a path. Had it levelled off below shutdown, or was it still climbing?
// One lumped body is fitted to the path (after its first third, when the fast part has died away); readings close in time are alike, so the error
// is widened by the effective number of readings. Nothing is said from a path too short to bend.

import type { Log } from "../heat/index.ts";
import { fitPlateau } from "../heat/index.ts";
import { studentQuantile } from "../statistics/index.ts";
import type { ChannelReading, RunFold } from "../runs/index.ts";

export type Witness = "shell" | "gauge";
export interface Path extends Log {
  witness: Witness;
}

/** Rising steps of the gauge at the middle of the interval in which each was first seen, or shell temperatures. Seconds since the start. */
export function pathOf(fold: RunFold, witness: Witness, channel: readonly ChannelReading[] = []): Path {
  const startMs = fold.startMs ?? 0;
  const untilMs = fold.end?.hiMs ?? Number.POSITIVE_INFINITY;
  const key = witness === "gauge" ? "gauge" : "shellC";
  const marked = fold.readings.flatMap((m) => (m.body[key] === undefined ? [] : [{ atMs: m.atMs, value: m.body[key] }]));
  const all = [...marked, ...channel].filter((r) => r.atMs >= startMs && r.atMs <= untilMs).sort((a, b) => a.atMs - b.atMs);
  const points = witness === "gauge" ? firstSeen(all, startMs) : all.map((r) => ({ sec: (r.atMs - startMs) / 1000, value: r.value }));
  return { witness, time: points.map((p) => p.sec), tempC: points.map((p) => p.value) };
}

/** A step first read at one reading was reached somewhere since the reading before. The last reading closes the path: how long it stayed there. */
function firstSeen(all: readonly ChannelReading[], startMs: number): { sec: number; value: number }[] {
  const points: { sec: number; value: number }[] = [];
  let [highest, beforeMs] = [-1, startMs];
  for (const r of all) {
    if (r.value > highest) {
      points.push({ sec: ((beforeMs + r.atMs) / 2 - startMs) / 1000, value: r.value });
      highest = r.value;
    }
    beforeMs = r.atMs;
  }
  const last = all.at(-1);
  const reached = points.at(-1);
  // Read as a step, the truth lies up to one step higher: half a step is the middle of what is known.
  if (last !== undefined && reached !== undefined && (last.atMs - startMs) / 1000 > reached.sec + 60)
    points.push({ sec: (last.atMs - startMs) / 1000, value: last.value + 0.5 });
  return points;
}

export type Levelling =
  | { ok: true; verdict: "levelled off"; plateau: number; upper: number; shutdownAt: number; tauSec: number }
  | { ok: true; verdict: "still climbing"; plateau: number; shutdownAt: number; expectedSec: number }
  | { ok: true; verdict: "cannot tell"; plateau: number; upper: number; shutdownAt: number }
  | { ok: false; reason: "too-few-readings" | "path-too-short" | "shutdown-level-not-known" };

export const LEAST_POINTS = 5;
const CONFIDENCE = 0.9;

/** `shutdownAt`: gauge or shell at which this body shut down; null: not known. */
export function levelling(path: Path, shutdownAt: number | null): Levelling {
  if (shutdownAt === null) return { ok: false, reason: "shutdown-level-not-known" };
  if (path.time.length < LEAST_POINTS) return { ok: false, reason: "too-few-readings" };
  const late = lateOf(path);
  const fit = fitPlateau(late);
  if (!fit.ok) return { ok: false, reason: fit.reason === "too-few-readings" ? "too-few-readings" : "path-too-short" };
  const [plateau, start, tauSec] = fit.values as [number, number, number];
  const span = Math.max(...late.time) - Math.min(...late.time);
  // Less than one time constant of path gives the slope only, not where it leads.
  if (span < tauSec) return { ok: false, reason: "path-too-short" };
  const widened = (fit.se[0] ?? 0) * Math.sqrt(late.time.length / effectiveSize(late, fit.values));
  const upper = plateau + studentQuantile(CONFIDENCE, Math.max(1, late.time.length - 3)) * widened;
  if (upper < shutdownAt) return { ok: true, verdict: "levelled off", plateau, upper, shutdownAt, tauSec };
  if (plateau <= shutdownAt) return { ok: true, verdict: "cannot tell", plateau, upper, shutdownAt };
  const expectedSec = -tauSec * Math.log((shutdownAt - plateau) / (start - plateau));
  // It has lasted longer than that already: the path does not tell.
  if (!(expectedSec > Math.max(...path.time))) return { ok: true, verdict: "cannot tell", plateau, upper, shutdownAt };
  return { ok: true, verdict: "still climbing", plateau, shutdownAt, expectedSec };
}

function lateOf(path: Path): Path {
  const from = Math.max(...path.time) / 3;
  const kept = path.time.flatMap((t, i) => (t >= from ? [i] : []));
  if (kept.length < LEAST_POINTS) return path;
  return { ...path, time: kept.map((i) => path.time[i] ?? 0), tempC: kept.map((i) => path.tempC[i] ?? 0) };
}

/** n (1 - r) / (1 + r) with r the correlation of neighbouring residuals, at least 4 and at most n. */
function effectiveSize(path: Path, [plateau = 0, start = 0, tau = 1]: readonly number[]): number {
  const rest = path.time.map((t, i) => (path.tempC[i] ?? 0) - (plateau + (start - plateau) * Math.exp(-t / tau)));
  const whole = rest.reduce((s, v) => s + v * v, 0);
  const next = rest.slice(1).reduce((s, v, i) => s + v * (rest[i] ?? 0), 0);
  const r = whole > 0 ? Math.max(0, Math.min(0.95, next / whole)) : 0;
  return Math.min(path.time.length, Math.max(4, (path.time.length * (1 - r)) / (1 + r)));
}

/**
 * Where this body shuts down, by its own shutdowns: the gauge's top step, or the lowest last shell reading within ten minutes of a shutdown. The
 * gauge is the body's own word in every mode; the shell only lags behind what is hot, so it speaks for runs of the one mode that are given.
 */
export function shutdownLevel(folds: readonly RunFold[], witness: Witness): number | null {
  const ended = folds.filter((f) => f.end?.cause === "thermal shutdown");
  if (witness === "gauge") return ended.some((f) => f.readings.some((m) => m.body.gauge !== undefined)) ? 10 : null;
  const last = ended.flatMap((f) => {
    const path = pathOf(f, "shell");
    const endSec = ((f.end?.hiMs ?? 0) - (f.startMs ?? 0)) / 1000;
    const at = path.time.at(-1);
    return at !== undefined && endSec - at <= 600 ? [path.tempC.at(-1) ?? 0] : [];
  });
  return last.length === 0 ? null : Math.min(...last);
}
