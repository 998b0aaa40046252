import { describe, expect, it } from "vitest";
import { foldRun } from "./fold.ts";
import type { Mark } from "./mark.ts";
import { end, mark, start } from "./testing/marks.ts";
import type { ToldWarning } from "./toldWarnings.ts";
import { enteredLate, toldWarning, unmarkedWarnings } from "./toldWarnings.ts";

const told = (sec: number, phase: ToldWarning["phase"] = "shown"): ToldWarning => ({
  eventId: `e${sec}`,
  atMs: sec * 1000,
  phase,
  minutesLeft: null,
});
const left = (marks: readonly Mark[], ...warnings: ToldWarning[]): number[] =>
  unmarkedWarnings(foldRun(marks), marks, warnings).map((w) => w.atMs / 1000);

describe("warnings that a device told and nobody marked", () => {
  const log = [start(0), end(1000)];
  it("are those within an ended run, in order; what cleared asks for nothing", () => {
    expect(left(log, told(900), told(600), told(-5), told(1001), told(700, "cleared"))).toEqual([600, 900]);
    expect(left([start(0)], told(600))).toEqual([]);
    expect(left([], told(600))).toEqual([]);
  });
  it("are answered by the mark that took them over, or by a press that says as much", () => {
    const pressed = (sec: number): Mark => mark("warning", sec, { phase: "shown" });
    expect(left([...log, { ...pressed(300), accepts: "e600" }], told(600))).toEqual([]);
    expect(left([...log, pressed(595)], told(600))).toEqual([]);
    // Pressed much earlier, it was another: the device's own stays open.
    expect(left([...log, pressed(300)], told(600))).toEqual([600]);
    expect(left([...log, pressed(595)], told(600), told(800, "escalated"))).toEqual([800]);
  });
});

describe("what a device told", () => {
  const event = { id: "e", atMs: 5, kind: "warning", body: { phase: "shown", minutesLeft: 4 } };
  it("is a warning with a phase that is known, whatever else it holds", () => {
    expect(toldWarning(event)).toEqual([{ eventId: "e", atMs: 5, phase: "shown", minutesLeft: 4 }]);
    expect(toldWarning({ ...event, body: { phase: "cleared", minutesLeft: "4" } })).toMatchObject([
      { phase: "cleared", minutesLeft: null },
    ]);
    expect(toldWarning({ ...event, kind: "gauge" })).toEqual([]);
    expect(toldWarning({ ...event, body: { phase: "boiling" } })).toEqual([]);
  });
});

describe("a run entered late", () => {
  it("is known by its start; a mark added later makes none of it", () => {
    expect(enteredLate(foldRun([start(0), { ...mark("warning", 300, { phase: "shown" }), source: "late" }, end(1000)]))).toBe(false);
    expect(enteredLate(foldRun([{ ...start(0), source: "late" }, end(1000)]))).toBe(true);
  });
});
