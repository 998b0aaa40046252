import { describe, expect, it } from "vitest";
import { dutyDue, dutyResult } from "./duty.ts";
import { foldRun } from "./fold.ts";
import { end, mark, resume, start } from "./testing/marks.ts";

const duty = { runKind: "duty" as const, duty: { onMin: 10, offMin: 5, power: "on" as const } };
const pause = (sec: number) => mark("gap", sec, { cause: "planned pause", power: "on" });
const swap = (sec: number) => mark("gap", sec, { cause: "card swap", power: "on" });
const due = (nowSec: number, ...marks: Parameters<typeof foldRun>[0]) => {
  const d = dutyDue(foldRun(marks), nowSec * 1000);
  return d === null ? null : { what: d.what, atSec: d.dueMs / 1000, overdue: d.overdue, cycle: d.cycle };
};

describe("a duty run", () => {
  const s = start(0, duty);
  it("says what is due next, and when", () => {
    expect(due(60, s)).toEqual({ what: "stop", atSec: 600, overdue: false, cycle: 1 });
    expect(due(601, s)).toEqual({ what: "stop", atSec: 600, overdue: true, cycle: 1 });
    expect(due(610, s, pause(605))).toEqual({ what: "record again", atSec: 905, overdue: false, cycle: 1 });
    expect(due(920, s, pause(605), resume(910))).toEqual({ what: "stop", atSec: 1510, overdue: false, cycle: 2 });
  });
  it("counts recorded minutes only: a swap within the phase moves the stop", () => {
    expect(due(320, s, swap(300), resume(320))).toEqual({ what: "stop", atSec: 620, overdue: false, cycle: 1 });
    expect(due(310, s, swap(300))).toBeNull();
  });
  it("has nothing due once over, nor for another kind of run", () => {
    expect(due(2000, s, end(700))).toBeNull();
    expect(due(60, start(0))).toBeNull();
    expect(dutyResult(foldRun([start(0), end(700)]), 0)).toBeNull();
  });
  it("counts whole phases, not the one heat cut short", () => {
    const log = [s, pause(600), resume(900), pause(1500), resume(1800), end(2000)];
    expect(dutyResult(foldRun(log), 0)).toMatchObject({ completed: 2, phaseMs: 200_000, byHeat: true });
    expect(dutyResult(foldRun(log.slice(0, 4)), 1_600_000)).toMatchObject({ completed: 2, phaseMs: 0, byHeat: false });
    expect(dutyResult(foldRun([s, pause(300), resume(900), mark("end", 1500, { cause: "tester stopped" })]), 0)).toMatchObject({
      completed: 1,
      byHeat: false,
    });
    expect(dutyResult(foldRun([s, pause(596), mark("end", 700, { cause: "tester stopped" })]), 0)).toMatchObject({ completed: 1 });
    expect(dutyResult(foldRun([s, pause(594), mark("end", 700, { cause: "tester stopped" })]), 0)).toMatchObject({ completed: 0 });
    expect(dutyResult(foldRun([s, pause(600), mark("end", 700, { cause: "tester stopped" })]), 0)).toMatchObject({
      completed: 1,
      phaseMs: 0,
    });
  });
});
