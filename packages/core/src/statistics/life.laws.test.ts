// Laws of the life estimators on random data, and every way data can refuse them. The numbers themselves are checked case by case against R in
// tools/conformance.test.ts.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { conditionalWeibullLower, logQuantile, waldLower } from "./lifeBounds.ts";
import { fitLife } from "./lifeModel.ts";
import { kaplanMeier, survivalQuantile } from "./kaplanMeier.ts";
import { logRank } from "./logRank.ts";
import { newcombe } from "./proportions.ts";
import type { Lifetimes } from "./lifetimes.ts";

/** Three to nine runs with at least three different shutdowns, some censored. */
const cells: fc.Arbitrary<Lifetimes> = fc
  .uniqueArray(fc.integer({ min: 300, max: 9000 }), { minLength: 3, maxLength: 9 })
  .chain((time) =>
    fc.record({
      time: fc.constant(time),
      event: fc.array(fc.constantFrom<0 | 1>(0, 1), { minLength: time.length, maxLength: time.length }),
    }),
  )
  .map(({ time, event }) => ({ time, event: event.map((e, i) => (i < 3 ? (1 as const) : e)) }));

const one = (time: number): Lifetimes => ({ time: [time], event: [1] });
const near = (a: number, b: number): boolean => Math.abs(a - b) <= 1e-6 * Math.max(Math.abs(a), Math.abs(b));
const boundOf = (data: Lifetimes, confidence: number): number => {
  const fit = fitLife(data, "weibull");
  const bound = fit.ok ? conditionalWeibullLower(data, fit, 0.1, confidence) : null;
  if (bound?.ok !== true) throw new Error("no bound");
  return bound.lower;
};

describe("life models", () => {
  it("scale with the unit of time", () => {
    fc.assert(
      fc.property(cells, fc.double({ min: 0.01, max: 100, noNaN: true }), (data, factor) => {
        const other = { ...data, time: data.time.map((t) => t * factor) };
        for (const law of ["weibull", "lognormal"] as const) {
          const [a, b] = [fitLife(data, law), fitLife(other, law)];
          if (!a.ok || !b.ok) throw new Error("no fit");
          expect(near(a.sigma, b.sigma)).toBe(true);
          expect(near(Math.exp(a.coef[0] ?? 0) * factor, Math.exp(b.coef[0] ?? 0))).toBe(true);
        }
        expect(near(boundOf(data, 0.9) * factor, boundOf(other, 0.9))).toBe(true);
      }),
      { numRuns: 40 },
    );
  });
  it("are found where the log likelihood is near zero and its rounding is not", () => {
    const time = [5834, 6431, 3894, 5108, 3900, 437];
    for (let k = -60; k <= 60; k++) {
      const data: Lifetimes = { time: time.map((t) => t * 1.07 ** k), event: [1, 1, 1, 0, 0, 0] };
      for (const law of ["weibull", "lognormal"] as const) expect(fitLife(data, law).ok, `${law}, times ${1.07 ** k}`).toBe(true);
    }
  });
  it("do not depend on the order of the runs", () => {
    fc.assert(
      fc.property(cells, (data) => {
        const turned = { time: [...data.time].reverse(), event: [...data.event].reverse() };
        expect(near(boundOf(data, 0.9), boundOf(turned, 0.9))).toBe(true);
      }),
      { numRuns: 40 },
    );
  });
  it("claim less the surer they are to be, and less than the quantile they bound", () => {
    fc.assert(
      fc.property(cells, (data) => {
        const fit = fitLife(data, "weibull");
        if (!fit.ok) throw new Error("no fit");
        const [at80, at90, at95] = [0.8, 0.9, 0.95].map((c) => boundOf(data, c)) as [number, number, number];
        expect(at95 < at90 && at90 < at80).toBe(true);
        expect(at90).toBeLessThan(Math.exp(logQuantile(fit, { p: 0.1, at: [] }).log));
        expect(at90).toBeLessThan(waldLower(fit, { p: 0.1, at: [] }, 0.5));
      }),
      { numRuns: 40 },
    );
  });
  it("lengthening a censored run never lowers the limit", () => {
    fc.assert(
      fc.property(cells, fc.integer({ min: 1, max: 4000 }), (data, more) => {
        const i = data.event.indexOf(0);
        if (i < 0) return;
        const longer = { ...data, time: data.time.map((t, k) => (k === i ? t + more : t)) };
        const [a, b] = [fitLife(data, "weibull"), fitLife(longer, "weibull")];
        if (a.ok && b.ok) expect(b.coef[0] ?? 0).toBeGreaterThanOrEqual((a.coef[0] ?? 0) - 1e-7);
      }),
      { numRuns: 60 },
    );
  });
  it("refuse with a closed reason what cannot be estimated", () => {
    const reason = (data: Lifetimes, design?: number[][]) => {
      const fit = fitLife(data, "weibull", design);
      return fit.ok ? "ok" : fit.reason;
    };
    expect(reason({ time: [60, 90], event: [0, 0] })).toBe("no-failures");
    expect(reason({ time: [60, 60], event: [1, 1] })).toBe("all-failures-at-the-largest-time");
    expect(reason({ time: [60], event: [1] })).toBe("all-failures-at-the-largest-time");
    expect(reason({ time: [50, 60, 70], event: [1, 1, 1] }, [[1], [1], [1]])).toBe("design-not-of-full-rank");
    // All runs in the shade were stopped, all in the sun shut down: the effect of the sun has no end.
    expect(reason({ time: [30, 33, 60, 60], event: [1, 1, 0, 0] }, [[1], [1], [0], [0]])).toBe("no-maximum");
    expect(reason({ time: [0, 5], event: [1, 1] })).toBe("time-not-positive");
    expect(reason({ time: [], event: [] })).toBe("no-runs");
    expect(logRank([one(0), one(5)])).toEqual({ ok: false, reason: "time-not-positive" });
    expect(() => fitLife({ time: [5], event: [] }, "weibull")).toThrow("time and event must be equally long, got 1 and 0");
    const onlyOne = { time: [33, 60, 60], event: [1, 0, 0] as (0 | 1)[] };
    const fit = fitLife(onlyOne, "weibull");
    expect(fit.ok && conditionalWeibullLower(onlyOne, fit, 0.1, 0.9)).toEqual({ ok: false, reason: "too-few-shutdowns" });
    expect(logRank([onlyOne, { time: [], event: [] }])).toEqual({ ok: false, reason: "one-group" });
    expect(newcombe(0, 0, 1, 2, 0.9)).toEqual({ ok: false, reason: "no-trials" });
  });
});

describe("product limit", () => {
  it("without censoring is the share still running", () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 1, max: 50 }), { minLength: 1, maxLength: 30 }), (time) => {
        const steps = kaplanMeier({ time, event: time.map(() => 1 as const) }, 0.9);
        for (const s of steps) expect(s.survival).toBeCloseTo(time.filter((t) => t > s.time).length / time.length, 12);
      }),
    );
  });
  it("never rises, and its limits stay within 0 and 1 around it", () => {
    fc.assert(
      fc.property(cells, (data) => {
        const steps = kaplanMeier(data, 0.95);
        steps.forEach((s, i) => {
          expect(s.survival).toBeLessThanOrEqual(steps[i - 1]?.survival ?? 1);
          if (s.logLog !== null)
            expect(0 <= s.logLog.lower && s.logLog.lower <= s.survival && s.survival <= s.logLog.upper && s.logLog.upper <= 1).toBe(true);
        });
        const median = survivalQuantile(steps, 0.5);
        if (median !== null) expect(median).toBeGreaterThanOrEqual(Math.min(...data.time));
      }),
    );
  });
});
