// Normal quantiles and tails to printed digits (Abramowitz and Stegun, tables 26.1 and 26.2, from memory); linear algebra and roots by their
// own equations.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import {
  betaQuantile,
  bisect,
  chiSquareSf,
  dot,
  gammaCdf,
  invertPositive,
  logNormalSf,
  noncentralTCdf,
  normalCdf,
  normalHazard,
  normalQuantile,
  solvePositive,
  studentQuantile,
} from "./index.ts";

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
