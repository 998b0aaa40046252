// Checked against sorting: what it stands for.

import { expect, it } from "vitest";
import { nthSmallest } from "./nthSmallest.ts";
import { randomFrom } from "./random.ts";

it("is the value that sorting would put there: few and many values, ties, sorted and reversed, infinite ones", () => {
  const random = randomFrom(11);
  const makers: ((n: number) => number[])[] = [
    (n) => Array.from({ length: n }, () => random.normal()),
    (n) => Array.from({ length: n }, () => random.int(0, 3)),
    (n) => Array.from({ length: n }, (_, i) => i),
    (n) => Array.from({ length: n }, (_, i) => -i),
    (n) => Array.from({ length: n }, () => 7),
    (n) => Array.from({ length: n }, () => (random.int(0, 1) === 0 ? Number.POSITIVE_INFINITY : random.next())),
  ];
  for (const make of makers)
    for (const n of [1, 2, 3, 5, 64, 1001]) {
      const values = make(n);
      const sorted = Float64Array.from(values).sort();
      for (const at of new Set([0, n >> 1, Math.floor(0.9 * n), n - 1]))
        expect(nthSmallest(Float64Array.from(values), at)).toBe(sorted[at]);
    }
});
it("says which value is asked for that is not there", () => {
  expect(() => nthSmallest(new Float64Array(0), 0)).toThrow(RangeError);
  expect(() => nthSmallest(Float64Array.of(1, 2), 2)).toThrow("n must lie in 0 to 1, got 2");
  expect(() => nthSmallest(Float64Array.of(1, 2), 0.5)).toThrow(RangeError);
});
