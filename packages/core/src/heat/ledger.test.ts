import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { foldRun } from "../runs/index.ts";
import { mark, START } from "../runs/testing/marks.ts";
import type { HeatInterval } from "./ledger.ts";
import { DEFAULT_TAU_MIN, heatShare, IDLE_PLATEAU, intervalsOf, plateauOf, restNeededMs, WARM_SHARE } from "./ledger.ts";
import { bodyOf } from "../stand-ins/standInBodies.ts";
import { advance } from "./twoNode.ts";

const MIN = 60_000;
const TAU = 30 * MIN;
const interval = (fromMin: number, toMin: number, plateau: number, shutdown = false): HeatInterval => ({
  fromMs: fromMin * MIN,
  toMs: toMin * MIN,
  plateau,
  shutdown,
});

describe("heat ledger", () => {
  it("is the exponential law: one time constant of power, one of rest", () => {
    const one = [interval(0, 30, 1)];
    expect(heatShare(one, TAU, 30 * MIN)).toBeCloseTo(1 - Math.exp(-1), 12);
    expect(heatShare(one, TAU, 60 * MIN)).toBeCloseTo((1 - Math.exp(-1)) * Math.exp(-1), 12);
    expect(heatShare([], TAU, 0)).toBe(0);
    expect(heatShare(one, TAU, -MIN)).toBe(0);
  });

  it("agrees with the sum of inputs times e^(-t/tau) where nothing is cut off", () => {
    // Superposition (methods.md): each interval leaves plateau (1 - e^(-length/tau)) e^(-since its end/tau).
    const spans = fc.array(
      fc.record({
        rest: fc.integer({ min: 1, max: 40 }),
        on: fc.integer({ min: 1, max: 20 }),
        p: fc.double({ min: 0.05, max: 0.4, noNaN: true }),
      }),
      { maxLength: 8 },
    );
    fc.assert(
      fc.property(spans, fc.integer({ min: 0, max: 200 }), (list, afterMin) => {
        let atMin = 0;
        const intervals = list.map(({ rest, on, p }) => {
          const made = interval(atMin + rest, atMin + rest + on, p);
          atMin += rest + on;
          return made;
        });
        const tMs = (atMin + afterMin) * MIN;
        const sum = intervals.reduce(
          (s, i) => s + i.plateau * (1 - Math.exp((i.fromMs - i.toMs) / TAU)) * Math.exp((i.toMs - tMs) / TAU),
          0,
        );
        expect(heatShare(intervals.reverse(), TAU, tMs)).toBeCloseTo(sum, 9);
      }),
    );
  });

  it("is one at a shutdown and never more; the rest it names makes it cold, a little less does not", () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 300 }), fc.double({ min: 0, max: 3, noNaN: true }), (min, plateau) => {
        const all = [interval(0, min, plateau, true), interval(min + 5, min + 20, plateau)];
        expect(heatShare(all.slice(0, 1), TAU, min * MIN)).toBe(1);
        const heat = heatShare(all, TAU, (min + 20) * MIN);
        expect(heat).toBeLessThanOrEqual(1);
        const restMs = restNeededMs(heat, TAU);
        expect(heatShare(all, TAU, (min + 20) * MIN + restMs)).toBeLessThan(WARM_SHARE);
        if (restMs > 5000) expect(heatShare(all, TAU, (min + 20) * MIN + restMs - 5000)).toBeGreaterThan(WARM_SHARE - 1e-3);
      }),
    );
  });

  it("reaches the shutdown rise just when the mode's own time says", () => {
    const plateau = plateauOf(47 * MIN, TAU);
    expect(heatShare([interval(0, 47, plateau)], TAU, 47 * MIN)).toBeCloseTo(1, 12);
    expect(heatShare([interval(0, 40, plateau)], TAU, 40 * MIN)).toBeLessThan(1);
  });

  it("counts segments and body-on gaps, cools in powered-off gaps, and keeps a void run's heat", () => {
    const start = mark("start", 0, START);
    const marks = [
      start,
      mark("gap", 600, { cause: "card swap", power: "on" }),
      mark("resume", 660, {}),
      mark("gap", 1200, { cause: "battery swap", power: "off" }),
      mark("resume", 1500, {}),
      mark("end", 1800, { cause: "thermal shutdown" }),
    ];
    const of = (list: typeof marks): HeatInterval[] => intervalsOf(foldRun(list), 1.2, 9e6);
    expect(of(marks).map((i) => [i.fromMs / 1000, i.toMs / 1000, i.plateau, i.shutdown])).toEqual([
      [0, 600, 1.2, false],
      [660, 1200, 1.2, false],
      [1500, 1800, 1.2, true],
      [600, 660, IDLE_PLATEAU, false],
    ]);
    const voided = [start, mark("undo", 900, {}, { target: start.id })];
    expect(intervalsOf(foldRun(voided), 1, 9e6)).toEqual([{ fromMs: 0, toMs: 900_000, plateau: 1, shutdown: false }]);
  });

  it("takes a refusal as a measurement: the body was at its shutdown heat", () => {
    const fold = foldRun([mark("start", 0, START), mark("end", 0, { cause: "thermal shutdown" })]);
    expect(heatShare(intervalsOf(fold, 1, 0), TAU, 0)).toBe(1);
  });

  it("names a broken parameter", () => {
    expect(() => heatShare([], 0, 0)).toThrow(/tauMs must be positive, got 0/);
    expect(() => plateauOf(0, TAU)).toThrow(/shutdownMs/);
  });
});

describe("the default time constant", () => {
  it("asks for a rest after which every stand-in's chip and shell are below a tenth of their rise", () => {
    const restSec = restNeededMs(1, DEFAULT_TAU_MIN * MIN) / 1000;
    for (let i = 0; i < 40; i++) {
      const body = bodyOf(`unit ${i}`);
      const ambientC = 22;
      const hot = { chipC: body.shutdownC, shellC: body.shutdownC - 12 };
      const rested = advance(body.node, hot, { chipW: 0, shellW: 0, ambientC }, restSec);
      expect((rested.chipC - ambientC) / (hot.chipC - ambientC)).toBeLessThan(WARM_SHARE);
      expect((rested.shellC - ambientC) / (hot.shellC - ambientC)).toBeLessThan(WARM_SHARE);
    }
  });
});
