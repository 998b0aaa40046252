// Which runs of a cell may speak for its limit, and why each of the others may not. Every exclusion is named; none is silent.

import type { Endpoint, Observation, RunFold } from "../runs/index.ts";
import { enteredLate, isRefusal, observe, otherConditionShare } from "../runs/index.ts";
import type { Interval } from "../runs/index.ts";

export const EXCLUSIONS = [
  "void",
  "not ended",
  "refused to record",
  "nothing recorded",
  "warm start",
  "start state not known",
  "struck out",
  "ambient outside the condition",
  "recovery or fallback run",
  "duty-cycle, idle or job run",
  "surroundings changed while it ran",
  "whether it warned is not recorded",
] as const;
export type Exclusion = (typeof EXCLUSIONS)[number];

export interface CandidateRun {
  runId: string;
  fold: RunFold;
  /** The reason of a live strike, or null. */
  struck: string | null;
  /** A device told a warning that nobody marked; absent: no device is known to have. */
  warningUnmarked?: boolean;
}

export interface Counted {
  runId: string;
  timeMs: Interval;
  event: 0 | 1;
  because: (Observation & { ok: true })["because"];
  /** Broken by a gap, with the endpoint after it: unbroken it would have come no later, recorded ms. */
  noLaterMs: number | null;
  /** Not counted as the endpoint, and yet it may have been by then, recorded ms. */
  maybeByMs: number | null;
}
export interface LeftOut {
  runId: string;
  because: Exclusion;
  /** What the run would say if it counted; null when it has no time at all. */
  wouldBe: Counted | null;
}
export interface Eligible {
  counted: Counted[];
  leftOut: LeftOut[];
}

/** Candidates of one cell on one kind of clock. Counted runs come shortest first (by lo, then id). */
export function eligible(candidates: readonly CandidateRun[], endpoint: Endpoint): Eligible {
  const counted: Counted[] = [];
  const leftOut: LeftOut[] = [];
  for (const candidate of candidates) {
    const because = exclusionOf(candidate, endpoint);
    // Whatever else leaves it out: a warning that may have come gives no time.
    const record = endpoint === "firstWarning" && warningUnknown(candidate) ? null : countedAs(candidate, endpoint);
    if (because === null && record !== null) counted.push(record);
    else leftOut.push({ runId: candidate.runId, because: because ?? "nothing recorded", wouldBe: record });
  }
  counted.sort((a, b) => a.timeMs.lo - b.timeMs.lo || (a.runId < b.runId ? -1 : 1));
  return { counted, leftOut };
}

/** What one run says for its cell, by itself; null: it does not count. A strike is another matter. */
export const countedAlone = (runId: string, fold: RunFold, endpoint: Endpoint): Counted | null =>
  eligible([{ runId, fold, struck: null }], endpoint).counted[0] ?? null;

function countedAs({ runId, fold }: CandidateRun, endpoint: Endpoint): Counted | null {
  if (fold.setup === null) return null;
  const seen = observe(fold, fold.setup.protocol.continuity, endpoint);
  if (!seen.ok || seen.timeMs.lo <= 0) return null;
  return { runId, timeMs: seen.timeMs, event: seen.event, because: seen.because, noLaterMs: seen.noLaterMs, maybeByMs: seen.maybeByMs };
}

const UNWATCHED = "whether it warned is not recorded";

/** No warning on record is not a run without one where it was entered late, or a device told one that nobody marked. */
export const warningUnknown = ({ fold, warningUnmarked }: CandidateRun): boolean =>
  fold.warnings.length === 0 && (warningUnmarked === true || enteredLate(fold));

function exclusionOf(candidate: CandidateRun, endpoint: Endpoint): Exclusion | null {
  const { fold, struck } = candidate;
  if (fold.state === "void") return "void";
  if (fold.state !== "ended" || fold.setup === null) return "not ended";
  if (struck !== null) return "struck out";
  if (isRefusal(fold)) return "refused to record";
  const { runKind } = fold.setup;
  if (runKind === "recovery" || runKind === "fallback") return "recovery or fallback run";
  if (runKind !== "endurance") return "duty-cycle, idle or job run";
  if (fold.setup.startState.state === "warm") return "warm start";
  if (fold.setup.startState.state === "unknown") return "start state not known";
  if (ambientOutside(fold)) return "ambient outside the condition";
  if (otherConditionShare(fold) > OTHER_CONDITION_MOST) return "surroundings changed while it ran";
  return endpoint === "firstWarning" && warningUnknown(candidate) ? UNWATCHED : null;
}

/** Recorded under another screen, sun or air than the condition for more than this, a run speaks for no condition (ours). */
const OTHER_CONDITION_MOST = 0.1;

/** The run's ambient with its uncertainty must reach into the condition's band: measured 26.5 +- 0.5 fits 22 +- 4. */
export function ambientOutside(fold: RunFold): boolean {
  if (fold.setup === null) return false;
  const { ambient, condition } = fold.setup;
  return Math.abs(ambient.valueC - condition.ambientC) > condition.toleranceC + ambient.plusMinusC + 1e-9;
}
