// What the page and the planner's worker say to each other.

import type { DayPlan, DayRequest } from "@keep-rolling/core/planning";

export interface PlanJob {
  jobId: number;
  request: DayRequest;
}
export type PlanReply = { jobId: number; kind: "done"; plan: DayPlan; tookMs: number } | { jobId: number; kind: "failed"; code: string };
