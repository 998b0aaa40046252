import { describe, expect, it } from "vitest";
import { describeRule } from "./continuity.ts";
import { foldRun } from "./fold.ts";
import { observe } from "./observe.ts";
import { asAtTheStart, bothReadings, checkCountdowns, conditionSpans, otherConditionShare, warningNow } from "./states.ts";
import { end, gap, mark, resume, start, START } from "./testing/marks.ts";

const warning = (sec: number, phase: "shown" | "escalated" | "cleared", minutesLeft?: number) =>
  mark("warning", sec, { phase, ...(minutesLeft === undefined ? {} : { minutesLeft }) });

describe("the warning as a state", () => {
  const s = start(0);
  it("enters, escalates, counts down, and clears", () => {
    const log = [s, warning(600, "shown", 5), warning(700, "escalated", 2)];
    expect(warningNow(foldRun(log.slice(0, 2)), 660_000)).toEqual({ level: "shown", sinceMs: 600_000, saidLeftMs: 240_000 });
    expect(warningNow(foldRun(log), 880_000)).toEqual({ level: "escalated", sinceMs: 700_000, saidLeftMs: -60_000 });
    expect(warningNow(foldRun([...log, warning(900, "cleared")]), 910_000)).toBeNull();
    expect(warningNow(foldRun([s]), 5000)).toBeNull();
  });
  it("forgets what an earlier warning said once it has cleared", () => {
    const log = [s, warning(600, "shown", 5), warning(700, "cleared"), warning(900, "shown")];
    expect(warningNow(foldRun(log), 960_000)).toEqual({ level: "shown", sinceMs: 900_000, saidLeftMs: null });
  });
  it("sets the countdown against the minutes truly left, recorded ones", () => {
    const read = mark("reading", 800, { countdownSec: 90 });
    const log = [s, warning(600, "shown", 5), gap(650), resume(660), read, end(1000)];
    const said = checkCountdowns(foldRun(log), 0);
    expect(said.map((c) => [c.saidMs / 1000, c.leftMs / 1000, c.exact])).toEqual([
      [300, 390, true],
      [90, 200, true],
    ]);
  });
  it("says only at least when something else ended it, or nobody saw it end", () => {
    const other = mark("end", 1000, { cause: "battery empty" });
    expect(checkCountdowns(foldRun([s, warning(600, "shown", 5), other]), 0)[0]).toMatchObject({ leftMs: 400_000, exact: false });
    const found = mark("end", 1000, { cause: "thermal shutdown", foundOff: { lastSeenMs: 900_000 } });
    expect(checkCountdowns(foldRun([s, warning(600, "shown", 5), found]), 0)[0]).toMatchObject({ leftMs: 300_000, exact: false });
  });
});

describe("as at the start?", () => {
  const said = (sec: number, result: "yes" | "no" | "not tried") => mark("check", sec, { item: "as at the start", result });
  it("is what was answered last, and nothing where nobody was asked", () => {
    const log = [start(0), end(600)];
    expect(asAtTheStart(foldRun(log))).toBeNull();
    expect(asAtTheStart(foldRun([...log, mark("check", 605, { item: "powers on", result: "no" })]))).toBeNull();
    expect(asAtTheStart(foldRun([...log, said(610, "no"), said(620, "yes")]))).toBe(true);
    expect(asAtTheStart(foldRun([...log, said(610, "no")]))).toBe(false);
    expect(asAtTheStart(foldRun([...log, said(610, "not tried")]))).toBeNull();
  });
});

describe("surroundings that change while it runs", () => {
  const dark = start(0, { condition: { ...START.condition, screen: "dark", sun: "direct", air: "still" } });
  const change = (sec: number, what: "screen woke" | "screen dark" | "sun gone" | "moved" | "fan on" | "fan off") =>
    mark("condition", sec, { change: what });
  it("are spans, split only where something changed", () => {
    const fold = foldRun([dark, change(100, "screen woke"), change(150, "moved"), change(200, "screen dark"), change(300, "sun gone")]);
    expect(conditionSpans(fold).map((c) => [c.fromMs / 1000, c.toMs === null ? null : c.toMs / 1000, c.screen, c.sun])).toEqual([
      [0, 100, "dark", "direct"],
      [100, 200, "lit", "direct"],
      [200, 300, "dark", "direct"],
      [300, null, "dark", "shade"],
    ]);
    expect(conditionSpans(foldRun([]))).toEqual([]);
  });
  it("weigh by recorded time", () => {
    const fold = foldRun([dark, change(500, "fan on"), gap(600), resume(700), change(700, "fan off"), end(1100)]);
    expect(otherConditionShare(fold)).toBeCloseTo(0.1, 12);
    expect(otherConditionShare(foldRun([dark, end(1000)]))).toBe(0);
    expect(otherConditionShare(foldRun([dark, change(250, "sun gone"), end(1000)]))).toBeCloseTo(0.75, 12);
  });
});

describe("gaps read both ways", () => {
  const off = [start(0), gap(600, "off"), resume(640), end(1000)];
  it("shows what the other school would say", () => {
    const both = bothReadings(foldRun(off), "shutdown");
    expect(both?.own.seen).toMatchObject({ event: 0, timeMs: { lo: 600_000 } });
    expect(both?.other.seen).toMatchObject({ event: 1, timeMs: { lo: 960_000 } });
    expect(both?.differ).toBe(true);
    expect(bothReadings(foldRun([start(0), end(1000)]), "shutdown")?.differ).toBe(false);
  });
  it("follows a correction of the start, and its undo", () => {
    const [s] = off as [(typeof off)[0]];
    const lenient = mark("correction", 1100, { continuity: { poweredOff: "lenient", bridgeBodyOnMs: 20_000 } }, { target: s.id });
    const fold = foldRun([...off, lenient]);
    expect(fold.findings).toEqual([]);
    const rule = fold.setup?.protocol.continuity;
    expect(rule?.poweredOff).toBe("lenient");
    if (rule !== undefined) expect(observe(fold, rule, "shutdown")).toMatchObject({ event: 1 });
    const undone = foldRun([...off, lenient, mark("undo", 1200, {}, { target: lenient.id })]);
    expect(undone.setup?.protocol.continuity.poweredOff).toBe("strict");
    expect(START.protocol.continuity.poweredOff).toBe("strict");
  });
  it("has words", () => {
    expect(describeRule({ poweredOff: "strict", bridgeBodyOnMs: 20_000 })).toBe(
      "a powered-off gap ends the record, body-on gaps up to 20 s in all are bridged",
    );
  });
});
