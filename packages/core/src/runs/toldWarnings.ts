// What a device told of warnings and nobody marked: neither taken over nor pressed. Without a look here a run would seem to have ended unwarned.

import type { RunFold } from "./fold.ts";
import type { Mark } from "./mark.ts";
import type { WarningPhase } from "./vocabulary.ts";
import { WARNING_PHASES } from "./vocabulary.ts";

export interface ToldWarning {
  eventId: string;
  atMs: number;
  phase: WarningPhase;
  minutesLeft: number | null;
}

/** What a device told, if it is a warning; none or one, for `flatMap`. */
export function toldWarning(event: { id: string; atMs: number; kind: string; body: Readonly<Record<string, unknown>> }): ToldWarning[] {
  const { phase: said, minutesLeft } = event.body;
  const phase = WARNING_PHASES.find((p) => p === said);
  if (event.kind !== "warning" || phase === undefined) return [];
  return [{ eventId: event.id, atMs: event.atMs, phase, minutesLeft: typeof minutesLeft === "number" ? minutesLeft : null }];
}

/** Entered when it was over: what is not on record may have been all the same. */
export const enteredLate = ({ effective }: RunFold): boolean => effective.some((m) => m.kind === "start" && m.source === "late");

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
