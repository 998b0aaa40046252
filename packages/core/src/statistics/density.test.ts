import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { densityOf, difference } from "./density.ts";

/** The difference as it is written in a book: every pair of cells once. */
function plainly(a: Float64Array, b: Float64Array): Float64Array {
  const mass = new Float64Array(a.length + b.length - 1);
  const last = b.length - 1;
  a.forEach((m, i) => b.forEach((n, j) => (mass[i + last - j] = (mass[i + last - j] as number) + m * n)));
  return mass;
}

describe("the difference of two densities", () => {
  const masses = fc.array(fc.double({ min: 0.01, max: 1, noNaN: true }), { minLength: 1, maxLength: 40 });
  it("is the sum over every pair of cells, to the last digit, at any two lengths", () => {
    fc.assert(
      fc.property(masses, masses, fc.integer({ min: -50, max: 50 }), (one, other, first) => {
        const a = densityOf(first, Float64Array.from(one), 0.1);
        const b = densityOf(3, Float64Array.from(other), 0.1);
        expect(difference(a, b)).toEqual(densityOf(first - 3 - (b.mass.length - 1), plainly(a.mass, b.mass), 0.1));
      }),
    );
  });
  it("has its middle where the middles differ", () => {
    const even = densityOf(10, new Float64Array(5).fill(1), 0.5);
    const d = difference(even, densityOf(2, new Float64Array(3).fill(1), 0.5));
    // Points 10..14 less 2..4: -4 + 10 .. 14 - 2.
    expect([d.first, d.mass.length]).toEqual([6, 7]);
    expect(d.mass.reduce((s, m, i) => s + m * (d.first + i), 0)).toBeCloseTo(12 - 3, 12);
  });
});
