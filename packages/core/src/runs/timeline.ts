// The state machine over ordered, live, corrected marks: none -> rolling <-> gap -> ended. Each kind applies itself (kinds/); here is
// when it may. Every mark is used, corroborates, or becomes a finding; nothing is dropped. Zero-length segments leave no trace.

import type { Fact } from "../facts/index.ts";
import { isForeign } from "../facts/index.ts";
import type { Finding } from "./findings.ts";
import type { ConditionChange, EndCause, GapCause, GapPower } from "./vocabulary.ts";

/** Half-open spans [fromMs, toMs) of the bench clock; toMs null: still open. */
export interface Segment {
  fromMs: number;
  toMs: number | null;
}
export interface Gap {
  fromMs: number;
  toMs: number | null;
  cause: GapCause;
  power: GapPower;
  markId: string;
}
export interface Warning {
  markId: string;
  shownMs: number;
  escalatedMs: readonly number[];
  clearedMs: number | null;
  /** Minutes the camera showed as left, as last said; may be wrong. */
  minutesLeft: number | null;
}
export interface RunEnd {
  markId: string;
  cause: EndCause;
  /** The end lies in [loMs, hiMs]; lo < hi only when found off. */
  loMs: number;
  hiMs: number;
  becauseHot: boolean;
}
export interface ConditionChangeAt {
  atMs: number;
  change: ConditionChange;
  text: string | null;
  markId: string;
}

export interface Timeline {
  startMs: number | null;
  segments: Segment[];
  gaps: Gap[];
  splits: number[];
  warnings: Warning[];
  changes: ConditionChangeAt[];
  /** Readings, notes and the like: kept wherever they lie, never changing recorded time. */
  remarks: Fact[];
  end: RunEnd | null;
  /** Device of the resume that ended the last gap; null before one, and in a gap. */
  resumedBy: string | null;
  usedIds: string[];
  findings: Finding[];
}

const emptyTimeline = (): Timeline => ({
  startMs: null,
  segments: [],
  gaps: [],
  splits: [],
  warnings: [],
  changes: [],
  remarks: [],
  end: null,
  resumedBy: null,
  usedIds: [],
  findings: [],
});

export const use = (t: Timeline, mark: { id: string }): void => void t.usedIds.push(mark.id);
export const note = (t: Timeline, code: Finding["code"], ...marks: { id: string }[]): void =>
  void t.findings.push({ code, markIds: marks.map((m) => m.id) });
export const openGapOf = (t: Timeline): Gap | undefined => t.gaps.findLast((g) => g.toMs === null);
export const openSegmentOf = (t: Timeline): Segment | undefined => t.segments.findLast((s) => s.toMs === null);

/** What the machine asks of a kind. */
interface TimelineKind {
  place: "first" | "while it runs" | "from the start" | "anywhere" | "apart";
  apply(t: Timeline, mark: Fact): void;
  afterEnd?(t: Timeline, mark: Fact): boolean;
}

/** `marks`: live, corrected, in order. The start is the earliest mark of a kind that comes first. */
export function buildTimeline(marks: readonly Fact[], kindOf: (mark: Fact) => TimelineKind | undefined): Timeline {
  const t = emptyTimeline();
  const start = marks.find((m) => !isForeign(m) && kindOf(m)?.place === "first");
  for (const mark of marks) {
    const kind = isForeign(mark) ? undefined : kindOf(mark);
    if (kind === undefined) note(t, "not-understood", mark);
    else if (kind.place === "anywhere" || mark === start) kind.apply(t, mark);
    else if (kind.place === "first") note(t, "second-start", mark);
    else if (t.startMs === null) note(t, start === undefined ? "no-start" : "before-start", mark);
    else if (kind.place === "from the start" || t.end === null) kind.apply(t, mark);
    else if (kind.afterEnd?.(t, mark) !== true) note(t, "after-end", mark);
  }
  dropEmptySegments(t);
  return t;
}

function dropEmptySegments(t: Timeline): void {
  t.segments = t.segments.filter((s) => s.toMs === null || s.toMs > s.fromMs);
  t.gaps = t.gaps.filter((g) => g.toMs === null || g.toMs > g.fromMs);
}
