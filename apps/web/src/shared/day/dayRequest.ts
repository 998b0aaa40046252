// The planner's request for one day, from what is on record: kit, plan, the tester's choices, runs, events, the clock.

import type { TimeConstant } from "@keep-rolling/core/heat";
import type { DayDoc, PlanDoc, SlotChoice } from "@keep-rolling/contract/plan";
import type { Kit, UnitEvent } from "@keep-rolling/contract/kit";
import type { DayRequest, WantedRun, RunUnderway, Span } from "@keep-rolling/core/planning";
import { breaksOf, DEFAULT_RULES, orderTrials, schoolsOf } from "@keep-rolling/core/planning";
import { DAYS_FOR_NEW, seedOf } from "@keep-rolling/core/statistics";
import type { SeenRun } from "../../record/runs.ts";
import { stockOf, traitsOf } from "./cells.ts";
import type { Evidence } from "./evidence.ts";
import { outsOf } from "./evidence.ts";
import { msOfMinute } from "./frame.ts";
import type { CellState } from "./matrix.ts";
import { cellStates } from "./matrix.ts";

export interface DayInput {
  kit: Kit;
  plan: PlanDoc;
  day: DayDoc;
  evidence: Evidence;
  events: readonly UnitEvent[];
  /** Null: the day is planned ahead. */
  nowMs: number | null;
  /** Until when a run that still rolls has heated its body. */
  heatNowMs: number;
}
export interface OrderNote {
  unitId: string;
  placeOff: number;
  /** Cells with two trials or more on this day that will still have been tested on fewer than three. */
  fewDays: number;
}
export interface DayQuestion {
  request: DayRequest;
  order: OrderNote[];
  /** What the ledger of each unit works with. */
  constants: { unitId: string; unit: string; constant: TimeConstant }[];
}

export const slotName = (cellId: string, trial: number): string => `${cellId}#${trial}`;

export function dayRequest(input: DayInput): DayQuestion {
  const { kit, day, evidence, events, nowMs, heatNowMs } = input;
  const fromMs = msOfMinute(day, day.fromMin);
  const toMs = msOfMinute(day, day.toMin);
  const units = day.units.flatMap((id) => kit.units.filter((u) => u.id === id));
  const underway = underwayOf(input, fromMs, toMs);
  const states = cellStates(kit, input.plan, evidence.runs, day.zone);
  const perUnit = units.map((u) => unitWanted(input, states, u.id, fromMs, underway));
  // One reading of a unit's heat: its intervals for the board, its constant for the words.
  const bodies = units.map((u, i) =>
    evidence.body(
      u.id,
      heatNowMs,
      (perUnit[i]?.wantedRuns ?? []).map((w) => schoolsOf(w.setup.protocol).tauMin),
    ),
  );
  const spanMs = (s: { fromMin: number; toMin: number }) => ({ fromMs: msOfMinute(day, s.fromMin), toMs: msOfMinute(day, s.toMin) });
  const request: DayRequest = {
    fromMs,
    toMs,
    nowMs,
    units: bodies.map(({ intervals, tauMs }, i) => {
      const u = units[i] as (typeof units)[number];
      return { id: u.id, name: u.name, traits: traitsOf(kit, u), outs: outsOf(events, u.id), heat: [...intervals], tauMs };
    }),
    wantedRuns: perUnit.flatMap((p) => p.wantedRuns),
    stock: stockOf(kit),
    sun: day.sun.map(spanMs),
    breaks: within(
      breaksOf(day.weather.map((w) => ({ ...spanMs(w), tempC: w.tempC, humidityPct: w.humidityPct, sun: w.sun }))),
      fromMs,
      toMs,
    ),
    underway,
    rules: { ...DEFAULT_RULES, chargers: day.chargers, turnoverMs: day.turnoverMin * 60_000 },
  };
  const order = perUnit.map((p, i) => ({ unitId: units[i]?.id ?? "", placeOff: p.placeOff, fewDays: p.fewDays }));
  return {
    request,
    order,
    constants: bodies.map(({ constant }, i) => ({ unitId: units[i]?.id ?? "", unit: units[i]?.name ?? "", constant })),
  };
}

/** A unit's trials of the day in the wanted order. Trials are numbered through the plan, so one started from its block keeps its number. */
function unitWanted(input: DayInput, states: readonly CellState[], unitId: string, fromMs: number, underway: readonly RunUnderway[]) {
  const { day } = input;
  const trials = states.flatMap((s) => {
    if (s.cell.unitId !== unitId || s.cell.skip !== null || s.setup === null) return [];
    const before = s.counted.filter((c) => c.startMs < fromMs).length;
    const slotted = new Set(underway.flatMap((d) => (d.cellId === s.cell.id && d.slot !== null ? [d.slot] : [])));
    const ofSlots = new Set(input.evidence.runs.filter((r) => slotted.has(r.fold.setup?.slot?.slot ?? "")).map((r) => r.id));
    const others = s.counted.filter((c) => !ofSlots.has(c.runId));
    // A counted run of today that was not started from a block has done one of the last trials.
    const beside = others.filter((c) => c.startMs >= fromMs).length;
    const madeToday = others.filter((c) => c.day === day.date).length;
    const slots: string[] = [];
    for (let n = before + 1; n <= s.cell.trials - beside; n++) slots.push(slotName(s.cell.id, n));
    return [{ state: s, slots: slots.filter((slot) => choiceOf(day, slot)?.out !== true), madeToday }];
  });
  const seed = seedOf(`${day.seed}/${unitId}`);
  const order = orderTrials(
    trials.map((t) => ({ cell: t.state.cell.id, trials: t.slots.length, madeToday: t.madeToday })),
    day.orderSchool,
    seed,
  );
  const left = new Map(trials.map((t) => [t.state.cell.id, [...t.slots]]));
  const wanted = order.cells.flatMap((cellId) => {
    const slot = left.get(cellId)?.shift();
    const trial = trials.find((t) => t.state.cell.id === cellId);
    return slot === undefined || trial?.state.setup == null ? [] : [wantedOf(input, trial.state, slot)];
  });
  const fewDays = trials.filter((t) => t.slots.length > 1 && new Set([...t.state.counted.map((c) => c.day), day.date]).size < DAYS_FOR_NEW);
  return { wantedRuns: wanted, placeOff: order.placeOff, fewDays: fewDays.length };
}

export const choiceOf = (day: Pick<DayDoc, "choices">, slot: string): SlotChoice | undefined => day.choices.find((c) => c.slot === slot);

function wantedOf({ day, evidence }: DayInput, state: CellState, slot: string): WantedRun {
  const { setup, cell } = state;
  if (setup === null) throw new RangeError(`cell ${cell.id} has no setup`);
  const choice = choiceOf(day, slot);
  return {
    slot,
    unitId: cell.unitId,
    cellId: cell.id,
    setup,
    heat: evidence.expected(setup),
    watts: evidence.watts(setup),
    pinMs: choice?.startMin == null ? null : msOfMinute(day, choice.startMin),
    cardId: choice?.cardId ?? null,
    swaps: choice?.swaps ?? schoolsOf(setup.protocol).swaps === "as needed",
  };
}

/** Runs of the day's units in the day's time, void ones left out: those started from blocks, and others beside the plan. */
function underwayOf({ day, evidence, nowMs }: DayInput, fromMs: number, toMs: number): RunUnderway[] {
  const mine = evidence.runs.filter(
    (r) => r.fold.setup !== null && r.fold.state !== "void" && r.fold.state !== "none" && day.units.includes(r.fold.setup.unit.id),
  );
  const latest = new Map<string, SeenRun>();
  for (const r of mine) {
    const slot = slotOf(day, r);
    if (slot !== null && (latest.get(slot)?.fold.startMs ?? -1) < (r.fold.startMs ?? 0)) latest.set(slot, r);
  }
  return mine.flatMap((r): RunUnderway[] => {
    const { setup, startMs, end } = r.fold;
    const endMs = end?.hiMs ?? null;
    const slot = slotOf(day, r);
    if (setup === null || startMs === null) return [];
    if (slot === null && (startMs >= toMs || (endMs ?? nowMs ?? startMs) <= fromMs)) return [];
    const own = slot !== null && latest.get(slot) === r ? slot : null;
    return [{ slot: own, unitId: setup.unit.id, cellId: own?.split("#")[0] ?? "", setup, heat: evidence.expected(setup), startMs, endMs }];
  });
}

const slotOf = (day: DayDoc, r: SeenRun): string | null => (r.fold.setup?.slot?.dayId === day.id ? r.fold.setup.slot.slot : null);

/** The parts of spans that lie within the day: a break before it begins is none. */
const within = (spans: readonly Span[], fromMs: number, toMs: number): Span[] =>
  spans
    .filter((b) => b.toMs > fromMs && b.fromMs < toMs)
    .map((b) => ({ fromMs: Math.max(b.fromMs, fromMs), toMs: Math.min(b.toMs, toMs) }));
