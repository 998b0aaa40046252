// Recovery runs as points: rest against the share of the cold time that came back, zero included. Heat is 1 at a shutdown and falls with the
// cooling constant; a mode whose plateau is p (from its cold time) then runs tau ln((p - h) / (p - 1)).

import type { CandidateRun } from "../cells/index.ts";
import { modeKey } from "../kit/index.ts";
import { isRefusal, restBetween, summarise } from "../runs/index.ts";
import { studentQuantile } from "../statistics/index.ts";
import { intervalsOf, plateauOf, UNKNOWN_PLATEAU } from "./ledger.ts";

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

/** Recovery runs in the mode of their parent, which must have shut down; rest counts from the last powered moment before. `coldSec`: typical cold time by mode key of the run's cell; without one it is left out. */
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
      const restMs = Math.min(rest.lo, sincePowered(candidates, c) ?? rest.lo);
      const timeSec = isRefusal(fold) ? 0 : summarise(fold, 0).recordedMs.lo / 1000;
      const event = fold.end?.cause === "thermal shutdown" ? 1 : 0;
      return [{ runId: c.runId, parentRunId: parent.runId, restSec: restMs / 1000, timeSec, event, coldSec: cold, share: timeSec / cold }];
    })
    .sort((a, b) => a.restSec - b.restSec);
}

/** From the last powered moment of any run before it, fallbacks and idling included, ms; null: none is on record. */
function sincePowered(candidates: readonly CandidateRun[], c: CandidateRun): number | null {
  const startMs = c.fold.startMs ?? 0;
  const ends = candidates
    .filter((o) => o !== c && o.fold.startMs !== null && o.fold.startMs < startMs)
    .flatMap((o) => intervalsOf(o.fold, UNKNOWN_PLATEAU, startMs).map((i) => i.toMs))
    .filter((ms) => ms <= startMs);
  return ends.length === 0 ? null : startMs - Math.max(...ends);
}

/** Share of the cold time after a rest: 0 when too hot, 1 when cold. `coldSec`, `tauSec`, rests in one unit. */
export function shareAfterRest(restSec: number, coldSec: number, tauSec: number, tauCoolSec: number): number {
  const p = plateauOf(coldSec * 1000, tauSec * 1000);
  const heat = Math.exp(-restSec / tauCoolSec);
  return Math.max(0, (tauSec * Math.log((p - heat) / (p - 1))) / coldSec);
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
