// How it comes back: recovered runtime against rest, by the lumped body. The cooling constant of one cell is fitted; from the same body: the
// rest for four fifths of the cold time, and duty cycles that can go on for ever, or for an afternoon.

import { shareAfterRest } from "../heat/index.ts";
import { restsDiffer } from "../heat/index.ts";
import { leastOver } from "../heat/index.ts";
import type { Recovery } from "../heat/index.ts";
import { plateauOf } from "../heat/index.ts";

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

export type RecoveryResult =
  | RecoveryFit
  | { ok: false; reason: "too-few-recoveries" | "one-rest" | "no-cold-time" | "cold-time-open"; n: number };

const SHARE = 0.8;

export function restForShare(share: number, coldSec: number, tauSec: number, tauCoolSec: number): number {
  const p = plateauOf(coldSec * 1000, tauSec * 1000);
  const heat = p - (p - 1) * Math.exp((share * coldSec) / tauSec);
  return heat >= 1 ? 0 : -tauCoolSec * Math.log(heat);
}

/**
 * The cooling constant of one cell; `tauSec`: its heating constant.
 * @param coldEnds runs from cold that ended by heat: with some, a cold time that is null was cut off, not absent
 */
export function fitRecovery(all: readonly Recovery[], coldSec: number | null, tauSec: number, coldEnds = 0): RecoveryResult {
  const points = all.filter((r) => r.event === 1);
  if (coldSec === null) return { ok: false, reason: coldEnds > 0 ? "cold-time-open" : "no-cold-time", n: points.length };
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
