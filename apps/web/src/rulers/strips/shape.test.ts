import { foldRun, heatTrace } from "@keep-rolling/core/runs";
import type { Mark } from "@keep-rolling/core/runs";
import { scaleLinear } from "d3-scale";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { linear } from "../axis/linear.ts";
import { minuteTicks, rulerEnd } from "../axis/minutes.ts";
import { stripShape } from "./shape.ts";
import { mark } from "../../testing/marks.ts";

const START = { mode: { clipLimitSec: null } };
const shapeOf = (marks: Mark[], nowMs: number) => {
  const fold = foldRun(marks);
  return stripShape(fold, heatTrace(fold), nowMs);
};

describe("the shape of a strip", () => {
  it("cuts segments at gaps and at steps of the gauge", () => {
    const start = mark("start", 100, START);
    const shape = shapeOf(
      [
        start,
        mark("reading", 160, { gauge: 5 }),
        mark("gap", 200, { cause: "card swap", power: "off" }),
        mark("resume", 220, {}),
        mark("end", 300, { cause: "card full" }),
      ],
      0,
    );
    expect(shape?.pieces.map((p) => [p.fromMs, p.toMs, p.level])).toEqual([
      [0, 60_000, 0],
      [60_000, 100_000, 0.5],
      [120_000, 200_000, 0.5],
    ]);
    expect(shape?.gaps).toEqual([{ fromMs: 100_000, toMs: 120_000, power: "off", open: false }]);
    expect(shape?.end).toEqual({ atMs: 200_000, loMs: 200_000, kind: "at least" });
  });
  it("grows with the clock while rolling, stands when void", () => {
    const start = mark("start", 0, START);
    expect(shapeOf([start], 90_000)?.untilMs).toBe(90_000);
    expect(shapeOf([start, mark("undo", 30, {}, { target: start.id })], 90_000)).toMatchObject({ untilMs: 30_000, end: { kind: "void" } });
    expect(shapeOf([], 5)).toBeNull();
  });
  it("marks a heat end as a wedge over its uncertain part", () => {
    const end = mark("end", 100, { cause: "thermal shutdown", foundOff: { lastSeenMs: 60_000 } });
    expect(shapeOf([mark("start", 0, START), end], 0)?.end).toEqual({ atMs: 100_000, loMs: 60_000, kind: "event" });
  });
});

describe("an end is drawn as what it is counted as", () => {
  const RULE = { mode: { clipLimitSec: null }, protocol: { continuity: { poweredOff: "strict", bridgeBodyOnMs: 20_000 } } };
  const kinds = (marks: Mark[]) =>
    ([null, "shutdown", "batteryEmpty", "firstWarning"] as const).map((endpoint) => {
      const fold = foldRun(marks);
      return stripShape(fold, heatTrace(fold), 0, endpoint)?.end?.kind;
    });
  it("an empty battery is an end when the battery is asked about, and only at least when heat is", () =>
    expect(kinds([mark("start", 0, RULE), mark("end", 900, { cause: "battery empty" })])).toEqual([
      "at least",
      "at least",
      "event",
      "at least",
    ]));
  it("a shutdown after a powered-off gap is one in the record, and none for a statement that the gap has broken", () =>
    expect(
      kinds([
        mark("start", 0, RULE),
        mark("gap", 300, { cause: "battery swap", power: "off" }),
        mark("resume", 330, {}),
        mark("end", 900, { cause: "thermal shutdown" }),
      ]),
    ).toEqual(["event", "at least", "at least", "at least"]));
  it("a warning before the end is the end that is asked about", () =>
    expect(kinds([mark("start", 0, RULE), mark("warning", 500, { phase: "shown" }), mark("end", 900, { cause: "card full" })])[3]).toBe(
      "event",
    ));
});

describe("a minutes ruler", () => {
  it("labels round minutes, at most as many as fit", () => {
    expect(minuteTicks(95 * 60_000, 10).labelled.map((ms) => ms / 60_000)).toEqual([0, 10, 20, 30, 40, 50, 60, 70, 80, 90]);
    expect(minuteTicks(95 * 60_000, 4).labelled.map((ms) => ms / 60_000)).toEqual([0, 30, 60, 90]);
    expect(minuteTicks(10 * 60_000, 10).between[0]).toBe(30_000);
    for (let ms = 60_000; ms < 40 * 3_600_000; ms *= 1.7) expect(minuteTicks(ms, 8).labelled.length).toBeLessThanOrEqual(9);
  });
  it("reaches beyond the longest, never below ten minutes", () => {
    expect(rulerEnd()).toBe(600_000);
    expect(rulerEnd(3_600_000, 100)).toBeCloseTo(3_816_000, 6);
  });
});

describe("the ruler's straight line", () => {
  it("is that of the scale package, on the ruler and a length beside it", () => {
    const times = fc.tuple(fc.integer({ min: -1e6, max: 1e6 }), fc.integer({ min: 1, max: 1e8 }));
    const widths = fc.tuple(fc.integer({ min: 0, max: 400 }), fc.integer({ min: 1, max: 4000 }));
    fc.assert(
      fc.property(times, widths, fc.double({ min: -1, max: 2, noNaN: true }), ([fromMs, lengthMs], [left, width], at) => {
        const from: [number, number] = [fromMs, fromMs + lengthMs];
        const to: [number, number] = [left, left + width];
        const ms = fromMs + at * lengthMs;
        expect(linear(from, to)(ms)).toBeCloseTo(scaleLinear(from, to)(ms), 6);
      }),
    );
  });
  it("stays at its left end where it has no length", () => {
    expect(linear([5, 5], [10, 90])(5)).toBe(10);
  });
});
