// What a device told of warnings and nobody marked: neither taken over nor pressed. Without a look here a run would seem to have ended unwarned.

import type { RunFold } from "./fold.ts";
import type { Mark } from "./mark.ts";
import type { WarningPhase } from "./vocabulary.ts";

export interface ToldWarning {
  eventId: string;
  atMs: number;
  phase: WarningPhase;
  minutesLeft: number | null;
}

/** A press this much before what a device says is the same thing, seen first by eye. */
export const NEAR_MS = 10_000;

/** Whether a press says of this phase what a device told at `atMs`, or more. */
export function warningSaid({ warnings }: RunFold, phase: WarningPhase, atMs: number): boolean {
  return warnings.some((w) => {
    const times = phase === "shown" ? [w.shownMs] : phase === "escalated" ? w.escalatedMs : w.clearedMs === null ? [] : [w.clearedMs];
    return times.some((ms) => ms >= atMs - NEAR_MS);
  });
}

/** Of an ended run, in order of time; what was shown or escalated, not what cleared. A warning that was taken over and taken back stays answered. */
export function unmarkedWarnings(fold: RunFold, marks: readonly Mark[], told: readonly ToldWarning[]): ToldWarning[] {
  const { startMs, end } = fold;
  if (fold.state !== "ended" || startMs === null || end === null) return [];
  const accepted = new Set(marks.flatMap((m) => (m.accepts === undefined ? [] : [m.accepts])));
  return told
    .filter((w) => w.phase !== "cleared" && w.atMs >= startMs && w.atMs <= end.hiMs)
    .filter((w) => !accepted.has(w.eventId) && !warningSaid(fold, w.phase, w.atMs))
    .sort((a, b) => a.atMs - b.atMs);
}
