// The ladder's rule and its numbers. References: R 4.2.2 (qt with ncp, bartlett.test, pchisq), computed for these inputs; calls beside each.

import { describe, expect, it } from "vitest";
import { ASSUMED_SD, assumedScatterLower, equalScatter, scatterBeyond } from "../statistics/index.ts";
import { START } from "../runs/testing/marks.ts";
import type { LadderCell } from "./ladder.ts";
import { climb } from "./ladder.ts";
import { methodWords } from "./words.ts";

const { protocol } = START;
const cell = (times: readonly number[], events: readonly (0 | 1)[] = []): LadderCell => ({
  setup: { protocol },
  records: times.map((timeSec, i) => ({ runId: `${timeSec}-${i}`, timeSec, event: events[i] ?? 1 })),
});
const ASKED = { share: 0.9, confidence: 0.9 };
const only = (...cells: LadderCell[]) => climb(cells, ASKED)[0];
const POOL = [cell([1850, 2100, 1980]), cell([2600, 2900, 2450]), cell([1500, 1380, 1610]), cell([3300, 3050, 3620])];

describe("the equal-scatter check", () => {
  it("is Bartlett's test (InsectSprays, the example of R's bartlett.test: 25.96, df 5, p 9.085e-05)", () => {
    const sprays = [
      [10, 7, 20, 14, 14, 12, 10, 23, 17, 20, 14, 13],
      [11, 17, 21, 11, 16, 14, 17, 17, 19, 21, 7, 13],
      [0, 1, 7, 2, 3, 1, 2, 1, 3, 0, 1, 4],
      [3, 5, 12, 6, 4, 3, 5, 5, 5, 5, 2, 4],
      [3, 5, 3, 5, 3, 6, 1, 1, 3, 2, 6, 4],
      [11, 9, 15, 22, 15, 16, 13, 10, 26, 26, 24, 13],
    ];
    const check = equalScatter(sprays);
    if (!check.ok) throw new Error(check.reason);
    expect(check.statistic).toBeCloseTo(25.9598253204, 8);
    expect(check.df).toBe(5);
    expect(check.p).toBeCloseTo(9.08512233295e-5, 10);
  });
  it("refuses where there is nothing to compare", () => {
    expect(equalScatter([[1, 2, 3], [4]])).toEqual({ ok: false, reason: "fewer-than-two-cells" });
    expect(
      equalScatter([
        [1, 2, 3],
        [4, 4],
      ]),
    ).toEqual({ ok: false, reason: "a-cell-without-scatter" });
  });
  it("tells a spread beyond what is assumed: pchisq(3 * var(log(c(1500, 2400, 3900, 2000))) / 0.15^2, 3, lower = FALSE)", () => {
    expect(scatterBeyond([1500, 2400, 3900, 2000].map(Math.log), 0.15)).toBeCloseTo(8.43810920684e-5, 12);
    expect(scatterBeyond([7], 0.15)).toBe(1);
  });
});

describe("the ladder", () => {
  it("takes a cell's own bound from five shutdowns on (design, methods.md: 47 to 56 min gives about 38)", () => {
    const bound = only(cell([47, 49, 51, 53, 56].map((m) => m * 60)));
    expect(bound).toMatchObject({ ok: true, rung: "own", by: "conditional", above: [] });
    expect((bound?.ok === true ? bound.lowerMs : 0) / 60_000).toBeCloseTo(38, -0.5);
  });
  it("pools the scatter with four: exp(mean - k s), k = qt(.9, 8, qnorm(.9) sqrt(3)) / sqrt(3)", () => {
    const bound = only(...POOL);
    expect(bound).toMatchObject({ ok: true, rung: "pooled", by: "exact", from: { runs: 12, shutdowns: 12, cells: 4 } });
    expect(bound?.ok === true && bound.lowerMs).toBe(1_634_000);
    expect(bound?.ok === true && bound.sd).toBeCloseTo(0.0784961744364, 10);
    expect(bound?.ok === true && bound.check?.ok === true && bound.check.p).toBeCloseTo(0.979914694518, 9);
    expect(bound?.ok === true && bound.above).toEqual([{ rung: "own", because: "too-few-shutdowns" }]);
  });
  it("resamples when some are censored, near the exact bound when hardly anything is lost", () => {
    const [first, ...rest] = POOL as [LadderCell, ...LadderCell[]];
    const bound = only(first, ...rest.slice(0, 2), cell([3300, 3050, 3640], [1, 1, 0]));
    expect(bound).toMatchObject({ ok: true, rung: "pooled", by: "pivot" });
    expect((bound?.ok === true ? bound.lowerMs : 0) / 1_634_000).toBeGreaterThan(0.95);
    expect((bound?.ok === true ? bound.lowerMs : 0) / 1_634_000).toBeLessThan(1.02);
  });
  it("does not pool cells that scatter differently, and says so", () => {
    const wild = cell([900, 2400, 5200, 1300]);
    const bound = only(cell([1850, 1860, 1855]), cell([2600, 2610, 2620]), wild);
    expect(bound).toMatchObject({ ok: true, rung: "assumed" });
    expect(bound?.ok === true && bound.above.map((s) => s.because)).toEqual(["too-few-shutdowns", "scatter-not-alike"]);
    expect(climb([cell([1850, 1860, 1855]), cell([2600, 2610, 2620]), wild], ASKED)[2]).toMatchObject({
      ok: false,
      above: [{}, {}, { because: "scatter-beyond-the-assumed" }],
    });
  });
  it("assumes a scatter for one shutdown, prints it, and claims no confidence in words", () => {
    const bound = only(cell([2000]));
    if (bound?.ok !== true) throw new Error("expected a bound");
    // Known deviation: exp(log t - (z.9 + z.9) 0.1), z.9 = 1.2815515655.
    expect(bound.lowerMs / 1000).toBe(Math.floor(2000 * Math.exp(-2 * 1.2815515655 * ASSUMED_SD)));
    expect(methodWords(bound)).toMatch(/assumed to be 10\.0 %, not measured: no confidence/);
  });
  it("claims nothing from a cell without a shutdown", () => {
    expect(only(cell([7000, 7100, 7200], [0, 0, 0]))).toMatchObject({
      ok: false,
      above: [{ because: "no-shutdown-in-this-cell" }, {}, {}],
    });
  });
  it("gives the same figure each time it is asked", () => {
    const cells = [cell([1850, 2100, 2150], [1, 1, 0]), ...POOL.slice(1)];
    expect(climb(cells, ASKED)).toEqual(climb(cells, ASKED));
  });
  it("claims less of a censored cell with the scatter assumed than if all had ended, never more than the middle", () => {
    const complete = assumedScatterLower({ time: [2000, 2200], event: [1, 1] }, 0.1, 0.1, 0.9);
    const cut = assumedScatterLower({ time: [2000, 2200], event: [1, 0] }, 0.1, 0.1, 0.9);
    // The cut run lasted at least as long: what it might have lasted beyond counts.
    expect(cut).toBeGreaterThan(complete);
    expect(cut).toBeLessThan(2200);
    expect(() => assumedScatterLower({ time: [2000], event: [0] }, 0.1, 0.1, 0.9)).toThrow(RangeError);
  });
});
