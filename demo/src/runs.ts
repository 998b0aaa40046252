// The crew's test days, run by run. Each body has its own line of work; rests decide what starts cold.

import { setupSnapshot } from "@keep-rolling/core/kit";
import type { ConditionDoc, Kit } from "@keep-rolling/contract/kit";
import { randomFrom } from "@keep-rolling/core/statistics";
import type { StartBody } from "@keep-rolling/core/runs";
import { UNTIL_IT_STOPS } from "./builtIn.ts";
import { CONDITIONS, MODES, PLOVER, ROLLING_SLOT, scenarioKit, TERN, WADER } from "./scenario.ts";
import type { Counter, DemoRun, RunPlan, Swap } from "./tester.ts";
import { playRun } from "./tester.ts";

type Mode = Omit<Kit["modes"][number], "rev">;
export interface Work {
  unitId: string;
  mode: Mode;
  condition: ConditionDoc;
  /** Minutes since the body was last switched off; 0: next morning. */
  restMin: number;
  swap?: Swap;
  ending?: RunPlan["ending"];
  /** What the body ran then; absent: as in the kit. */
  firmware?: string;
  /** Started from the run before it, after a rest. */
  follows?: "recovery" | "fallback";
}

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
/** Wednesday 11 June 2031, 07:30 UTC. */
export const FIRST_MORNING_MS = Date.UTC(2031, 5, 11, 7, 30);
/** What the demo clock reads when the demo is first opened: Sunday 15 June 2031, 10:20 UTC. */
export const DEMO_NOW_MS = Date.UTC(2031, 5, 15, 10, 20);
/** Sunday 1 June 2031, 06:30 UTC. */
const FIRST_WEEK_MS = Date.UTC(2031, 5, 1, 6, 30);
const STOP_AFTER_SEC = 3 * 3600;
const COLD_MIN = 120;

const many = (n: number, work: Work): Work[] => Array.from({ length: n }, () => work);
const swap = (afterSec: number, lengthSec: number, power: "on" | "off", cause: Swap["cause"] = "card swap"): Swap => ({
  afterSec,
  lengthSec,
  power,
  cause,
});

/** A body's runs are cold unless said. */
const worksOf =
  (unitId: string) =>
  (mode: Mode, condition: ConditionDoc, more: Partial<Work> = {}): Work => ({ unitId, mode, condition, restMin: COLD_MIN, ...more });

function workOf(): Work[] {
  const { boathouse, boathouseMains, pontoon, tower } = CONDITIONS;
  const [plover, tern, wader] = [worksOf(PLOVER), worksOf(TERN), worksOf(WADER)];
  return [
    ...many(2, plover(MODES.ploverHot, boathouse)),
    plover(MODES.ploverHot, boathouse, { restMin: 14 }),
    plover(MODES.ploverHot, boathouse, { swap: swap(1340, 17, "on") }),
    ...many(2, plover(MODES.ploverHot, boathouse)),
    ...many(3, plover(MODES.ploverHot, pontoon)),
    plover(MODES.ploverHot, pontoon, { restMin: 1, ending: "refused" }),
    ...many(2, plover(MODES.ploverDay, boathouse)),
    plover(MODES.ploverDay, boathouse, { swap: swap(3000, 95, "off", "battery swap") }),
    ...many(4, tern(MODES.ternFast, tower)),
    ...many(2, tern(MODES.ternDay, boathouse)),
    ...many(2, tern(MODES.ternDay, pontoon)),
    wader(MODES.waderDay, boathouse, { ending: "void" }),
    ...many(3, wader(MODES.waderDay, boathouse)),
    ...many(2, wader(MODES.waderLight, tower)),
    ...many(2, wader(MODES.waderDay, pontoon)),
    wader(MODES.waderDay, pontoon, { restMin: 9 }),
    wader(MODES.waderLight, boathouseMains),
  ];
}

const VOID_AFTER_SEC = 260;

/** About sixty finished runs and one that still rolls on Tern A. Same output on every call. */
export function demoRuns(): DemoRun[] {
  const counter: Counter = { marks: 0, runs: 0 };
  const random = randomFrom(20_310_615);
  const last = new Map<string, DemoRun>();
  const runs: DemoRun[] = [];
  for (const work of workOf()) {
    const before = last.get(work.unitId) ?? null;
    const startMs = nextStart(before?.endMs ?? null, work.restMin, random.int(0, 8));
    const ambientC = Math.round((work.condition.ambientC + 0.5 * random.normal()) * 10) / 10;
    const stopAfterSec = work.ending === "void" ? VOID_AFTER_SEC : STOP_AFTER_SEC;
    const run = playRun({ setup: setupOf(work, ambientC), startMs, stopAfterSec, swap: work.swap, ending: work.ending }, before, counter);
    last.set(work.unitId, run);
    runs.push(run);
  }
  const rolling: Work = { unitId: TERN, mode: MODES.ternFast, condition: CONDITIONS.tower, restMin: 0 };
  const plan: RunPlan = {
    setup: { ...setupOf(rolling, 26.2), slot: ROLLING_SLOT },
    startMs: DEMO_NOW_MS - 16 * 60_000 - 12_000,
    stopAfterSec: STOP_AFTER_SEC,
    ending: "rolling",
    nowMs: DEMO_NOW_MS,
  };
  return [...runs, playRun(plan, null, counter), ...earlierWeek(counter)];
}

/** The crew's first week with Plover B, before the regatta days: an old firmware, three temperatures, recoveries, a lighter codec. */
function earlierWeek(counter: Counter): DemoRun[] {
  const random = randomFrom(20_310_604);
  const runs: DemoRun[] = [];
  for (const work of firstWeek()) {
    const before = runs.at(-1) ?? null;
    const startMs = before === null ? FIRST_WEEK_MS : nextStart(before.endMs, work.restMin, random.int(0, 8));
    const ambientC = Math.round((work.condition.ambientC + 0.5 * random.normal()) * 10) / 10;
    const setup = setupOf(work, ambientC);
    const parent = work.follows === undefined ? {} : { runKind: work.follows, parentRunId: before?.runId };
    const plan = { setup: { ...setup, ...parent }, startMs, stopAfterSec: STOP_AFTER_SEC, swap: work.swap, ending: work.ending };
    runs.push(playRun(plan, before, counter));
  }
  return runs;
}

function firstWeek(): Work[] {
  const { boathouse, boathouseEarly, boathouseHot } = CONDITIONS;
  const plover = worksOf(PLOVER);
  const { ploverHot, ploverLong } = MODES;
  const again = (restMin: number, more: Partial<Work> = {}): Work =>
    plover(ploverHot, boathouseHot, { restMin, follows: "recovery", ...more });
  return [
    ...many(5, plover(ploverHot, boathouse, { firmware: "2.0" })),
    ...many(4, plover(ploverHot, boathouseEarly)),
    plover(ploverHot, boathouseHot),
    again(3, { ending: "refused" }),
    plover(ploverHot, boathouseHot),
    again(12),
    plover(ploverHot, boathouseHot),
    again(25),
    plover(ploverHot, boathouseHot),
    again(45),
    plover(ploverLong, boathouseHot, { restMin: 4, follows: "fallback" }),
    ...many(6, plover(ploverLong, boathouse)),
  ];
}

function nextStart(endMs: number | null, restMin: number, jitterMin: number): number {
  if (endMs === null) return FIRST_MORNING_MS + jitterMin * 60_000;
  const startMs = endMs + (restMin + (restMin >= COLD_MIN ? jitterMin : 0)) * 60_000;
  const dayStart = FIRST_MORNING_MS + Math.floor((startMs - FIRST_MORNING_MS) / DAY) * DAY;
  // A recovery is never left for the morning.
  return restMin >= COLD_MIN && startMs - dayStart > 9.5 * HOUR ? dayStart + DAY + jitterMin * 60_000 : startMs;
}

export function setupOf(work: Work, ambientC: number): Omit<StartBody, "startState"> {
  const unit = scenarioKit.units.find((u) => u.id === work.unitId);
  const model = scenarioKit.models.find((m) => m.id === unit?.modelId);
  if (unit === undefined || model === undefined) throw new RangeError(`unit ${work.unitId} is not in the scenario`);
  return {
    runKind: work.restMin > 0 && work.restMin < 60 && work.ending === "refused" ? "recovery" : "endurance",
    ...setupSnapshot({
      unit: { ...unit, firmware: work.firmware ?? unit.firmware, bench: "demo" },
      model,
      mode: work.mode,
      condition: work.condition,
      protocol: UNTIL_IT_STOPS,
    }),
    ambient: { valueC: ambientC, plusMinusC: 0.5, basis: "measured" },
  };
}
