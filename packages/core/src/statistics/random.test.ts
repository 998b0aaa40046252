import { describe, expect, it } from "vitest";
import { randomFrom, seedOf } from "./random.ts";

describe("seeded generator", () => {
  it("repeats for a seed and differs between seeds", () => {
    const draw = (seed: number) =>
      Array.from(
        { length: 5 },
        (
          (r) => () =>
            r.next()
        )(randomFrom(seed)),
      );
    expect(draw(7)).toEqual(draw(7));
    expect(draw(7)).not.toEqual(draw(8));
  });
  it("hashes names as FNV-1a does", () => {
    // Reference values of the 32-bit FNV-1a test suite (L. C. Noll, public domain): "" and "foobar".
    expect(seedOf("")).toBe(0x811c9dc5);
    expect(seedOf("foobar")).toBe(0xbf9cf968);
  });
  it("has the moments it should, within five standard errors", () => {
    const r = randomFrom(42);
    const n = 20_000;
    const uniform = Array.from({ length: n }, () => r.next());
    const normal = Array.from({ length: n }, () => r.normal());
    const mean = (xs: number[]) => xs.reduce((s, x) => s + x, 0) / xs.length;
    expect(Math.abs(mean(uniform) - 0.5)).toBeLessThan((5 * Math.sqrt(1 / 12)) / Math.sqrt(n));
    expect(Math.abs(mean(normal))).toBeLessThan(5 / Math.sqrt(n));
    expect(Math.abs(mean(normal.map((x) => x * x)) - 1)).toBeLessThan((5 * Math.SQRT2) / Math.sqrt(n));
  });
  it("draws integers with both ends included", () => {
    const r = randomFrom(1);
    const seen = new Set(Array.from({ length: 400 }, () => r.int(2, 5)));
    expect([...seen].sort()).toEqual([2, 3, 4, 5]);
  });
  it("refuses a seed that is not a 32-bit integer", () => {
    expect(() => randomFrom(1.5)).toThrow("seed must be an integer in [0, 2^32), got 1.5");
  });
});
