// Coverage with the rule in the loop, in short: a limit at 90 % must lie at or below the truth in at least 88 of 100 made cells, less three standard errors.
// The table of all worlds is `npm run coverage -- --worlds`. For the Weibull bound shown beside it one integral a set tells the same.

import type { Lifetimes } from "@keep-rolling/core/statistics";
import { conditionalWeibullLower, conditionalWeibullShare, fitLife, lawQuantile, randomFrom } from "@keep-rolling/core/statistics";
import { describe, expect, it } from "vitest";
import { simulate } from "./coverage-simulation/simulate.ts";
import { WORLDS } from "./coverage-simulation/worlds.ts";

const PROOF = process.env.PROOF === "1";
const WHOLE_LEAST = 0.88;
const least = (p: number, n: number): number => p - 3 * Math.sqrt((p * (1 - p)) / n);

describe("the dependable limit covers what it claims", () => {
  it.each([
    ["W2 Weibull .20, 6 x 4", 25],
    ["W4 body physics, cut at 2 h", 20],
    ["1 x 5 Weibull .20", 200],
    ...(PROOF
      ? ([
          ["W3 five of .05, one of .20", 25],
          ["W7 to the minute, lognormal .02 (ties)", 6],
          ["a third broken by a gap, lognormal .10", 8],
        ] as const)
      : []),
  ] as const)("%s", (name, sets) => {
    const world = WORLDS.find((w) => w.name === name);
    if (world === undefined) throw new Error(`no world ${name}`);
    const c = simulate(world, sets, 11);
    const claims = c.asked - c.refused;
    expect(claims).toBeGreaterThan(0.8 * c.asked);
    // Cells of one unit err together: the standard error is that of the units.
    expect(c.whole).toBeGreaterThan(least(WHOLE_LEAST, sets));
    // And it is of use: a limit that is always zero covers too.
    expect(c.ratio).toBeGreaterThan(0.6);
  });
  it("has worlds of all kinds, each with a name of its own", () => {
    expect(new Set(WORLDS.map((w) => w.name)).size).toBe(WORLDS.length);
    expect(new Set(WORLDS.map((w) => w.record ?? "exact"))).toEqual(new Set(["exact", "minutes", "found off", "gaps"]));
  });
});

const SETS = 2000;
const made = (runs: number, sd: number, random: ReturnType<typeof randomFrom>): Lifetimes => ({
  time: Array.from({ length: runs }, () => 1800 * Math.exp(((sd * Math.sqrt(6)) / Math.PI) * Math.log(-Math.log(1 - random.next())))),
  event: Array.from({ length: runs }, () => 1 as const),
});
const truth = 1800 * Math.exp(((0.15 * Math.sqrt(6)) / Math.PI) * lawQuantile("weibull", 0.1));

describe("the conditional Weibull bound, shown for comparison, covers where its law is true", () => {
  it("five runs, 2,000 sets", () => {
    const random = randomFrom(11);
    let covered = 0;
    for (let i = 0; i < SETS; i++) {
      const data = made(5, 0.15, random);
      const fit = fitLife(data, "weibull");
      if (fit.ok && conditionalWeibullShare(data, fit, 0.1, truth) <= 0.9) covered++;
    }
    expect(covered / SETS).toBeGreaterThan(least(0.9, SETS));
  });
  it("and the integral tells the same as the bound itself", () => {
    const random = randomFrom(12);
    for (let i = 0; i < 60; i++) {
      const data = made(7, 0.15, random);
      const fit = fitLife(data, "weibull");
      if (!fit.ok) continue;
      const bound = conditionalWeibullLower(data, fit, 0.1, 0.9);
      if (!bound.ok) continue;
      expect(bound.lower <= truth).toBe(conditionalWeibullShare(data, fit, 0.1, truth) <= 0.9);
    }
  });
});
