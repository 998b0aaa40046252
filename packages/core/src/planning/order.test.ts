import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { Trials } from "./order.ts";
import { ORDER_SCHOOLS, orderTrials } from "./order.ts";

const lists = fc
  .array(fc.integer({ min: 0, max: 4 }), { maxLength: 5 })
  .map((trials): Trials[] => trials.map((n, i) => ({ cell: `c${i}`, trials: n })));
const count = (cells: readonly string[]): Record<string, number> => {
  const n: Record<string, number> = {};
  for (const c of cells) n[c] = (n[c] ?? 0) + 1;
  return n;
};

describe("the order of trials", () => {
  it("holds every trial once, whatever the school, and the same for the same seed", () => {
    fc.assert(
      fc.property(lists, fc.constantFrom(...ORDER_SCHOOLS), fc.nat({ max: 1000 }), (trials, school, seed) => {
        const made = orderTrials(trials, school, seed);
        expect(count(made.cells)).toEqual(Object.fromEntries(trials.filter((t) => t.trials > 0).map((t) => [t.cell, t.trials])));
        expect(orderTrials(trials, school, seed)).toEqual(made);
      }),
      { numRuns: 60 },
    );
  });
  it("goes round by round: no cell has its second trial before every cell had its first", () => {
    fc.assert(
      fc.property(lists, fc.constantFrom(...ORDER_SCHOOLS), (trials, school) => {
        const seen = new Map<string, number>();
        const left = new Map(trials.map((t) => [t.cell, t.trials]));
        for (const cell of orderTrials(trials, school, 1).cells) {
          const round = (seen.get(cell) ?? 0) + 1;
          seen.set(cell, round);
          for (const [c, n] of left) if (n >= round - 1) expect(seen.get(c) ?? 0).toBeGreaterThanOrEqual(Math.min(n, round - 1));
        }
      }),
      { numRuns: 60 },
    );
  });
  it("what was tested today comes after what was not, whatever the school", () => {
    for (const school of ORDER_SCHOOLS) {
      const { cells } = orderTrials(
        [
          { cell: "today", trials: 2, madeToday: 2 },
          { cell: "fresh", trials: 3 },
        ],
        school,
        5,
      );
      expect(cells.slice(0, 2)).toEqual(["fresh", "fresh"]);
      expect([...cells.slice(2)].sort()).toEqual(["fresh", "today", "today"]);
    }
  });
  it("balanced is never less even than random of the same seed, and even where that is possible", () => {
    fc.assert(
      fc.property(lists, fc.nat({ max: 500 }), (trials, seed) => {
        const random = orderTrials(trials, "random", seed);
        const balanced = orderTrials(trials, "balanced", seed);
        expect(balanced.placeOff + 0.5 * balanced.followsOff).toBeLessThanOrEqual(random.placeOff + 0.5 * random.followsOff + 1e-9);
      }),
      { numRuns: 40 },
    );
    // Two cells, two trials each: a b b a has equal mean places, each follows the other once.
    expect(
      orderTrials(
        [
          { cell: "a", trials: 2 },
          { cell: "b", trials: 2 },
        ],
        "balanced",
        3,
      ),
    ).toMatchObject({ placeOff: 0, followsOff: 0 });
  });
  it("shuffles without favour: every order of three comes about equally often", () => {
    const seen = count(
      Array.from({ length: 3000 }, (_, seed) =>
        orderTrials(
          [
            { cell: "a", trials: 1 },
            { cell: "b", trials: 1 },
            { cell: "c", trials: 1 },
          ],
          "random",
          seed,
        ).cells.join(""),
      ),
    );
    expect(Object.keys(seen).sort()).toEqual(["abc", "acb", "bac", "bca", "cab", "cba"]);
    // Chi-squared with 5 degrees of freedom; 20.5 is the 99.9 % point (standard tables). Seeds are fixed, so this cannot flicker.
    const chi2 = Object.values(seen).reduce((sum, n) => sum + (n - 500) ** 2 / 500, 0);
    expect(chi2).toBeLessThan(20.5);
  });
  it("refuses half a trial", () => {
    expect(() => orderTrials([{ cell: "a", trials: 0.5 }], "random", 1)).toThrow(/trials must be a whole number, got 0.5/);
  });
});
