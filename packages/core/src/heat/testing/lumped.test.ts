// Laws of the one lumped body; its numbers are checked case by case in tools/conformance.test.ts.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { criticalAmbientC, dutyHeat, temperatureAt, timePerKelvin, timeToCool, timeToThreshold } from "./lumped.ts";
import { fitPlateau, fitRise } from "../lumpedFit.ts";

const bodies = fc.record({ riseK: fc.double({ min: 5, max: 60, noNaN: true }), tau: fc.double({ min: 2, max: 90, noNaN: true }) });

describe("a lumped body", () => {
  it("is at the threshold at the time to the threshold", () => {
    fc.assert(
      fc.property(bodies, fc.double({ min: 0.05, max: 0.95, noNaN: true }), (body, share) => {
        const threshold = 22 + share * body.riseK;
        const reached = timeToThreshold(body, 22, 22, threshold);
        expect(reached.ok && temperatureAt(body, 22, 22, reached.time)).toBeCloseTo(threshold, 8);
      }),
    );
  });
  it("never gets there at or below the critical ambient, and sooner above it", () => {
    fc.assert(
      fc.property(bodies, fc.double({ min: 0.5, max: 20, noNaN: true }), (body, above) => {
        const critical = criticalAmbientC(body, 60);
        expect(timeToThreshold(body, critical - 0.1, critical - 0.1, 60)).toEqual({ ok: false, reason: "never" });
        expect(timePerKelvin(body, critical - 0.1, 60)).toEqual({ ok: false, reason: "never" });
        const at = (ambient: number): number => {
          const t = timeToThreshold(body, ambient, Math.min(ambient, 60), 60);
          return t.ok ? t.time : Number.POSITIVE_INFINITY;
        };
        expect(at(critical + above)).toBeLessThanOrEqual(at(critical + above / 2));
      }),
    );
  });
  it("cools back, and not below ambient", () => {
    expect(timeToCool(20, 25, 25, 40)).toEqual({ ok: true, time: 0 });
    expect(timeToCool(20, 25, 60, 25)).toEqual({ ok: false, reason: "never" });
    expect(() => timeToCool(0, 25, 60, 40)).toThrow("tau must be positive, got 0");
  });
  it("a duty cycle ends where its next cycle begins", () => {
    fc.assert(
      fc.property(bodies, fc.double({ min: 1, max: 60, noNaN: true }), fc.double({ min: 1, max: 60, noNaN: true }), (body, on, off) => {
        const { peakC, troughC } = dutyHeat(body.riseK, body.tau, body.tau, 25, on, off);
        expect(temperatureAt(body, 25, troughC, on)).toBeCloseTo(peakC, 8);
        expect(temperatureAt({ ...body, riseK: 0 }, 25, peakC, off)).toBeCloseTo(troughC, 8);
      }),
    );
  });
});

describe("a fitted log", () => {
  const times = Array.from({ length: 30 }, (_, i) => i * 2);
  it("gives an exact log's body back", () => {
    fc.assert(
      fc.property(bodies, (body) => {
        const log = { time: times, tempC: times.map((t) => temperatureAt(body, 24, 24, t)) };
        const fit = fitRise(log, 24);
        expect(
          fit.ok && Math.abs((fit.values[0] ?? 0) / body.riseK - 1) < 1e-6 && Math.abs((fit.values[1] ?? 0) / body.tau - 1) < 1e-6,
        ).toBe(true);
        const three = fitPlateau(log);
        expect(three.ok && Math.abs((three.values[0] ?? 0) - 24 - body.riseK)).toBeLessThan(1e-3 * body.riseK);
      }),
      { numRuns: 40 },
    );
  });
  it("refuses too few readings, no rise, and a time constant it cannot see", () => {
    expect(fitRise({ time: [0, 1], tempC: [20, 21] }, 20)).toEqual({ ok: false, reason: "too-few-readings" });
    expect(fitRise({ time: times, tempC: times.map(() => 25) }, 25)).toEqual({ ok: false, reason: "no-rise" });
    expect(fitRise({ time: times, tempC: times.map((t) => 20 + 0.01 * t) }, 20)).toEqual({ ok: false, reason: "time-constant-not-seen" });
  });
});
