// The ten questions of the room, in the order they are asked, and what each answer is given.

import type { FullCell, UnitReport } from "@keep-rolling/core/reading";
import type { Endpoint } from "@keep-rolling/core/runs";
import type { SeenRun } from "../../../record/runs.ts";
import type { ClaimLevels, HeatCell } from "../cells.ts";

export const QUESTIONS = [
  ["lasts", "How long does it last?"],
  ["why", "Why do runs differ?"],
  ["temperature", "At another temperature?"],
  ["levelled", "Had it levelled off?"],
  ["recovery", "How does it come back?"],
  ["warning", "How much warning?"],
  ["rating", "Is the rating true?"],
  ["first", "What ends it first?"],
  ["next", "What next?"],
  ["change", "Before and after?"],
] as const;
export type QuestionName = (typeof QUESTIONS)[number][0];

export interface Answerable {
  cell: HeatCell;
  full: FullCell;
  report: UnitReport;
  runs: readonly SeenRun[];
  endpoint: Endpoint;
  levels: ClaimLevels;
}
