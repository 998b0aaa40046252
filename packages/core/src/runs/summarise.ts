// The times of a run at a moment: recorded, elapsed, gaps and warning lead. Segments and gaps sum exactly to elapsed.

import type { RunFold } from "./fold.ts";

export interface Interval {
  lo: number;
  hi: number;
}

export interface RunTimes {
  /** Sum of segments; lo < hi only when the end is uncertain ("found off"). */
  recordedMs: Interval;
  elapsedMs: number;
  gapMs: number;
  /** First warning to thermal shutdown, elapsed, by the early bound of the end; null when either is missing. */
  warningLeadMs: number | null;
}

/** `nowMs`: bench clock; ignored once the run has ended or its start was undone. Before the start every time is zero. Integer milliseconds. */
export function summarise(fold: RunFold, nowMs: number): RunTimes {
  if (fold.startMs === null) return { recordedMs: { lo: 0, hi: 0 }, elapsedMs: 0, gapMs: 0, warningLeadMs: null };
  const now = Math.max(nowMs, lastChangeMs(fold));
  const untilMs = fold.end?.hiMs ?? (fold.state === "void" ? Math.max(lastChangeMs(fold), fold.voidedMs ?? 0) : now);
  const spanSum = (spans: readonly { fromMs: number; toMs: number | null }[]): number =>
    spans.reduce((sum, s) => sum + (s.toMs ?? untilMs) - s.fromMs, 0);
  const hi = spanSum(fold.segments);
  const unsureMs = fold.end === null ? 0 : fold.end.hiMs - fold.end.loMs;
  return {
    recordedMs: { lo: hi - unsureMs, hi },
    elapsedMs: untilMs - fold.startMs,
    gapMs: spanSum(fold.gaps),
    warningLeadMs: warningLead(fold),
  };
}

/** A clock that reads earlier than the last fact (a device being resynchronised) must not make time negative. */
function lastChangeMs(fold: RunFold): number {
  const opened = [...fold.segments, ...fold.gaps].map((s) => s.fromMs);
  return Math.max(fold.startMs ?? 0, ...opened);
}

function warningLead(fold: RunFold): number | null {
  const first = fold.warnings[0];
  if (first === undefined || fold.end?.cause !== "thermal shutdown") return null;
  return Math.max(0, fold.end.loMs - first.shownMs);
}

/** Recorded time when the bench clock read `atMs`; the position of a mark on a recorded-time scale. */
export function recordedAt(fold: RunFold, atMs: number): number {
  return fold.segments.reduce((sum, s) => sum + Math.max(0, Math.min(s.toMs ?? atMs, atMs) - s.fromMs), 0);
}

/** Elapsed position (from the start) where recorded time reaches `recordedMs`, or null when it never does. */
export function elapsedWhenRecorded(fold: RunFold, recordedMs: number): number | null {
  if (fold.startMs === null) return null;
  let left = recordedMs;
  for (const s of fold.segments) {
    const length = s.toMs === null ? Number.POSITIVE_INFINITY : s.toMs - s.fromMs;
    if (left <= length) return s.fromMs - fold.startMs + left;
    left -= length;
  }
  return null;
}
