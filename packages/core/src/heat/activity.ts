// What the tester did with the simulated body, from the presses in the order they were made. A later correction changes the
// record, not what the body went through; so facts a stand-in has posted never change under it.

import type { Mark } from "../runs/index.ts";
import { foldRun } from "../runs/index.ts";
import type { ActivitySpan, CameraActivity } from "./simulatedCamera.ts";

const ACTS: readonly string[] = ["start", "gap", "resume", "end", "undo", "correction"];

/** Spans from the first press of start on; empty without one. Undo and corrections act from their own press. */
export function activitySpans(marks: readonly Mark[]): ActivitySpan[] {
  const acts = marks.filter((m) => ACTS.includes(m.kind)).sort((a, b) => a.madeAtMs - b.madeAtMs || a.deviceSeq - b.deviceSeq);
  const spans: ActivitySpan[] = [];
  acts.forEach((act, i) => {
    const activity = activityAfter(acts.slice(0, i + 1));
    if (activity !== null && spans.at(-1)?.activity !== activity) spans.push({ fromMs: act.madeAtMs, activity });
  });
  return spans;
}

function activityAfter(known: readonly Mark[]): CameraActivity | null {
  const fold = foldRun(known);
  if (fold.state === "none") return null;
  if (fold.state === "rolling") return "recording";
  const gap = fold.gaps.findLast((g) => g.toMs === null);
  return fold.state === "gap" && gap?.power === "on" ? "idle" : "off";
}
