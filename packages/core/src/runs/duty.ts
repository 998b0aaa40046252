// A duty run: minutes recording, minutes not, again and again until something ends it. Its planned pauses are part of the run, so
// none of them breaks it; what is asked is how many cycles the body holds, not how long it lasts in one go.

import type { RunFold } from "./fold.ts";
import type { DutyCycle } from "./kinds/start.ts";
import { recordedAt, summarise } from "./summarise.ts";
import type { Gap } from "./timeline.ts";

export interface DutyDue {
  what: "stop" | "record again";
  dueMs: number;
  overdue: boolean;
  /** Counts from 1. */
  cycle: number;
}
export interface DutyResult {
  cycle: DutyCycle;
  /** On-phases recorded in full. */
  completed: number;
  /** Recorded ms of the phase the run ended in, or is in; 0 in a pause. */
  phaseMs: number;
  /** True when heat ended it: the cycle cannot go on for ever. */
  byHeat: boolean;
}

/** A stop pressed this little early is still the planned one. */
const PRESS_MS = 5000;

const isPause = (gap: Gap): boolean => gap.cause === "planned pause";
const pausesOf = (fold: RunFold): Gap[] => fold.gaps.filter(isPause);

/** Where the on-phase under way began: the end of the last planned pause, else the start. */
const phaseFromMs = (fold: RunFold): number => pausesOf(fold).findLast((g) => g.toMs !== null)?.toMs ?? fold.startMs ?? 0;

/** What the tester does next, and when. Null for another kind of run, and in a gap nobody planned. */
export function dutyDue(fold: RunFold, nowMs: number): DutyDue | null {
  const duty = fold.setup?.runKind === "duty" ? fold.setup.duty : undefined;
  if (duty === undefined) return null;
  const cycle = pausesOf(fold).length + (fold.state === "rolling" ? 1 : 0);
  const due = (what: DutyDue["what"], dueMs: number): DutyDue => ({ what, dueMs, overdue: nowMs >= dueMs, cycle });
  const open = fold.gaps.at(-1);
  if (fold.state === "gap" && open?.toMs === null && isPause(open)) return due("record again", open.fromMs + duty.offMin * 60_000);
  const segment = fold.segments.at(-1);
  if (fold.state !== "rolling" || segment === undefined) return null;
  const before = recordedAt(fold, segment.fromMs) - recordedAt(fold, phaseFromMs(fold));
  return due("stop", segment.fromMs + duty.onMin * 60_000 - before);
}

/** Null for another kind of run. A phase cut short by the run's end is not completed; one stopped early counts from its planned length. */
export function dutyResult(fold: RunFold, nowMs: number): DutyResult | null {
  const { setup, startMs } = fold;
  if (setup?.runKind !== "duty" || setup.duty === undefined || startMs === null) return null;
  const onMs = setup.duty.onMin * 60_000;
  const untilMs = fold.end?.loMs ?? nowMs;
  const edges = [...pausesOf(fold).filter((g) => g.fromMs <= untilMs)];
  const lengths = edges.map((gap, i) => recordedAt(fold, gap.fromMs) - recordedAt(fold, edges[i - 1]?.toMs ?? startMs));
  const last = edges.at(-1);
  const inPause = last !== undefined && (last.toMs === null || last.toMs >= untilMs);
  const phaseMs = inPause ? 0 : summarise(fold, nowMs).recordedMs.lo - recordedAt(fold, last?.toMs ?? startMs);
  const heat = fold.end?.cause === "thermal shutdown";
  const whole = [...lengths, phaseMs].filter((ms) => ms >= onMs - PRESS_MS).length;
  return { cycle: setup.duty, completed: whole, phaseMs: Math.max(0, phaseMs), byHeat: heat };
}
