// A unit's runs on their way to the worker: without what no statistic reads, and a few at a time, so that copying them never holds the page.

import type { CandidateRun } from "@keep-rolling/core/cells";
import type { UnitQuestion } from "@keep-rolling/core/reading";
import type { Mark } from "@keep-rolling/core/runs";
import { isForeign } from "@keep-rolling/core/runs";

/** Copying this many takes a few milliseconds. */
export const RUNS_A_PART = 60;

const NO_IDS: ReadonlySet<string> = new Set();

/** Of the marks only those stay that say how long the camera has left, and how the run came to the record; of the readings those of the body's heat. */
export function lean({ runId, fold, struck }: CandidateRun): CandidateRun {
  const readings = fold.readings.filter((r) => r.body.gauge !== undefined || r.body.shellC !== undefined);
  const effective = fold.effective.filter(isNeeded);
  return { runId, struck, fold: { ...fold, readings, effective, usedIds: NO_IDS, notes: [], photos: [], touches: [] } };
}

const isNeeded = (m: Mark): boolean =>
  !isForeign(m) && (m.kind === "start" || m.kind === "warning" || (m.kind === "reading" && m.body.countdownSec !== undefined));

export function inParts<T>(all: readonly T[], size: number): T[][] {
  if (!(size >= 1)) throw new RangeError(`size must be at least 1, got ${size}`);
  return Array.from({ length: Math.ceil(all.length / size) }, (_, i) => all.slice(i * size, (i + 1) * size));
}

/** What is asked of the runs sent before. */
export type BareQuestion = Omit<UnitQuestion, "candidates">;
export function bare(question: UnitQuestion): BareQuestion {
  const { candidates: _runs, ...rest } = question;
  return rest;
}
