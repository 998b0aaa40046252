// Normal quantiles and tails to printed digits (Abramowitz and Stegun, tables 26.1 and 26.2, from memory); linear algebra and roots by their
// own equations.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  betaQuantile,
  chiSquareSf,
  gammaCdf,
  logNormalSf,
  logSfFrom,
  noncentralTCdf,
  normalCdf,
  normalHazard,
  normalQuantile,
  studentCdf,
  studentQuantile,
} from "./distributions.ts";
import { bisect, falsePosition } from "./roots.ts";
import { dot, explained, invertPositive, leastSquares, solvePositive } from "./linear.ts";

describe("distributions", () => {
  it("agree with the printed tables", () => {
    expect(normalQuantile(0.975)).toBeCloseTo(1.959963985, 9);
    expect(normalCdf(-1.644853627)).toBeCloseTo(0.05, 9);
    // The library's t quantile is good to some 1e-8.
    expect(studentQuantile(0.975, 10)).toBeCloseTo(2.228138852, 7);
    expect(chiSquareSf(3.841458821, 1)).toBeCloseTo(0.05, 9);
    expect(chiSquareSf(5.991464547, 2)).toBeCloseTo(0.05, 9);
    expect(chiSquareSf(-1, 2)).toBe(1);
    expect(betaQuantile(0.5, 3, 3)).toBeCloseTo(0.5, 9);
    expect(gammaCdf(1, 1)).toBeCloseTo(1 - Math.exp(-1), 12);
    expect([gammaCdf(0, 2), gammaCdf(Number.POSITIVE_INFINITY, 2)]).toEqual([0, 1]);
    expect(noncentralTCdf(1.812461123, 10, 0)).toBeCloseTo(0.95, 8);
    expect(() => normalQuantile(1)).toThrow("p must lie between 0 and 1, got 1");
  });
  it("keep their digits in the far tail", () => {
    // Q(10) = 7.619853024e-24, Q(25) = 3.056696706e-138.
    expect(Math.exp(logNormalSf(10))).toBeCloseTo(7.619853024160527e-24, 33);
    expect(logNormalSf(25) / Math.LN10).toBeCloseTo(Math.log10(3.056696706382561) - 138, 9);
    expect(normalCdf(-8)).toBeCloseTo(6.220960574271786e-16, 28);
    expect(normalHazard(1e6) / 1e6).toBeCloseTo(1, 11);
  });
  it("join smoothly where the tail takes over", () => {
    for (const f of [normalHazard, logNormalSf, (w: number) => normalCdf(-w)]) {
      const [before, after] = [f(3.5 - 1e-9), f(3.5 + 1e-9)];
      expect(Math.abs(after / before - 1)).toBeLessThan(1e-7);
    }
  });
});

describe("small linear algebra", () => {
  /** B B' + I is symmetric and positive definite. */
  const matrices = fc
    .integer({ min: 1, max: 5 })
    .chain((n) =>
      fc
        .array(fc.array(fc.double({ min: -5, max: 5, noNaN: true }), { minLength: n, maxLength: n }), { minLength: n, maxLength: n })
        .map((b) => b.map((r, i) => b.map((s, j) => dot(r, s) + (i === j ? 1 : 0)))),
    );
  it("solves what it says", () => {
    fc.assert(
      fc.property(matrices, (a) => {
        const b = a.map((_, i) => i + 1);
        const x = solvePositive(a, b);
        a.forEach((row, i) => expect(dot(row, x ?? [])).toBeCloseTo(b[i] ?? 0, 6));
      }),
    );
  });
  it("inverts what it says, and refuses what has no inverse", () => {
    fc.assert(
      fc.property(matrices, (a) => {
        const inverse = invertPositive(a) ?? [];
        a.forEach((row, i) =>
          a.forEach((_, j) =>
            expect(
              dot(
                row,
                inverse.map((r) => r[j] ?? 0),
              ),
            ).toBeCloseTo(i === j ? 1 : 0, 6),
          ),
        );
      }),
    );
    expect(
      invertPositive([
        [1, 2],
        [2, 4],
      ]),
    ).toBeNull();
    expect(solvePositive([[-1]], [1])).toBeNull();
  });
});

describe("bisection", () => {
  it("finds the root of a rising and of a falling function, and the nearest end without one", () => {
    expect(bisect((x) => x * x - 2, 0, 2)).toBeCloseTo(Math.SQRT2, 14);
    expect(bisect((x) => 2 - x * x, 0, 2)).toBeCloseTo(Math.SQRT2, 14);
    expect(bisect((x) => x + 1, 0, 2)).toBeCloseTo(0, 12);
    expect(() => bisect((x) => x, 2, 1)).toThrow("lo must not exceed hi, got 2 and 1");
  });
});

describe("the Illinois rule", () => {
  it("finds what bisection finds, in far fewer evaluations", () => {
    fc.assert(
      fc.property(fc.double({ min: -5, max: 5, noNaN: true }), fc.double({ min: 0.05, max: 8, noNaN: true }), (root, steep) => {
        let calls = 0;
        const f = (x: number): number => {
          calls++;
          return Math.tanh(steep * (x - root));
        };
        const found = falsePosition(f, -20, 15, 1e-12);
        expect(Math.abs(found - bisect((x) => Math.tanh(steep * (x - root)), -20, 15))).toBeLessThan(1e-9);
        expect(calls).toBeLessThan(120);
      }),
    );
  });
  it("gives the nearer end when there is no change of sign, and refuses a bracket turned round", () => {
    expect(falsePosition((x) => x + 10, 1, 5, 1e-9)).toBe(1);
    expect(falsePosition((x) => x - 10, 1, 5, 1e-9)).toBe(5);
    expect(falsePosition((x) => x - 2, 2, 5, 1e-9)).toBe(2);
    expect(() => falsePosition((x) => x, 2, 1, 1e-9)).toThrow("lo must not exceed hi, got 2 and 1");
  });
});

describe("least squares", () => {
  it("reads a line back, and refuses columns that are not independent", () => {
    const rows = [0, 1, 2, 3].map((x) => [1, x]);
    const [a, b] = leastSquares(rows, [5, 7, 9, 11]) ?? [];
    expect(a).toBeCloseTo(5, 10);
    expect(b).toBeCloseTo(2, 10);
    expect(
      leastSquares(
        rows.map(([one, x]) => [one ?? 0, x ?? 0, 2 * (x ?? 0)]),
        [1, 2, 3, 4],
      ),
    ).toBeNull();
  });
  it("tells the share explained: R^2 of Anscombe's first set (Anscombe 1973): 0.6665", () => {
    const x = [10, 8, 13, 9, 11, 14, 6, 4, 12, 7, 5];
    const y = [8.04, 6.95, 7.58, 8.81, 8.33, 9.96, 7.24, 4.26, 10.84, 4.82, 5.68];
    expect(
      explained(
        x.map((v) => [1, v]),
        y,
      ),
    ).toBeCloseTo(0.6665, 4);
    expect(
      explained(
        x.map(() => [1]),
        y,
      ),
    ).toBeCloseTo(0, 12);
    expect(
      explained(
        x.map((v) => [1, v]),
        x,
      ),
    ).toBeCloseTo(1, 12);
    expect(
      explained(
        x.map((v) => [1, v]),
        x.map(() => 3),
      ),
    ).toBe(1);
  });
});

describe("sums that stand in for the library", () => {
  it("whole-number gamma: the Poisson sum agrees with the recurrence P(a + 1, x) = P(a, x) - x^a e^-x / a!", () => {
    for (const x of [1.5, 4, 12, 60, 300]) {
      let term = Math.exp(-x);
      for (let a = 1; a < 40; a++) {
        term *= x / a;
        expect(gammaCdf(x, a + 1)).toBeCloseTo(gammaCdf(x, a) - term, 10);
      }
    }
  });
  it("are one beyond every digit and none below zero", () => {
    expect([gammaCdf(701, 3), gammaCdf(1e9, 60), gammaCdf(-1, 3)]).toEqual([1, 1, 0]);
  });
  it("Student's distribution function and quantile are inverse; Cauchy's has a closed form", () => {
    for (const df of [1, 2, 3.5, 9, 40])
      for (const p of [0.05, 0.3, 0.8, 0.975]) expect(studentCdf(studentQuantile(p, df), df)).toBeCloseTo(p, 6);
    // The library's incomplete beta is off by 2e-8 at the median.
    for (const x of [-3, -0.4, 0, 1, 7]) expect(studentCdf(x, 1)).toBeCloseTo(0.5 + Math.atan(x) / Math.PI, 7);
  });
  it("the log tail from its hazard is the log tail, and zero where the hazard has vanished", () => {
    for (let w = -60; w <= 60; w += 0.37) expect(logSfFrom(w, normalHazard(w))).toBeCloseTo(logNormalSf(w), 10);
    expect(normalHazard(-50)).toBe(0);
    expect(logSfFrom(-50, 0)).toBeCloseTo(0, 12);
  });
});
