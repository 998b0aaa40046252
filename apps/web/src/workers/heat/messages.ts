// What the page and the worker that reads a unit say to each other.

import type { CandidateRun } from "@keep-rolling/core/cells";
import type { CellBound, NextCell, NextRun, RunsUntil, UnitReport } from "@keep-rolling/core/reading";
import type { Asked } from "@keep-rolling/core/cells";
import type { BareQuestion } from "./parts.ts";

export interface NextQuestion {
  cells: NextCell[];
  bounds: CellBound[];
  asked: Asked;
  /** Seconds wanted of each cell, in order; null: nothing is asked of it. */
  wantedSec: (number | null)[];
}
export interface NextAnswer {
  next: NextRun[];
  until: (RunsUntil | null)[];
}
export type HeatJob =
  | { jobId: number; kind: "runs"; runs: CandidateRun[] }
  | { jobId: number; kind: "unit"; question: BareQuestion }
  | { jobId: number; kind: "next"; question: NextQuestion };
export type HeatReply =
  | { jobId: number; kind: "unit"; report: UnitReport; tookMs: number }
  | { jobId: number; kind: "next"; answer: NextAnswer; tookMs: number }
  | { jobId: number; kind: "failed"; code: string };
