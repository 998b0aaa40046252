// What a run asks of its tester next: a checkpoint, the next step of a duty cycle, or the end of a rest. The earliest counts.

import type { RunFold } from "./fold.ts";
import { dutyDue } from "./duty.ts";
import { nextDue } from "./reminders.ts";

export interface NextAction {
  what: "checkpoint" | "stop" | "record again" | "the rest is over";
  dueMs: number;
  overdue: boolean;
}

/** `restMin`: minutes after the end at which the rest is over; null for no alarm. Null when nothing is due. */
export function nextAction(fold: RunFold, nowMs: number, restMin: number | null = null): NextAction | null {
  if (fold.state === "ended" && fold.end !== null && restMin !== null && restMin > 0) {
    const dueMs = fold.end.hiMs + restMin * 60_000;
    return { what: "the rest is over", dueMs, overdue: nowMs >= dueMs };
  }
  const check = nextDue(fold, nowMs);
  const due: (NextAction | null)[] = [check === null ? null : { what: "checkpoint", ...check }, dutyDue(fold, nowMs)];
  return due.reduce((first, a) => (a !== null && (first === null || a.dueMs < first.dueMs) ? a : first), null);
}
