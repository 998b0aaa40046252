// How it comes back: recovered runtime against rest, zero included, by the lumped body of the ledger. Heat is 1 at a shutdown and falls with the
// cooling constant, which is fitted; a mode whose plateau is p (from its cold time) then runs tau ln((p - h) / (p - 1)).
// From the same body: the rest for four fifths of the cold time, and duty cycles that can go on for ever, or for an afternoon.

import { plateauOf } from "../heat/index.ts";
import { studentQuantile } from "../statistics/index.ts";
import type { CandidateRun } from "../cells/index.ts";
import { isRefusal, restBetween, summarise } from "../runs/index.ts";
import { modeKey } from "../kit/index.ts";

export interface Recovery {
  runId: string;
  parentRunId: string;
  restSec: number;
  /** 0: it refused. Censored when heat did not end it. */
  timeSec: number;
  event: 0 | 1;
  /** Typical cold time of its mode and condition, and the share of it that came back. */
  coldSec: number;
  share: number;
}

/** Recovery runs in the mode of their parent, which must have shut down. `coldSec`: typical cold time by mode key of the run's cell; without one it is left out. */
export function recoveriesOf(candidates: readonly CandidateRun[], coldSec: (c: CandidateRun) => number | null): Recovery[] {
  const byId = new Map(candidates.map((c) => [c.runId, c]));
  return candidates
    .flatMap((c): Recovery[] => {
      const { fold, struck } = c;
      const parent = byId.get(fold.setup?.parentRunId ?? "");
      if (struck !== null || fold.state !== "ended" || fold.setup?.runKind !== "recovery" || parent?.fold.setup == null) return [];
      if (parent.fold.end?.cause !== "thermal shutdown" || modeKey(parent.fold.setup.mode) !== modeKey(fold.setup.mode)) return [];
      const rest = restBetween(parent.fold, fold);
      const cold = coldSec(c);
      if (rest === null || cold === null || !(cold > 0)) return [];
      const timeSec = isRefusal(fold) ? 0 : summarise(fold, 0).recordedMs.lo / 1000;
      const event = fold.end?.cause === "thermal shutdown" ? 1 : 0;
      return [{ runId: c.runId, parentRunId: parent.runId, restSec: rest.lo / 1000, timeSec, event, coldSec: cold, share: timeSec / cold }];
    })
    .sort((a, b) => a.restSec - b.restSec);
}

export interface RecoveryFit {
  ok: true;
  tauCoolSec: number;
  range: { lo: number; hi: number };
  /** Rest for four fifths of the cold time, seconds, and by the slow end of the range: what to rely on. */
  rest80Sec: number;
  rest80Safe: number;
  n: number;
  runIds: string[];
}
export type RecoveryResult = RecoveryFit | { ok: false; reason: "too-few-recoveries" | "one-rest" | "no-cold-time"; n: number };

const SHARE = 0.8;

/** Share of the cold time after a rest: 0 when too hot, 1 when cold. `coldSec`, `tauSec`, rests in one unit. */
export function shareAfterRest(restSec: number, coldSec: number, tauSec: number, tauCoolSec: number): number {
  const p = plateauOf(coldSec * 1000, tauSec * 1000);
  const heat = Math.exp(-restSec / tauCoolSec);
  return Math.max(0, (tauSec * Math.log((p - heat) / (p - 1))) / coldSec);
}

export function restForShare(share: number, coldSec: number, tauSec: number, tauCoolSec: number): number {
  const p = plateauOf(coldSec * 1000, tauSec * 1000);
  const heat = p - (p - 1) * Math.exp((share * coldSec) / tauSec);
  return heat >= 1 ? 0 : -tauCoolSec * Math.log(heat);
}

export const restsDiffer = (points: readonly Recovery[]): boolean => new Set(points.map((p) => Math.round(p.restSec / 30))).size >= 2;

/** Least squares of the share over a time constant about `aboutSec`; 90 % range by the t of the squares that rise. */
export function leastOver(
  points: readonly Recovery[],
  aboutSec: number,
  shareOf: (p: Recovery, tauSec: number) => number,
): { best: number; range: { lo: number; hi: number } } {
  const tried = Array.from({ length: 600 }, (_, i) => aboutSec * 10 ** (-1.3 + (2.3 * i) / 599)).map((tau) => ({
    tau,
    squares: points.reduce((s, p) => s + (p.share - shareOf(p, tau)) ** 2, 0),
  }));
  const best = tried.reduce((b, t) => (t.squares < b.squares ? t : b));
  const df = points.length - 1;
  // Readings without any error would make the range a point: a twentieth of the cold time is the least scatter taken (ours).
  const variance = Math.max(best.squares / df, 0.05 ** 2);
  const within = tried.filter((t) => t.squares <= best.squares + variance * studentQuantile(0.95, df) ** 2).map((t) => t.tau);
  return { best: best.tau, range: { lo: Math.min(...within), hi: Math.max(...within) } };
}

/** The cooling constant of one cell; `tauSec`: its heating constant. */
export function fitRecovery(all: readonly Recovery[], coldSec: number | null, tauSec: number): RecoveryResult {
  const points = all.filter((r) => r.event === 1);
  if (coldSec === null) return { ok: false, reason: "no-cold-time", n: points.length };
  if (points.length < 2) return { ok: false, reason: "too-few-recoveries", n: points.length };
  if (!restsDiffer(points)) return { ok: false, reason: "one-rest", n: points.length };
  const { best, range } = leastOver(points, tauSec, (p, tau) => shareAfterRest(p.restSec, p.coldSec, tauSec, tau));
  return {
    ok: true,
    tauCoolSec: best,
    range,
    rest80Sec: restForShare(SHARE, coldSec, tauSec, best),
    rest80Safe: restForShare(SHARE, coldSec, tauSec, range.hi),
    n: points.length,
    runIds: points.map((p) => p.runId),
  };
}

export interface DutyLine {
  onSec: number;
  /** Rest, powered off, after which it can go on for ever, and for so long as asked; null: no rest in reach is enough. */
  offForeverSec: number | null;
  offForSec: number | null;
}
/** Stay this share below the shutdown rise: the body's law is fitted, not known. */
export const DUTY_ROOM = 0.1;
const LONGEST_REST_SEC = 4 * 3600;

/** `coldSec`: what the mode is relied on for, its bound where there is one. Rests in whole minutes, rounded up. */
export function dutyLines(coldSec: number, tauSec: number, tauCoolSec: number, forSec: number, ons: readonly number[]): DutyLine[] {
  const p = plateauOf(coldSec * 1000, tauSec * 1000);
  return ons.map((onSec) => {
    const a = Math.exp(-onSec / tauSec);
    const least = (fits: (offSec: number) => boolean): number | null => {
      for (let off = 60; off <= LONGEST_REST_SEC; off += 60) if (fits(off)) return off;
      return null;
    };
    const peakForever = (off: number): number => (p * (1 - a)) / (1 - a * Math.exp(-off / tauCoolSec));
    const peakFor = (off: number): number => {
      let [heat, most] = [0, 0];
      for (let t = 0; t < forSec; t += onSec + off) {
        heat = p + (heat - p) * a;
        most = Math.max(most, heat);
        heat *= Math.exp(-off / tauCoolSec);
      }
      return most;
    };
    return { onSec, offForeverSec: least((o) => peakForever(o) < 1 - DUTY_ROOM), offForSec: least((o) => peakFor(o) < 1 - DUTY_ROOM) };
  });
}
