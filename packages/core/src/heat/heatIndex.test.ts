import { describe, expect, it } from "vitest";
import checkCases from "../../fixtures/check-cases.json" with { type: "json" };
import { breakRuleOf, HEAT_LEVELS, heatIndexC, heatIndexF, heatLevelOf } from "./heatIndex.ts";

interface Case {
  id: string;
  family: string;
  inputs: { cells?: [number, number][]; T_F?: number; RH?: number };
  expected: { heat_index_F: number[] | number; heat_index_C?: number };
  published?: { quantity: string; published: number }[];
}
const cases = (checkCases.cases as unknown as Case[]).filter((c) => c.family === "heat-index");

describe("heat index", () => {
  // National Weather Service algorithm (SR 90-23 with adjustments); values computed apart from this code, see the fixture's source.
  it("agrees with the algorithm to 1e-7, cell by cell", () => {
    let compared = 0;
    for (const c of cases) {
      const cells = c.inputs.cells ?? [[c.inputs.T_F ?? Number.NaN, c.inputs.RH ?? Number.NaN]];
      const expected = [c.expected.heat_index_F].flat();
      cells.forEach(([t, rh], i) => {
        const want = expected[i] ?? Number.NaN;
        expect(Math.abs(heatIndexF(t, rh) - want)).toBeLessThanOrEqual(Math.max(1e-7 * Math.abs(want), 1e-9));
        compared++;
      });
    }
    expect(compared).toBeGreaterThanOrEqual(136);
  });

  // The chart as printed by the National Weather Service (values in the fixture are from memory). It omits the humid adjustment in
  // places, so a cell may be met by either.
  it("lies within 1 °F of the printed chart", () => {
    const chart = cases.flatMap((c) => c.published ?? []);
    expect(chart.length).toBeGreaterThan(100);
    for (const { quantity, published } of chart) {
      const [, t = "", rh = ""] = /^T=(\d+) RH=(\d+)$/.exec(quantity) ?? [];
      const [tempF, humidity] = [Number(t), Number(rh)];
      const humid = humidity > 85 && tempF <= 87 ? ((humidity - 85) / 10) * ((87 - tempF) / 5) : 0;
      const got = heatIndexF(tempF, humidity);
      expect(Math.min(Math.abs(got - published), Math.abs(got - humid - published)), quantity).toBeLessThanOrEqual(1);
    }
  });

  it("takes the dry adjustment off, and adds what full sun may add", () => {
    // 95 °F, 5 %: the root is 1, so exactly (13 - 5) / 4 = 2 below the regression.
    const regression =
      -42.379 +
      2.04901523 * 95 +
      10.14333127 * 5 -
      0.22475541 * 475 -
      6.83783e-3 * 9025 -
      5.481717e-2 * 25 +
      1.22874e-3 * 9025 * 5 +
      8.5282e-4 * 95 * 25 -
      1.99e-6 * 9025 * 25;
    expect(heatIndexF(95, 5)).toBeCloseTo(regression - 2, 9);
    expect(heatIndexC(35, 50, true) - heatIndexC(35, 50)).toBeCloseTo(15 / 1.8, 9);
  });

  it("names the level from its lower bound on, and the breaks grow with it", () => {
    const c = (f: number): number => ((f - 32) * 5) / 9;
    expect([79.9, 80, 89.9, 90, 102.9, 103, 124.9, 125].map((f) => heatLevelOf(c(f)))).toEqual([
      "none",
      "caution",
      "caution",
      "extreme caution",
      "extreme caution",
      "danger",
      "danger",
      "extreme danger",
    ]);
    const shares = HEAT_LEVELS.map(breakRuleOf).map((r) => (r === null ? 0 : r === "no work" ? 1 : r.breakMin / (r.workMin + r.breakMin)));
    expect(shares).toEqual([...shares].sort((a, b) => a - b));
    expect(new Set(shares).size).toBe(5);
  });

  it("refuses what is no humidity", () => {
    expect(() => heatIndexF(90, 101)).toThrow(/humidityPct must lie in 0 to 100, got 101/);
    expect(() => heatIndexF(Number.NaN, 50)).toThrow(/tempF/);
  });
});
