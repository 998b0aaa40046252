// From what is on record to the planner's question: minutes and zones, trials left, slots, what really ran, events.

import type { DayDoc, PlanDoc } from "@keep-rolling/contract/plan";
import type { Kit, UnitEvent } from "@keep-rolling/contract/kit";
import { DEFAULT_SCHOOLS, planDay } from "@keep-rolling/core/planning";
import type { Mark, StartBody } from "@keep-rolling/core/runs";
import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CONDITION, MODE, PROTOCOL } from "../../testing/kit.ts";
import { mark } from "../../testing/marks.ts";
import type { SeenRun } from "../../record/runs.ts";
import { setupOf } from "./cells.ts";
import { dayRequest, slotName } from "./dayRequest.ts";
import { evidenceOf, liveEvents, outsOf } from "./evidence.ts";
import { clockOf, clockOfMinute, dateOf, longDate, minuteOfMs, minuteOfText, msOfMinute, nextDate } from "./frame.ts";
import { cellStates } from "./matrix.ts";

const id = (n: number): string => `01900000-0000-7000-8000-${String(n).padStart(12, "0")}`;
const row = (n: number) => ({ id: id(n), archived: false, rev: 1 });
const kit: Kit = {
  models: [{ ...row(1), name: "Model", sensorWidthMm: 36, sensorHeightMm: 24, megapixels: 24, traits: null }],
  units: [{ ...row(2), modelId: id(1), name: "Body", serialLabel: "", firmware: "1.0", notes: "", bench: "real" }],
  modes: [{ ...row(3), modelId: id(1), ...MODE }],
  figures: [],
  items: [{ ...row(8), name: "Cell", count: 2, fits: "", notes: "", spec: { kind: "battery", wh: 16, chargeMin: 60 } }],
  conditions: [{ ...row(4), ...CONDITION, settings: null }],
  protocols: [{ ...row(5), ...PROTOCOL, schools: null }],
  plans: [],
  days: [],
};
const CELL = { id: id(10), unitId: id(2), modeId: id(3), conditionId: id(4), protocolId: id(5), trials: 3, skip: null };
const plan: PlanDoc = { id: id(6), archived: false, name: "Plan", bench: "real", cells: [CELL] };
const day: DayDoc = {
  id: id(7),
  archived: false,
  name: "Day",
  planId: id(6),
  date: "2031-06-15",
  zone: "Europe/Dublin",
  fromMin: 540,
  toMin: 1080,
  orderSchool: "as listed",
  seed: 1,
  units: [id(2)],
  sun: [],
  weather: [],
  chargers: 1,
  turnoverMin: 15,
  choices: [],
};
const start = (more: Partial<StartBody> = {}): StartBody => {
  const setup = setupOf(kit, CELL);
  if (setup === null) throw new Error("the kit is incomplete");
  return {
    runKind: "endurance",
    ...setup,
    ambient: { valueC: 22, plusMinusC: 0.5, basis: "measured" },
    startState: { state: "cold", by: "gauge" },
    ...more,
  };
};
const DAY_MS = 86_400_000;
function ran(runId: string, atMs: number, minutes: number | null, more: Partial<StartBody> = {}, undone = false): SeenRun {
  const first = mark("start", atMs / 1000, start(more));
  const marks: Mark[] = [first];
  if (minutes !== null) marks.push(mark("end", atMs / 1000 + minutes * 60, { cause: "thermal shutdown" }));
  if (undone) marks.push({ ...mark("undo", atMs / 1000 + 600, {}), target: first.id });
  const fold = foldRun(marks);
  return { id: runId, row: null, marks, fold, trace: heatTrace(fold, [], []), unmarked: [] };
}
const ask = (runs: SeenRun[], more: Partial<DayDoc> = {}, nowMs: number | null = null, events: UnitEvent[] = []) =>
  dayRequest({ kit, plan, day: { ...day, ...more }, evidence: evidenceOf(kit, runs), events, nowMs, heatNowMs: nowMs ?? FROM - DAY_MS / 2 })
    .request;
const FROM = msOfMinute(day, 540);

describe("a day's minutes", () => {
  it("are wall-clock minutes of its zone, also when summer time begins or ends that night", () => {
    expect(FROM).toBe(Date.UTC(2031, 5, 15, 8, 0));
    // Dublin: clocks go forward on 30 March 2031 and back on 26 October 2031, at one o'clock UTC.
    const spring = { date: "2031-03-30", zone: "Europe/Dublin" };
    expect(msOfMinute(spring, 600) - msOfMinute(spring, 0)).toBe(9 * 3_600_000);
    const autumn = { date: "2031-10-26", zone: "Europe/Dublin" };
    expect(msOfMinute(autumn, 600) - msOfMinute(autumn, 0)).toBe(11 * 3_600_000);
    expect([clockOf(spring, msOfMinute(spring, 600)), clockOf(autumn, msOfMinute(autumn, 600))]).toEqual(["10:00", "10:00"]);
  });
  it("read back what they say, past midnight too", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 2880 }),
        fc.constantFrom("UTC", "Europe/Dublin", "Asia/Kolkata", "America/St_Johns"),
        (min, zone) => {
          expect(minuteOfMs({ date: "2031-06-15", zone }, msOfMinute({ date: "2031-06-15", zone }, min))).toBe(min);
        },
      ),
    );
    expect(clockOfMinute(1510)).toBe("1:10 +1");
    expect([minuteOfText("9:15"), minuteOfText("25:10"), minuteOfText("9"), minuteOfText("9:60"), minuteOfText("soon")]).toEqual([
      555,
      1510,
      540,
      null,
      null,
    ]);
  });
  it("know their date", () => {
    expect(dateOf(Date.UTC(2031, 5, 15, 23, 30), "Europe/Dublin")).toBe("2031-06-16");
    expect(nextDate("2031-12-31")).toBe("2032-01-01");
    expect(longDate("2031-06-15").replace(",", "")).toBe("Sunday 15 June 2031");
  });
});

describe("trials left", () => {
  it("are those not yet counted, numbered through the plan", () => {
    expect(ask([]).wantedRuns.map((w) => w.slot)).toEqual([1, 2, 3].map((n) => slotName(CELL.id, n)));
    expect(ask([ran("a", FROM - DAY_MS, 40)]).wantedRuns.map((w) => w.slot)).toEqual([2, 3].map((n) => slotName(CELL.id, n)));
    // A warm run does not count; another unit's neither.
    expect(ask([ran("a", FROM - DAY_MS, 40, { startState: { state: "warm", by: "gauge" } })]).wantedRuns).toHaveLength(3);
  });
  it("a run started from its block keeps its number, whatever becomes of it; a void one gives it back", () => {
    const slot = { dayId: day.id, slot: slotName(CELL.id, 2) };
    const runs = [ran("a", FROM - DAY_MS, 40), ran("b", FROM + 600_000, null, { slot })];
    const question = ask(runs, {}, FROM + 900_000);
    expect(question.underway).toMatchObject([{ slot: slot.slot, endMs: null, cellId: CELL.id }]);
    expect(planDay(question).blocks.map((b) => [b.slot, b.state])).toEqual([
      [slotName(CELL.id, 2), "rolling"],
      [slotName(CELL.id, 3), "planned"],
    ]);
    const voided = ask([ran("a", FROM - DAY_MS, 40), ran("b", FROM + 600_000, null, { slot }, true)], {}, FROM + 900_000);
    expect(voided.underway).toEqual([]);
    expect(voided.wantedRuns.map((w) => w.slot)).toContain(slot.slot);
    // It heated the body all the same.
    expect(voided.units[0]?.heat.at(-1)).toMatchObject({ fromMs: FROM + 600_000, shutdown: false });
  });
  it("a counted run of today beside the plan takes one of the last trials", () => {
    const question = ask([ran("a", FROM + 600_000, 40)], {}, FROM + 4_000_000);
    expect(question.wantedRuns.map((w) => w.slot)).toEqual([1, 2].map((n) => slotName(CELL.id, n)));
    expect(question.underway).toMatchObject([{ slot: null }]);
  });
  it("what rolls today has no part in a day to come", () => {
    const rolling = ran("a", FROM - DAY_MS, null);
    expect(ask([rolling]).underway).toEqual([]);
    expect(ask([rolling]).units[0]?.heat.at(-1)?.toMs).toBe(FROM - DAY_MS / 2);
    expect(ask([rolling], {}, FROM + 60_000).underway).toMatchObject([{ slot: null, endMs: null }]);
  });
  it("of two runs of one block the later is the block", () => {
    const slot = { dayId: day.id, slot: slotName(CELL.id, 1) };
    const question = ask([ran("a", FROM + 600_000, 5, { slot }), ran("b", FROM + 9_000_000, 40, { slot })], {}, FROM + 15_000_000);
    expect(question.underway.map((d) => [d.slot, d.startMs])).toEqual([
      [null, FROM + 600_000],
      [slot.slot, FROM + 9_000_000],
    ]);
  });
  it("left out, pinned and chosen cards travel with their slot", () => {
    const choice = { slot: slotName(CELL.id, 2), startMin: 600, cardId: id(8), swaps: true, out: false };
    const question = ask([], { choices: [choice, { ...choice, slot: slotName(CELL.id, 3), out: true }] });
    expect(question.wantedRuns.map((w) => [w.slot.at(-1), w.pinMs, w.cardId, w.swaps])).toEqual([
      ["1", null, null, false],
      ["2", msOfMinute(day, 600), id(8), true],
    ]);
  });
});

describe("the matrix", () => {
  it("says what is done and missing; skipped cells miss nothing", () => {
    const runs = [ran("a", FROM - DAY_MS, 40), ran("b", FROM - DAY_MS / 2, 50)];
    const [state] = cellStates(kit, plan, runs, "UTC");
    expect(state).toMatchObject({ missing: 1, statement: { ok: true, n: 2, valueMs: 2_400_000 } });
    expect(state?.counted.map((c) => c.day)).toEqual(["2031-06-14", "2031-06-14"]);
    expect(cellStates(kit, { cells: [{ ...CELL, skip: "not filmed" }] }, runs, "UTC")[0]?.missing).toBe(0);
    expect(cellStates(kit, { cells: [{ ...CELL, modeId: id(99) }] }, runs, "UTC")[0]?.setup).toBeNull();
  });
});

describe("other days", () => {
  const other = { ...CELL, id: id(11), conditionId: id(14) };
  const two = {
    ...kit,
    conditions: [...kit.conditions, { ...row(14), ...CONDITION, name: "Breeze", air: "breeze" as const, settings: null }],
  };
  const question = (runs: SeenRun[]) =>
    dayRequest({
      kit: two,
      plan: { ...plan, cells: [CELL, other] },
      day,
      evidence: evidenceOf(two, runs),
      events: [],
      nowMs: null,
      heatNowMs: FROM,
    });
  it("a cell that ran today already waits for those that did not", () => {
    const before = question([]).request.wantedRuns.map((w) => w.cellId);
    expect(before).toEqual([CELL.id, other.id, CELL.id, other.id, CELL.id, other.id]);
    const beside = question([ran("a", FROM + 60_000, 40)]).request.wantedRuns.map((w) => w.cellId);
    expect(beside).toEqual([other.id, CELL.id, other.id, CELL.id, other.id]);
    // Yesterday's run takes a trial and no place.
    expect(question([ran("b", FROM - DAY_MS, 40)]).request.wantedRuns[0]?.cellId).toBe(CELL.id);
  });
  it("and the day says how many cells will have been tested on fewer than three", () => {
    expect(question([]).order).toMatchObject([{ fewDays: 2 }]);
    const three = [1, 2, 3].map((d) => ran(`d${d}`, FROM - d * DAY_MS, 40));
    expect(question(three).order).toMatchObject([{ fewDays: 1 }]);
  });
});

describe("what runs tell for planning", () => {
  const drained = (runId: string, atMs: number, minutes: number, more: Partial<StartBody> = {}): SeenRun => {
    const marks = [mark("start", atMs / 1000, start(more)), mark("end", atMs / 1000 + minutes * 60, { cause: "battery empty" })];
    const fold = foldRun(marks);
    return { id: runId, row: null, marks, fold, trace: heatTrace(fold, [], []), unmarked: [] };
  };
  it("watts are the hungriest run's, and every run that tells is named", () => {
    // 16 Wh in 2 h and in 1 h 36 min: 8 W and 10 W.
    const evidence = evidenceOf(kit, [
      drained("a", FROM - DAY_MS, 120),
      drained("b", FROM - 2 * DAY_MS, 96),
      ran("c", FROM - 3 * DAY_MS, 40),
    ]);
    const cell = start();
    expect(evidence.wattsRuns(cell).map((r) => [r.id, Math.round(r.watts * 10) / 10])).toEqual([
      ["a", 8],
      ["b", 10],
    ]);
    expect(evidence.watts(cell)).toBeCloseTo(10, 9);
    expect(evidence.watts({ ...cell, mode: { ...cell.mode, mbps: 50 } })).toBeNull();
    expect(evidenceOf({ ...kit, items: [] }, [drained("a", FROM, 120)]).watts(cell)).toBeNull();
  });
  it("heat holds every powered time of the unit and of no other, void ones too", () => {
    const other = { unit: { ...start().unit, id: id(77) } };
    const evidence = evidenceOf(kit, [ran("a", FROM - DAY_MS, 40), ran("b", FROM, null, {}, true), ran("x", FROM, 30, other)]);
    expect(evidence.body(id(2), FROM + 3_600_000).intervals.map((h) => [h.fromMs, h.shutdown])).toEqual([
      [FROM - DAY_MS, true],
      [FROM, false],
    ]);
    expect(evidence.body(id(77), FROM + 3_600_000).intervals).toHaveLength(1);
  });
  it("the time constant is the longest its runs' protocols name", () => {
    const slow = { protocol: { ...start().protocol, schools: { ...DEFAULT_SCHOOLS, tauMin: 55 } } };
    const tauMs = (runs: SeenRun[]): number => evidenceOf(kit, runs).body(id(2), FROM + DAY_MS).tauMs;
    expect(tauMs([])).toBe(30 * 60_000);
    expect(tauMs([ran("a", FROM, 40), ran("b", FROM, 40, slow)])).toBe(55 * 60_000);
  });
});

describe("what happened to a body", () => {
  const event = (n: number, kind: string, atMs: number, body: Record<string, unknown>): UnitEvent => ({
    id: id(n),
    unitId: id(2),
    atMs,
    kind,
    body,
  });
  it("out of service lasts until it is ended, and not at all when taken back", () => {
    const out = event(20, "out of service", 1000, { text: "door", toMs: null });
    expect(outsOf([out], id(2))).toEqual([{ fromMs: 1000, toMs: Number.POSITIVE_INFINITY }]);
    expect(outsOf([out, event(21, "ended", 5000, { of: id(20) })], id(2))).toEqual([{ fromMs: 1000, toMs: 5000 }]);
    expect(outsOf([out, event(21, "taken back", 5000, { of: id(20) })], id(2))).toEqual([]);
    expect(outsOf([out], id(3))).toEqual([]);
    expect(liveEvents([event(22, "firmware", 7, { from: "1.0", to: "1.1" })], id(2))).toMatchObject([
      { kind: "firmware", text: "1.0 to 1.1" },
    ]);
  });
  it("moves the plan", () => {
    const out = event(20, "out of service", FROM, { text: "door", toMs: FROM + 2 * 3_600_000 });
    expect(planDay(ask([], {}, null, [out])).blocks[0]?.startMs).toBe(FROM + 2 * 3_600_000);
  });
});
