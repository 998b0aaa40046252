import { describe, expect, it } from "vitest";
import { equalExposure, flickerStops, fNumberLabel, isoLabel } from "../exposure/index.ts";
import type { Metered } from "../exposure/index.ts";
import type { HoldPlan } from "./plan.ts";
import { planOf, USUALLY } from "./plan.ts";
import { planWarnings, setAt } from "./warnings.ts";

const METERED: Metered = { x: -7, iso: 800, fNumber: 4, isoLeast: 100, isoMost: 6400, fWidest: 4, fNarrowest: 16, filters: [3, 6] };

describe("what to set", () => {
  it("keeps the picture as bright: by sensitivity, then aperture, then the bag", () => {
    // 1/125 s at ISO 800 and f/4 is as bright as 1/1000 s at ISO 6400, and as 1/15 s at ISO 100 (three stops each: definition of a stop).
    expect(equalExposure(METERED, -10)).toEqual({ iso: 6400, fNumber: 4, filters: [], tooBright: 0 });
    expect(equalExposure(METERED, -4)).toEqual({ iso: 100, fNumber: 4, filters: [], tooBright: 0 });
    // Two stops beyond the lowest sensitivity: f/8. Seven: f/16 and three stops of filter.
    expect(equalExposure(METERED, -2)).toMatchObject({ iso: 100, fNumber: 8, filters: [] });
    expect(equalExposure(METERED, 3)).toMatchObject({ iso: 100, fNumber: 16, filters: [3], tooBright: 0 });
    // One stop too bright at f/16: three stops of filter, and two of aperture given back.
    expect(equalExposure(METERED, 1)).toMatchObject({ iso: 100, fNumber: 8, filters: [3], tooBright: 0 });
    expect(equalExposure(METERED, 9)).toMatchObject({ filters: [6, 3], tooBright: 0 });
  });
  it("says by how much it cannot", () => {
    expect(equalExposure(METERED, -12).tooBright).toBeCloseTo(-2, 12);
    expect(equalExposure({ ...METERED, filters: [] }, 3).tooBright).toBeCloseTo(3, 12);
    expect(equalExposure({ ...METERED, filters: [3] }, 5)).toMatchObject({ filters: [3], tooBright: 2 });
    expect(() => equalExposure({ ...METERED, iso: 50 }, 0)).toThrow("iso must lie within its limits above zero, got 50 in 100 to 6400");
  });
  it("is written as dials write it", () => {
    expect([2 ** 0.5, 4 * 2 ** (1 / 6), 16, 4 * 2 ** (5 / 6)].map(fNumberLabel)).toEqual(["1.4", "4.5", "16", "7.1"]);
    expect([100, 800 * 2 ** (1 / 3), 100 * 2 ** (-1 / 3), 6400].map(isoLabel)).toEqual(["100", "1000", "80", "6400"]);
  });
});

describe("lamps on the mains", () => {
  it("flicker at twice its frequency: whole periods are even, short times see all of it", () => {
    for (const [sec, mains] of [
      [1 / 100, 50],
      [1 / 50, 50],
      [0.1, 50],
      [1 / 60, 60],
      [1 / 120, 60],
    ] as const)
      expect(flickerStops(sec, mains)).toBeLessThan(1e-9);
    expect(flickerStops(1 / 8000, 50)).toBeGreaterThan(8);
    expect(flickerStops(1 / 60, 50)).toBeGreaterThan(flickerStops(1 / 15, 50));
  });
  it("is what sampling the light at every moment finds", () => {
    const sec = 1 / 60;
    const light = (from: number): number => {
      let sum = 0;
      for (let i = 0; i < 2000; i++) sum += 1 + Math.cos(2 * Math.PI * 100 * (from + (sec * (i + 0.5)) / 2000));
      return sum / 2000;
    };
    const all = Array.from({ length: 400 }, (_, k) => light(k / 40_000));
    expect(flickerStops(sec, 50)).toBeCloseTo(Math.log2(Math.max(...all) / Math.min(...all)), 3);
    expect(() => flickerStops(0, 50)).toThrow("seconds must be above zero, got 0");
  });
});

describe("warnings of a plan", () => {
  const plan = (more: Partial<HoldPlan>): HoldPlan =>
    ({ ...USUALLY, spans: { off: { fastest: -12, slowest: 7 }, on: null }, stepStops: 1, shotsEach: 5, ...more }) as HoldPlan;
  it("name the times that cannot be kept as bright, those lamps spoil, and those that take minutes", () => {
    const told = planWarnings(plan({ metered: METERED, light: "lamps, 50 Hz" }));
    expect(told.unequal.map((u) => u.x)).toEqual([-12, -11]);
    expect(told.flicker.map((f) => f.x)).toContain(-7);
    expect(told.flicker.map((f) => f.x)).not.toContain(0);
    expect(told.minutes).toEqual([6, 7]);
    expect(told.openSec).toBeCloseTo(5 * (2 ** 8 - 2 ** -12), 6);
  });
  it("are silent about what nobody said, and about brightness that is not to be kept", () => {
    expect(planWarnings(plan({}))).toMatchObject({ unequal: [], flicker: [] });
    expect(planWarnings(plan({ metered: METERED, brightness: "fixed" })).unequal).toEqual([]);
    expect(setAt(plan({ metered: METERED, brightness: "fixed" }), -9)).toEqual({ iso: 800, fNumber: 4, filters: [], tooBright: -2 });
    expect(setAt(plan({}), -9)).toBeNull();
  });
  it("a plan of the first version is as it was", () => {
    const stored = { lensName: "Reed", shotsEach: 5, order: undefined } as unknown as Parameters<typeof planOf>[0];
    expect(planOf(stored)).toMatchObject({ ...USUALLY, lensName: "Reed", order: "balanced" });
  });
});
