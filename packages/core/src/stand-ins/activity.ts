// What the tester did with the simulated body, from the presses in the order they were made. A later correction changes the
// record, not what the body went through; so facts a stand-in has posted never change under it.

import type { Mark, RunFold } from "../runs/index.ts";
import { actsOn, conditionSpans, foldRun } from "../runs/index.ts";
import type { ActivitySpan, CameraActivity } from "./simulatedCamera.ts";

/** Spans from the first press of start on; empty without one. Undo and corrections act from their own press. */
export function activitySpans(marks: readonly Mark[]): ActivitySpan[] {
  const acts = marks
    .filter((m) => actsOn(m.kind, ["time", "surroundings"]))
    .sort((a, b) => a.madeAtMs - b.madeAtMs || a.deviceSeq - b.deviceSeq);
  const spans: ActivitySpan[] = [];
  acts.forEach((act, i) => {
    const span = spanAfter(acts.slice(0, i + 1), act.madeAtMs);
    if (span === null || sameActivity(spans.at(-1), span)) return;
    spans.push(span.activity === "recording" ? span : { ...span, fresh: undefined });
  });
  return spans.map(withoutBlanks);
}

const withoutBlanks = (span: ActivitySpan): ActivitySpan =>
  Object.fromEntries(Object.entries(span).filter(([, value]) => value !== undefined)) as unknown as ActivitySpan;

function sameActivity(last: ActivitySpan | undefined, next: ActivitySpan): boolean {
  if (last === undefined) return false;
  return last.activity === next.activity && last.sun === next.sun && last.air === next.air && last.screenLit === next.screenLit;
}

function spanAfter(known: readonly Mark[], fromMs: number): ActivitySpan | null {
  const fold = foldRun(known);
  const activity = activityOf(fold);
  return activity === null ? null : { fromMs, activity, ...surroundings(fold), fresh: freshOf(fold) };
}

function activityOf(fold: RunFold): CameraActivity | null {
  if (fold.state === "none") return null;
  if (fold.state === "rolling") return fold.setup?.runKind === "idle" ? "idle" : "recording";
  const gap = fold.gaps.findLast((g) => g.toMs === null);
  return fold.state === "gap" && gap?.power === "on" ? "idle" : "off";
}

/** What condition marks have changed so far; nothing while all is as the start said. */
function surroundings(fold: RunFold): Pick<ActivitySpan, "sun" | "air" | "screenLit"> {
  const spans = conditionSpans(fold);
  const [said, now] = [spans[0], spans.at(-1)];
  const screen = fold.changes.findLast((c) => c.change === "screen woke" || c.change === "screen dark")?.change;
  return {
    sun: now?.sun === said?.sun ? undefined : now?.sun,
    air: now?.air === said?.air ? undefined : now?.air,
    screenLit: screen === undefined ? undefined : screen === "screen woke",
  };
}

/** A swap puts a fresh card or battery in. */
function freshOf(fold: RunFold): ActivitySpan["fresh"] {
  const cause = fold.gaps.at(-1)?.cause;
  return cause === "card swap" ? "card" : cause === "battery swap" ? "battery" : undefined;
}
