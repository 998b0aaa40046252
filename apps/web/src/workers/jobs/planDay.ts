import type { DayPlan, DayRequest } from "@keep-rolling/core/planning";
import { planDay } from "@keep-rolling/core/planning";

/** The schedule of one day. */
export const run = (request: DayRequest): DayPlan => planDay(request);
