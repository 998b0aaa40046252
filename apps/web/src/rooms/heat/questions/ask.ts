// The ten questions of the room in three groups, which cells can answer each, and what an answer is given.

import type { FullCell, UnitReport } from "@keep-rolling/core/reading";
import type { Endpoint } from "@keep-rolling/core/runs";
import type { SeenRun } from "../../../record/runs.ts";
import type { ClaimLevels, HeatCell } from "../cells.ts";

/** Name in the address, name on the page, the question as the page's title. */
export const QUESTIONS = [
  ["lasts", "Time to rely on", "how long does it last"],
  ["first", "What ends it first", "what ends it first"],
  ["levelled", "Had it levelled off", "had it levelled off"],
  ["why", "Why runs differ", "why do runs differ"],
  ["temperature", "Another temperature", "at another temperature"],
  ["change", "Before and after", "firmware and settings, before and after"],
  ["recovery", "Recovery", "how does it come back"],
  ["warning", "Warning", "how much warning"],
  ["rating", "Published times", "are the published times true"],
  ["next", "What to test next", "what to test next"],
] as const;
export type QuestionName = (typeof QUESTIONS)[number][0];

export const GROUPS: readonly (readonly [string, readonly QuestionName[]])[] = [
  ["how long", ["lasts", "first", "levelled"]],
  ["why", ["why", "temperature", "change"]],
  ["what then", ["recovery", "warning", "rating", "next"]],
];

/** Whether a question has something to say of this cell. Those about the whole unit are answered from every cell alike. */
const SAYS: Readonly<Record<QuestionName, (cell: FullCell) => boolean>> = {
  lasts: (c) => c.reading.statement.ok,
  first: (c) => c.ends.runIds.length > 0,
  levelled: (c) => c.levelling.some((l) => l.reading.ok),
  why: () => true,
  temperature: (c) => c.ambient.points.some((p) => p.physics.ok || p.regression.ok || (!p.physics.ok && p.physics.reason === "never")),
  change: () => true,
  recovery: (c) => c.recovery.points.length > 0,
  warning: (c) => c.leads.ok,
  rating: (c) => c.figures.some((f) => f.check !== null || f.figure.kind === "outside"),
  next: () => true,
};

/** Where this cell is silent: those that can answer, in their order; empty where it speaks itself. */
export const answeredBy = (question: QuestionName, here: FullCell, all: readonly FullCell[]): FullCell[] =>
  SAYS[question](here) ? [] : all.filter((c) => c.key !== here.key && SAYS[question](c));

export interface Answerable {
  cell: HeatCell;
  full: FullCell;
  report: UnitReport;
  runs: readonly SeenRun[];
  endpoint: Endpoint;
  levels: ClaimLevels;
}
