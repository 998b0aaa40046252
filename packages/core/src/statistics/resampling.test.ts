// Resampling and the arrow-shaped fit behind it: against the general fit, against closed forms where there are any, and against the truth they
// were drawn from. The general fit itself is checked against R in tools/conformance.test.ts.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { randomFrom } from "./random.ts";
import { estimateCells } from "./cellEstimate.ts";
import { maximise } from "./lifeLikelihood.ts";
import { conditionalWeibullLower, conditionalWeibullShare, logQuantile } from "./lifeBounds.ts";
import { estimateLife, fitLife } from "./lifeModel.ts";
import type { Lifetimes } from "./lifetimes.ts";
import { bootstrapPivots, pivotAt, pivotInterval, pivotLower } from "./pivot.ts";

const LAWS = ["weibull", "lognormal"] as const;
const dummies = (cells: readonly Lifetimes[]): number[][] =>
  cells.flatMap((c, i) => c.time.map(() => Array.from({ length: cells.length - 1 }, (_, j) => Number(j + 1 === i))));
const joined = (cells: readonly Lifetimes[]): Lifetimes => ({ time: cells.flatMap((c) => c.time), event: cells.flatMap((c) => c.event) });
const everEnded = (time: readonly number[]): Lifetimes => ({ time, event: time.map(() => 1 as const) });

/** Two to five cells of two to six runs, the first of each ended, the rest by chance. */
const pools: fc.Arbitrary<Lifetimes[]> = fc.array(
  fc
    .uniqueArray(fc.integer({ min: 400, max: 9000 }), { minLength: 2, maxLength: 6 })
    .chain((time) =>
      fc
        .array(fc.constantFrom<0 | 1>(0, 1, 1), { minLength: time.length, maxLength: time.length })
        .map((event) => ({ time, event: event.map((e, i) => (i < 2 ? (1 as const) : e)) })),
    ),
  { minLength: 2, maxLength: 5 },
);

/** One cell by the Newton of the general model, on scaled logs. */
function generalOne({ time, event }: Lifetimes, law: (typeof LAWS)[number]): { middle: number; sigma: number } | null {
  const logs = time.map((t) => Math.log(t));
  const mean = logs.reduce((a, b) => a + b, 0) / logs.length;
  const spread = Math.sqrt(logs.reduce((s, v) => s + (v - mean) ** 2, 0) / logs.length);
  const best = maximise({ law, y: logs.map((v) => (v - mean) / spread), x: time.map(() => [1]), event, offset: 0 });
  const [delta, kappa] = best ?? [];
  return delta === undefined || kappa === undefined ? null : { sigma: spread / kappa, middle: mean + (spread * delta) / kappa };
}

describe("cells with one scatter", () => {
  it.each(LAWS)("are fitted as the general model fits them: %s", (law) => {
    fc.assert(
      fc.property(pools, (cells) => {
        const [arrow, general] = [estimateCells(cells, law), estimateLife(joined(cells), law, dummies(cells))];
        if (arrow === null || !general.ok) throw new Error("both must have a maximum");
        expect(arrow.sigma / general.sigma).toBeCloseTo(1, 6);
        arrow.middles.forEach((m, i) => expect(m).toBeCloseTo((general.coef[0] ?? 0) + (i === 0 ? 0 : (general.coef[i] ?? 0)), 6));
      }),
      { numRuns: 60 },
    );
  });
  it("are one cell when there is one: the Weibull shape solves its profile equation (Lawless 1982, section 4.1)", () => {
    fc.assert(
      fc.property(pools, ([cell]) => {
        if (cell === undefined || cell.time.every((t, i) => cell.event[i] === 0 || t === Math.max(...cell.time))) return;
        const fit = estimateCells([cell], "weibull");
        if (fit === null) throw new Error("no fit");
        const shape = 1 / fit.sigma;
        const largest = Math.max(...cell.time);
        const powers = cell.time.map((t) => (t / largest) ** shape);
        const whole = powers.reduce((x, y) => x + y, 0);
        const weighed = powers.reduce((sum, w, i) => sum + w * Math.log(cell.time[i] ?? 1), 0) / whole;
        const ended = cell.time.filter((_, i) => cell.event[i] === 1);
        const middle = ended.reduce((sum, t) => sum + Math.log(t), 0) / ended.length;
        // In units of the scatter, so that the tolerance means the same for every cell.
        expect((weighed - fit.sigma - middle) / fit.sigma).toBeCloseTo(0, 6);
        expect(Math.exp(fit.middles[0] ?? 0)).toBeCloseTo(largest * (whole / ended.length) ** fit.sigma, 4);
      }),
      { numRuns: 60 },
    );
  });
  it("have a maximum for data of every size, spread and unit that can have one, the same as the general model's", () => {
    const random = randomFrom(5);
    let tried = 0;
    for (let k = 0; k < 3000; k++) {
      const [sd, unit, ended] = [10 ** random.int(-6, 1), 10 ** random.int(-3, 6), random.next()];
      const time = Array.from({ length: random.int(2, 14) }, () => unit * Math.exp(sd * random.normal()));
      const event = time.map((): 0 | 1 => (random.next() < ended ? 1 : 0));
      const largest = Math.max(...time);
      if (time.every((t, i) => event[i] === 0 || t === largest)) continue;
      tried++;
      for (const law of LAWS) {
        const what = `${law} ${JSON.stringify({ time, event })}`;
        const [arrow, general] = [estimateCells([{ time, event }], law), generalOne({ time, event }, law)];
        expect(arrow, what).not.toBeNull();
        expect(general, what).not.toBeNull();
        expect(Math.abs((arrow?.sigma ?? 0) / (general?.sigma ?? 1) - 1), what).toBeLessThan(1e-6);
        expect(Math.abs((arrow?.middles[0] ?? 0) - (general?.middle ?? 0)) / (general?.sigma ?? 1), what).toBeLessThan(1e-6);
      }
    }
    expect(tried).toBeGreaterThan(2000);
  });
  it("of complete lognormal runs are means and the pooled root mean square: maximum likelihood divides by n", () => {
    const cells = [everEnded([1000, 1300]), everEnded([2000, 2600, 2300])];
    const fit = estimateCells(cells, "lognormal");
    const logs = cells.map((c) => c.time.map(Math.log));
    const means = logs.map((l) => l.reduce((a, b) => a + b, 0) / l.length);
    const squares = logs.reduce((s, l, i) => s + l.reduce((q, v) => q + (v - (means[i] ?? 0)) ** 2, 0), 0);
    expect(fit?.sigma).toBeCloseTo(Math.sqrt(squares / 5), 10);
    fit?.middles.forEach((m, i) => expect(m).toBeCloseTo(means[i] ?? 0, 10));
  });
  it("have no maximum without an event in each, without scatter, or without cells", () => {
    expect(estimateCells([], "weibull")).toBeNull();
    expect(estimateCells([everEnded([1000, 1100]), { time: [2000, 2100], event: [0, 0] }], "weibull")).toBeNull();
    expect(estimateCells([everEnded([1000, 1000]), everEnded([2000])], "lognormal")).toBeNull();
  });
});

describe("the pivot of a regression", () => {
  const design = [[0], [0], [0], [0], [1], [1], [1], [1]];
  const data = everEnded([1800, 2050, 1900, 2200, 1400, 1500, 1350, 1600]);
  const request = { data, design, law: "lognormal" as const, cutAt: data.time.map(() => Number.POSITIVE_INFINITY), draws: 3000 };
  it("gives intervals that lie about the coefficient and come near Student's for complete data", () => {
    const p = bootstrapPivots({ ...request, quantiles: [] }, randomFrom(3));
    if (!p.ok) throw new Error(p.reason);
    const { lo, hi } = pivotInterval(p, 1, 0.9);
    const b = p.fit.coef[1] ?? 0;
    expect(lo).toBeLessThan(b);
    expect(hi).toBeGreaterThan(b);
    // Student's half width: t(.95, 6) s sqrt(1/4 + 1/4), s with six degrees of freedom.
    const s = p.fit.sigma * Math.sqrt(8 / 6);
    const half = 1.9431802805 * s * Math.sqrt(0.5);
    expect((hi - lo) / (2 * half)).toBeGreaterThan(0.95);
    expect((hi - lo) / (2 * half)).toBeLessThan(1.05);
    expect(() => pivotInterval(p, 2, 0.9)).toThrow(RangeError);
  });
  it("bounds a quantile below its estimate, and the bound of a slower setting below the other's", () => {
    const quantiles = [
      { p: 0.1, at: [0] },
      { p: 0.1, at: [1] },
    ];
    const p = bootstrapPivots({ ...request, quantiles }, randomFrom(4));
    if (!p.ok) throw new Error(p.reason);
    const [slow, fast] = quantiles.map((q, i) => pivotLower(p, q, i, 0.9));
    expect(slow).toBeGreaterThan(fast ?? 0);
    expect(fast).toBeLessThan(Math.exp(logQuantile(p.fit, quantiles[1] ?? { p: 0.1, at: [] }).log));
    expect(() => pivotLower(p, { p: 0.1, at: [0] }, 5, 0.9)).toThrow(RangeError);
  });
  it("refuses as the fit refuses, and when too many draws cannot be fitted", () => {
    const none = { ...request, data: { time: data.time, event: data.event.map(() => 0 as const) }, quantiles: [] };
    expect(bootstrapPivots(none, randomFrom(1))).toEqual({ ok: false, reason: "no-failures", redrawn: 0 });
    // All but one of the second side cut early: most draws have no failure there.
    const cutAt = [9e9, 9e9, 9e9, 9e9, 1401, 1200, 1200, 1200];
    const thin = { ...data, time: [1800, 2050, 1900, 2200, 1400, 1200, 1200, 1200], event: [1, 1, 1, 1, 1, 0, 0, 0] as (0 | 1)[] };
    const refused = bootstrapPivots({ ...request, data: thin, cutAt, quantiles: [], draws: 200 }, randomFrom(1));
    expect(refused).toMatchObject({ ok: false, reason: "too-many-unfittable" });
    expect(() => bootstrapPivots({ ...request, cutAt: [1], quantiles: [] }, randomFrom(1))).toThrow(/cutAt must have 8 entries/);
  });
  it("counts ranks against us: the next one up, infinite where there are too few draws", () => {
    const ten = [1, 2, 3, 4, 5, 6, 7, 8, 9, 10];
    expect(pivotAt(ten, 0.9)).toBe(10);
    expect(pivotAt(ten, 0.5)).toBe(6);
    expect(pivotAt(ten, 0.95)).toBe(Number.POSITIVE_INFINITY);
    expect(pivotAt(ten, 0.001)).toBe(1);
  });
});

describe("the conditional bound and its share", () => {
  it("are each other's inverse, and the share falls with the time asked", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 600, max: 6000 }), { minLength: 4, maxLength: 9 }), (time) => {
        const data = { time, event: time.map((_, i) => (i % 4 === 3 ? (0 as const) : (1 as const))) };
        const fit = fitLife(data, "weibull");
        if (!fit.ok) return;
        for (const confidence of [0.8, 0.9, 0.95]) {
          const bound = conditionalWeibullLower(data, fit, 0.1, confidence);
          if (!bound.ok) throw new Error(bound.reason);
          expect(conditionalWeibullShare(data, fit, 0.1, bound.lower)).toBeCloseTo(confidence, 8);
          expect(conditionalWeibullShare(data, fit, 0.1, bound.lower * 1.1)).toBeLessThan(confidence);
        }
      }),
      { numRuns: 40 },
    );
  });
});
