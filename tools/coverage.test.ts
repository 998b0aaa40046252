// Coverage with the rule in the loop. A bound at 90 % must lie at or below the truth in nine of ten made units, less three standard errors. For
// single cells one integral a set tells it: P(t_p > truth | runs) <= confidence exactly when the bound lies at or below the truth.

import type { LadderCell } from "@keep-rolling/core/reading";
import { randomFrom } from "@keep-rolling/core/statistics";
import { conditionalWeibullLower, conditionalWeibullShare, fitLife } from "@keep-rolling/core/statistics";
import { describe, expect, it } from "vitest";
import type { Scenario } from "./coverage-simulation/simulate.ts";
import { ASKED, madeUnit, simulate, trueQuantile } from "./coverage-simulation/simulate.ts";

const SETS = 2000;
const least = (n: number): number => ASKED.confidence - 3 * Math.sqrt((ASKED.confidence * (1 - ASKED.confidence)) / n);
const scenario = (more: Partial<Scenario>): Scenario => ({ name: "", law: "weibull", sd: 0.15, cells: 1, runs: 5, cutShare: 0, ...more });
const dataOf = (cell: LadderCell | undefined) => ({
  time: cell?.records.map((r) => r.timeSec) ?? [],
  event: cell?.records.map((r) => r.event) ?? [],
});

describe("the conditional Weibull bound covers what it claims", () => {
  it.each([
    ["five runs", scenario({})],
    ["eight runs", scenario({ runs: 8 })],
    ["ten runs, three in ten cut", scenario({ runs: 10, cutShare: 0.3 })],
    ["eight runs that are truly lognormal", scenario({ runs: 8, law: "lognormal", sd: 0.1 })],
  ])("%s, 2,000 sets", (_name, s) => {
    const random = randomFrom(11);
    const truth = trueQuantile(s, 0, 1 - ASKED.share);
    let [answered, covered, refused] = [0, 0, 0];
    for (let i = 0; i < SETS; i++) {
      const data = dataOf(madeUnit(s, random)[0]);
      const fit = data.event.filter((e) => e === 1).length >= 5 ? fitLife(data, "weibull") : null;
      if (fit?.ok !== true) {
        refused++;
        continue;
      }
      answered++;
      if (conditionalWeibullShare(data, fit, 1 - ASKED.share, truth) <= ASKED.confidence) covered++;
    }
    expect(answered + refused).toBe(SETS);
    expect(refused / SETS).toBeLessThan(0.06);
    expect(covered / answered).toBeGreaterThan(least(answered));
  });
  it("and the integral tells the same as the bound itself", () => {
    const random = randomFrom(12);
    const s = scenario({ runs: 7, cutShare: 0.2 });
    const truth = trueQuantile(s, 0, 0.1);
    for (let i = 0; i < 60; i++) {
      const data = dataOf(madeUnit(s, random)[0]);
      const fit = fitLife(data, "weibull");
      if (!fit.ok) continue;
      const bound = conditionalWeibullLower(data, fit, 0.1, ASKED.confidence);
      if (!bound.ok) continue;
      expect(bound.lower <= truth).toBe(conditionalWeibullShare(data, fit, 0.1, truth) <= ASKED.confidence);
    }
  });
});

describe("the ladder, its rule in the loop", () => {
  it("covers with a pooled lognormal scatter, complete: 2,000 units of four cells of three", () => {
    const c = simulate(scenario({ cells: 4, runs: 3, law: "lognormal", sd: 0.1 }), SETS, 1, 13);
    const pooled = c.by.pooled;
    expect(pooled?.claimed).toBeGreaterThan(0.9 * SETS);
    expect((pooled?.covered ?? 0) / (pooled?.claimed ?? 1)).toBeGreaterThan(least(pooled?.claimed ?? 1));
    expect(Object.values(c.by).reduce((n, t) => n + t.claimed, 0) + c.refused).toBe(SETS);
  });
  it("covers with the bootstrap pivot where three in ten are cut: 60 units of six cells of four", () => {
    const c = simulate(scenario({ cells: 6, runs: 4, law: "lognormal", sd: 0.1, cutShare: 0.3 }), 60, 300, 14);
    const pooled = c.by.pooled;
    expect((pooled?.covered ?? 0) / (pooled?.claimed ?? 1)).toBeGreaterThan(least(pooled?.claimed ?? 1));
  });
});
