import { describe, expect, it } from "vitest";
import { scatterBeyond, varianceOf } from "./scatter.ts";

describe("a spread beyond what is usual", () => {
  it("is the upper tail of chi-square: R 4.2.2, pchisq(3 * var(log(c(1500, 2400, 3900, 2000))) / 0.15^2, 3, lower = FALSE)", () => {
    expect(scatterBeyond([1500, 2400, 3900, 2000].map(Math.log), 0.15)).toBeCloseTo(8.43810920684e-5, 12);
  });
  it("is no surprise with fewer than two values, and none can be told without a spread to hold it against", () => {
    expect(scatterBeyond([7], 0.15)).toBe(1);
    expect(varianceOf([7])).toBe(0);
    expect(() => scatterBeyond([1, 2], 0)).toThrow("sd must be positive, got 0");
  });
});
