// When the next checkpoint is due, and what of the known limits will end this run: today the clip limit only.

import type { RunFold } from "./fold.ts";

export interface NextDue {
  dueMs: number;
  overdue: boolean;
  /** The interval that set it: the plan's, or the closer one after the first warning. */
  everyMs: number;
}

/** A reading or touch up to a fifth of the interval early answers a checkpoint. */
const EARLY_SHARE = 0.2;

/** Checkpoints stand on a grid from the start, and on a closer grid from the first warning on. Null unless under way. */
export function nextDue(fold: RunFold, nowMs: number): NextDue | null {
  if (fold.setup === null || fold.startMs === null || (fold.state !== "rolling" && fold.state !== "gap")) return null;
  const { checkpointSec, checkpointAfterWarningSec } = fold.setup.protocol;
  const warnedMs = fold.warnings[0]?.shownMs;
  const originMs = warnedMs ?? fold.startMs;
  const everyMs = 1000 * (warnedMs === undefined ? checkpointSec : checkpointAfterWarningSec);
  if (everyMs <= 0) return null;
  const answers = [...fold.readings, ...fold.touches].map((m) => m.atMs);
  const lastMs = Math.max(originMs, ...answers);
  const dueMs = originMs + everyMs * (Math.floor((lastMs - originMs) / everyMs + EARLY_SHARE) + 1);
  return { dueMs, overdue: nowMs >= dueMs, everyMs };
}

export interface ExpectedEnd {
  cause: "clip limit";
  atElapsedMs: number;
}

/** Known ends ahead, as elapsed positions on the strip. A clip counts from the last start, resume or split. */
export function expectedEnds(fold: RunFold): ExpectedEnd[] {
  const limitSec = fold.setup?.mode.clipLimitSec ?? null;
  const segment = fold.segments.at(-1);
  if (limitSec === null || fold.startMs === null || fold.state !== "rolling" || segment === undefined) return [];
  const clipFromMs = Math.max(segment.fromMs, ...fold.splits);
  return [{ cause: "clip limit", atElapsedMs: clipFromMs + limitSec * 1000 - fold.startMs }];
}
