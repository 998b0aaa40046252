// The state machine over ordered, live, corrected marks: none -> rolling <-> gap -> ended. Every mark is used, corroborates,
// or becomes a finding; nothing is dropped. Zero-length segments leave no trace.

import type { Finding } from "./findings.ts";
import type { KnownMark, Mark, MarkOf } from "./mark.ts";
import { isForeign } from "./mark.ts";
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
  readings: MarkOf<"reading">[];
  touches: MarkOf<"touch">[];
  checks: MarkOf<"check">[];
  notes: MarkOf<"note">[];
  photos: MarkOf<"photo">[];
  end: RunEnd | null;
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
  readings: [],
  touches: [],
  checks: [],
  notes: [],
  photos: [],
  end: null,
  usedIds: [],
  findings: [],
});

/** `marks`: live, corrected, in order. The start is the earliest start mark. */
export function buildTimeline(marks: readonly Mark[]): Timeline {
  const t = emptyTimeline();
  const start = marks.find((m) => m.kind === "start" && !isForeign(m));
  let lastResume: { deviceId: string } | null = null;
  for (const mark of marks) {
    if (isForeign(mark)) note(t, "not-understood", mark);
    else if (mark === start) begin(t, mark);
    else if (mark.kind === "start") note(t, "second-start", mark);
    else if (isRemark(mark)) keep(t, mark);
    else if (t.startMs === null) note(t, start === undefined ? "no-start" : "before-start", mark);
    else if (mark.kind === "end") endRun(t, mark);
    else if (t.end !== null) afterEnd(t, mark);
    else if (mark.kind === "gap") {
      openGap(t, mark);
      lastResume = null;
    } else if (mark.kind === "resume") lastResume = resume(t, mark, lastResume);
    else if (mark.kind === "split") split(t, mark);
    else if (mark.kind === "warning") warn(t, mark);
    else if (mark.kind === "condition") change(t, mark);
  }
  dropEmptySegments(t);
  return t;
}

const use = (t: Timeline, mark: Mark): void => void t.usedIds.push(mark.id);
const note = (t: Timeline, code: Finding["code"], ...marks: { id: string }[]): void =>
  void t.findings.push({ code, markIds: marks.map((m) => m.id) });

function begin(t: Timeline, mark: Mark): void {
  t.startMs = mark.atMs;
  t.segments.push({ fromMs: mark.atMs, toMs: null });
  use(t, mark);
}

type Remark = MarkOf<"reading"> | MarkOf<"touch"> | MarkOf<"check"> | MarkOf<"note"> | MarkOf<"photo">;
const REMARKS: readonly string[] = ["reading", "touch", "check", "note", "photo"];
const isRemark = (mark: KnownMark): mark is Remark => REMARKS.includes(mark.kind);

/** Readings, touches, checks, notes and photos never change recorded time, wherever they lie. */
function keep(t: Timeline, mark: Remark): void {
  if (mark.kind === "reading") t.readings.push(mark);
  else if (mark.kind === "touch") t.touches.push(mark);
  else if (mark.kind === "check") t.checks.push(mark);
  else if (mark.kind === "note") t.notes.push(mark);
  else t.photos.push(mark);
  use(t, mark);
}

const openGapOf = (t: Timeline): Gap | undefined => t.gaps.findLast((g) => g.toMs === null);
const openSegmentOf = (t: Timeline): Segment | undefined => t.segments.findLast((s) => s.toMs === null);

function openGap(t: Timeline, mark: MarkOf<"gap">): void {
  const open = openGapOf(t);
  if (open !== undefined) corroborateGap(t, open, mark);
  else {
    const segment = openSegmentOf(t);
    if (segment !== undefined) segment.toMs = mark.atMs;
    t.gaps.push({ fromMs: mark.atMs, toMs: null, cause: mark.body.cause, power: mark.body.power, markId: mark.id });
    use(t, mark);
  }
}

function corroborateGap(t: Timeline, open: Gap, mark: MarkOf<"gap">): void {
  const both = open.cause !== "unknown" && mark.body.cause !== "unknown";
  if (both && (open.cause !== mark.body.cause || open.power !== mark.body.power)) {
    note(t, "gap-details-differ", { id: open.markId }, mark);
  } else use(t, mark);
}

function resume(t: Timeline, mark: MarkOf<"resume">, last: { deviceId: string } | null): { deviceId: string } | null {
  const open = openGapOf(t);
  if (open !== undefined) {
    open.toMs = mark.atMs;
    t.segments.push({ fromMs: mark.atMs, toMs: null });
    use(t, mark);
    return { deviceId: mark.deviceId };
  }
  // The second of two devices resuming the same gap corroborates; the same device twice is a slip.
  if (last !== null && last.deviceId !== mark.deviceId) use(t, mark);
  else note(t, "resume-without-gap", mark);
  return last;
}

function split(t: Timeline, mark: MarkOf<"split">): void {
  if (openGapOf(t) !== undefined) note(t, "split-in-gap", mark);
  else {
    t.splits.push(mark.atMs);
    use(t, mark);
  }
}

function warn(t: Timeline, mark: MarkOf<"warning">): void {
  const index = t.warnings.findLastIndex((w) => w.clearedMs === null);
  const open = t.warnings[index];
  const minutesLeft = mark.body.minutesLeft ?? open?.minutesLeft ?? null;
  if (open === undefined) {
    if (mark.body.phase !== "shown") note(t, "warning-in-odd-order", mark);
    if (mark.body.phase === "cleared") return;
    const escalatedMs = mark.body.phase === "escalated" ? [mark.atMs] : [];
    t.warnings.push({ markId: mark.id, shownMs: mark.atMs, escalatedMs, clearedMs: null, minutesLeft });
  } else if (mark.body.phase === "escalated") {
    t.warnings[index] = { ...open, escalatedMs: [...open.escalatedMs, mark.atMs], minutesLeft };
  } else if (mark.body.phase === "cleared") t.warnings[index] = { ...open, clearedMs: mark.atMs };
  else t.warnings[index] = { ...open, minutesLeft };
  use(t, mark);
}

function change(t: Timeline, mark: MarkOf<"condition">): void {
  t.changes.push({ atMs: mark.atMs, change: mark.body.change, text: mark.body.text ?? null, markId: mark.id });
  use(t, mark);
}

function endRun(t: Timeline, mark: MarkOf<"end">): void {
  if (t.end !== null) {
    const settled = t.end.cause === mark.body.cause || t.end.cause === "unknown" || mark.body.cause === "unknown";
    if (settled) use(t, mark);
    else note(t, "end-causes-differ", { id: t.end.markId }, mark);
    return;
  }
  const segment = openSegmentOf(t);
  const gap = openGapOf(t);
  // Recording was seen alive when its last segment began: an uncertain end cannot lie before that.
  const aliveMs = segment?.fromMs ?? gap?.fromMs ?? mark.atMs;
  const lastSeenMs = mark.body.foundOff?.lastSeenMs ?? mark.atMs;
  if (lastSeenMs > mark.atMs) note(t, "last-seen-after-found", mark);
  const loMs = segment === undefined ? mark.atMs : Math.min(mark.atMs, Math.max(aliveMs, lastSeenMs));
  if (segment !== undefined) segment.toMs = mark.atMs;
  if (gap !== undefined) gap.toMs = mark.atMs;
  const becauseHot = mark.body.becauseHot ?? false;
  t.end = { markId: mark.id, cause: mark.body.cause, loMs, hiMs: mark.atMs, becauseHot };
  use(t, mark);
}

function afterEnd(t: Timeline, mark: KnownMark): void {
  if (mark.kind === "warning" && mark.body.phase === "cleared" && t.warnings.some((w) => w.clearedMs === null)) warn(t, mark);
  else note(t, "after-end", mark);
}

function dropEmptySegments(t: Timeline): void {
  t.segments = t.segments.filter((s) => s.toMs === null || s.toMs > s.fromMs);
  t.gaps = t.gaps.filter((g) => g.toMs === null || g.toMs > g.fromMs);
}
