// A recorded limit: a statement frozen with everything it stands on, and what later speaks against it. It is never changed;
// a new one supersedes it.

import type { Endpoint } from "../runs/index.ts";

export interface FrozenLimit {
  unitId: string;
  endpoint: Endpoint;
  firmware: string;
  valueMs: number;
  share: number;
  confidence: number;
  evidenceIds: readonly string[];
  /** Every run it was read from, those of other cells too, as it read then; absent where only the shortest counted. */
  readFrom?: readonly ReadRun[] | undefined;
  /** Bench-clock time of recording, on the runs' clock. */
  recordedAtMs: number;
}

/** A run as a limit reads it: recorded ms, and whether that was the end asked for. */
export interface ReadRun {
  runId: string;
  loMs: number;
  event: 0 | 1;
}

export const RETEST_REASONS = ["shorter-run", "firmware-changed", "evidence-changed"] as const;
export interface RetestReason {
  code: (typeof RETEST_REASONS)[number];
  runIds: readonly string[];
  text: string;
}

export interface LimitToday {
  unitFirmware: string;
  /** The same cell read now, on any firmware; counted runs with their starts. */
  counted: readonly { runId: string; timeLoMs: number; noLaterMs?: number | null | undefined; startedMs: number; firmware: string }[];
  /** The runs of `readFrom` that still count somewhere. */
  readNow?: readonly ReadRun[];
}

/**
 * Reasons to test again, strongest first; empty: it stands. A run disagrees when its recorded time is shorter than the limit, on
 * the limit's firmware or on any that ran later; what another firmware did before was known and left out. Evidence has changed
 * when a run behind the limit no longer counts or now reads shorter; of a limit that was read from all of its pool, when any of them reads otherwise.
 */
export function retestReasons(limit: FrozenLimit, today: LimitToday): RetestReason[] {
  const reasons: RetestReason[] = [];
  const concerns = (r: LimitToday["counted"][number]): boolean => r.firmware === limit.firmware || r.startedMs > limit.recordedAtMs;
  // Broken by a gap it says nothing shorter, unless heat came after it all the same.
  const latestMs = (r: LimitToday["counted"][number]): number => r.noLaterMs ?? r.timeLoMs;
  const shorter = today.counted.filter((r) => !limit.evidenceIds.includes(r.runId) && latestMs(r) < limit.valueMs && concerns(r));
  if (shorter.length > 0) {
    reasons.push({
      code: "shorter-run",
      runIds: shorter.map((r) => r.runId),
      text:
        shorter.length === 1
          ? "Re-test: a run outside the evidence was shorter than this limit."
          : `Re-test: ${shorter.length} runs outside the evidence were shorter than this limit.`,
    });
  }
  if (today.unitFirmware !== limit.firmware) {
    reasons.push({
      code: "firmware-changed",
      runIds: [],
      text: `Re-test: the unit now runs firmware ${today.unitFirmware}, this was measured on ${limit.firmware}.`,
    });
  }
  const lost = limit.readFrom === undefined ? shortened(limit, today) : readOtherwise(limit.readFrom, today.readNow ?? []);
  if (lost.length > 0) {
    reasons.push({
      code: "evidence-changed",
      runIds: lost,
      text: `Re-test: ${lost.length} of the runs behind it no longer ${lost.length === 1 ? "counts" : "count"} as recorded.`,
    });
  }
  return reasons;
}

const shortened = (limit: FrozenLimit, today: LimitToday): string[] =>
  limit.evidenceIds.filter((id) => {
    const now = today.counted.find((r) => r.runId === id);
    return now === undefined || now.timeLoMs < limit.valueMs;
  });
function readOtherwise(then: readonly ReadRun[], now: readonly ReadRun[]): string[] {
  const byId = new Map(now.map((r) => [r.runId, r]));
  return then.flatMap(({ runId, loMs, event }) => {
    const today = byId.get(runId);
    return today?.loMs === loMs && today.event === event ? [] : [runId];
  });
}
