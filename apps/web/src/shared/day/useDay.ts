// One day, planned: everything on record joined, the worker asked, asked again when facts change and once a minute while the day lasts.

import { kitApi } from "../kit/api.ts";
import type { DayDoc, PlanDoc } from "@keep-rolling/contract/plan";
import type { Kit } from "@keep-rolling/contract/kit";
import type { CellSetup } from "@keep-rolling/core/kit";
import type { DayPlan, Expected } from "@keep-rolling/core/planning";
import { useEffect, useMemo, useState } from "react";
import { isAbandoned, pool } from "../../workers/pool.ts";
import { useBenchNow, useClock } from "../../record/benchTime.ts";
import { useRuns } from "../../record/runs.ts";
import { useSettings } from "../settings/settings.ts";
import type { DayQuestion } from "./dayRequest.ts";
import { dayRequest } from "./dayRequest.ts";
import type { Evidence } from "./evidence.ts";
import { evidenceOf } from "./evidence.ts";
import { msOfMinute } from "./frame.ts";

/** Of all units: for days and plans. */
function useEvidence(kit: Kit | undefined, skip = false): { evidence: Evidence | null; error: unknown } {
  const { temperature } = useSettings();
  const { runs, unread, error } = useRuns({}, skip);
  const evidence = useMemo(
    () => (kit === undefined || unread ? null : evidenceOf(kit, runs, temperature)),
    [kit, runs, unread, temperature],
  );
  return { evidence, error: unread ? error : undefined };
}

export interface CellEvidence {
  /** Null: not read yet, or it cannot be read. What has not been read is no evidence of a cold body or of no limit. */
  evidence: Evidence | null;
  error: unknown;
}

/** For one cell: its unit's runs, and those of all units only where its own have nothing to say of its mode. */
export function useCellEvidence(kit: Kit | undefined, cell: CellSetup | null): CellEvidence {
  const { temperature } = useSettings();
  const { runs, unread, error } = useRuns(cell === null ? {} : { unit: cell.unit.id }, cell === null);
  const own = useMemo(() => (kit === undefined || unread ? null : evidenceOf(kit, runs, temperature)), [kit, runs, unread, temperature]);
  const others = own !== null && cell !== null && !OF_ITS_MODE.includes(basisOf(own.expected(cell)));
  const all = useEvidence(kit, !others);
  return others ? all : { evidence: own, error: unread ? error : undefined };
}

const OF_ITS_MODE: readonly string[] = ["this cell", "another firmware", "another protocol", "another condition"];
const basisOf = (expected: Expected): string => (expected.ok ? expected.range.basis : "none");

export interface PlannedDay {
  kit: Kit;
  day: DayDoc & { rev: number };
  plan: PlanDoc & { rev: number };
  question: DayQuestion;
  schedule: DayPlan;
  evidence: Evidence;
  /** Null when the day is not today. */
  nowMs: number | null;
  clockNowMs: number;
}
export type DayState =
  | { state: "reading" }
  | { state: "lost" }
  | { state: "trouble"; error: unknown; retry: () => void }
  | { state: "planned"; day: PlannedDay };

const MINUTE_MS = 60_000;

export function useDay(dayId: string): DayState {
  const { data: kit, error, refetch } = kitApi.useKitQuery();
  const events = kitApi.useUnitEventsQuery();
  const { evidence, error: runsError } = useEvidence(kit);
  const day = kit?.days.find((d) => d.id === dayId);
  const plan = kit?.plans.find((p) => p.id === day?.planId);
  const clock = useClock(plan?.bench);
  const clockNowMs = useBenchNow(clock, 5000);
  const nowMs = day === undefined ? null : duringDay(day, clockNowMs);
  const [schedule, setSchedule] = useState<DayPlan | null>(null);
  const planNowMs = usePlanNow([kit, evidence, events.data], nowMs, schedule);
  const heatNowMs = planNowMs ?? Math.floor(clockNowMs / (10 * MINUTE_MS)) * 10 * MINUTE_MS;
  const question = useMemo(
    () =>
      kit === undefined || day === undefined || plan === undefined || evidence === null || events.data === undefined || clock === undefined
        ? null
        : dayRequest({ kit, plan, day, evidence, events: events.data.events, nowMs: planNowMs, heatNowMs }),
    [kit, day, plan, evidence, events.data, clock, planNowMs, heatNowMs],
  );
  const failure = useSchedule(question, setSchedule);
  const trouble = error ?? events.error ?? runsError ?? failure;
  if (kit !== undefined && (day === undefined || plan === undefined)) return { state: "lost" };
  if (schedule === null && trouble !== undefined && trouble !== null)
    return { state: "trouble", error: trouble, retry: () => void refetch() };
  if (kit === undefined || day === undefined || plan === undefined || question === null || schedule === null || evidence === null)
    return { state: "reading" };
  return { state: "planned", day: { kit, day, plan, question, schedule, evidence, nowMs, clockNowMs } };
}

/** Whole minutes, so that the planner is asked once a minute and not at every tick. */
function duringDay(day: DayDoc, clockNowMs: number): number | null {
  const minuteMs = Math.floor(clockNowMs / MINUTE_MS) * MINUTE_MS;
  return minuteMs >= msOfMinute(day, day.fromMin) ? minuteMs : null;
}

/**
 * The moment the plan is made from: it stands until a fact changes or a block is overdue, so that blocks do not wander with every minute.
 * Null ahead of the day.
 */
function usePlanNow(facts: readonly unknown[], nowMs: number | null, schedule: DayPlan | null): number | null {
  const [held, hold] = useState<{ facts: readonly unknown[]; nowMs: number | null }>({ facts, nowMs });
  const changed = facts.some((f, i) => f !== held.facts[i]) || (held.nowMs === null) !== (nowMs === null);
  if (changed || (held.nowMs !== nowMs && isOverdue(schedule, nowMs))) {
    hold({ facts, nowMs });
    return nowMs;
  }
  return held.nowMs;
}

const isOverdue = (schedule: DayPlan | null, nowMs: number | null): boolean =>
  nowMs !== null &&
  schedule !== null &&
  schedule.blocks.some((b) => (b.state === "planned" ? b.startMs < nowMs : b.state === "rolling" && b.endHiMs < nowMs));

function useSchedule(question: DayQuestion | null, onSchedule: (schedule: DayPlan) => void): string | null {
  const [failure, setFailure] = useState<string | null>(null);
  useEffect(() => {
    if (question === null) return;
    // A newer question makes the answer to an older one worthless.
    const asking = new AbortController();
    pool.call("planDay", question.request, { signal: asking.signal }).then(
      (schedule) => {
        setFailure(null);
        onSchedule(schedule);
      },
      (error: unknown) => {
        if (!isAbandoned(error)) setFailure(error instanceof Error ? error.message : String(error));
      },
    );
    return () => asking.abort();
  }, [question, onSchedule]);
  return failure;
}
