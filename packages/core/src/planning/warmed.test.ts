import { describe, expect, it } from "vitest";
import { shareAfterRest } from "../heat/index.ts";
import type { HeatRange } from "./earlier.ts";
import { fromHeat, rangeText, warmed } from "./warmed.ts";

const MIN = 60_000;
const TAU = 30 * MIN;
const RANGE: HeatRange = {
  basis: "this cell",
  basisWords: "this mode",
  by: "estimate",
  loMs: 40 * MIN,
  midMs: 50 * MIN,
  hiMs: 60 * MIN,
  n: 5,
  events: 5,
  runIds: [],
};

describe("a warm start", () => {
  it("has the share of the cold time that the recovery model gives after the rest that left this heat", () => {
    for (const restMin of [5, 20, 45, 90]) {
      const heat = Math.exp(-(restMin * MIN) / TAU);
      const share = shareAfterRest(restMin * 60, 50 * 60, TAU / 1000, TAU / 1000);
      expect(fromHeat(50 * MIN, heat, TAU)).toBeCloseTo(share * 50 * MIN, -1);
    }
  });
  it("is nothing at the heat of a shutdown, everything when cold, and never longer than cold", () => {
    expect(fromHeat(50 * MIN, 1, TAU)).toBe(0);
    expect(fromHeat(50 * MIN, 0, TAU)).toBe(50 * MIN);
    expect(fromHeat(50 * MIN, 0.94, TAU)).toBeLessThan(8 * MIN);
    expect(() => fromHeat(1, 0.5, 0)).toThrow(/tauMs must be above zero, got 0/);
  });
  it("shortens the whole range and says why; a cold one is left alone", () => {
    const warm = warmed(RANGE, 0.94, TAU);
    expect(warm.loMs).toBeLessThan(warm.midMs);
    expect(warm.hiMs).toBeLessThan(15 * MIN);
    expect(warm.basisWords).toBe("this mode, less the 94 % of heat that is left");
    expect(warmed(RANGE, 0.01, TAU)).toBe(RANGE);
    expect(warmed({ ...RANGE, hiMs: null }, 0.5, TAU).hiMs).toBeNull();
  });
  it("of one run is told as one run, never as a range", () => {
    expect(rangeText({ loMs: 95 * MIN, hiMs: 95 * MIN, by: "seen", n: 1 })).toBe("about 1:35, one run");
    expect(rangeText({ loMs: 40 * MIN, hiMs: 60 * MIN, by: "estimate", n: 1 })).toBe("0:40 to 1:00");
    expect(rangeText({ loMs: 130 * MIN, hiMs: null, by: "seen", n: 3 })).toBe("at least 2:10");
  });
});
