import { describe, expect, it } from "vitest";
import { normalQuantile } from "../distributions.ts";
import { randomFrom } from "../random.ts";
import { chanceAt } from "./chanceCurve.ts";
import { PRESUMED, predictiveCurve, presumedLimitSec } from "./predictive.ts";
import type { LimitRun } from "./runs.ts";

const ended = (...sec: number[]): LimitRun[] => sec.map((s) => ({ kind: "exact", sec: s, day: null }));

describe("a limit where the scatter is presumed", () => {
  it("keeps its word where batteries scatter as presumed: at least 88 % of 600 simulated modes, with one to five empties", () => {
    const random = randomFrom(11);
    let [kept, all] = [0, 0];
    for (let mode = 0; mode < 600; mode++) {
      const sd = PRESUMED.battery * Math.exp(0.4675 * random.normal());
      const runs = ended(...Array.from({ length: 1 + (mode % 5) }, () => 5400 * Math.exp(sd * random.normal())));
      const truth = 5400 * Math.exp(sd * normalQuantile(0.1));
      kept += Number(presumedLimitSec(runs, PRESUMED.battery, 0.9, 0.9) <= truth);
      all++;
    }
    expect(kept / all).toBeGreaterThanOrEqual(0.88);
  });
  it("never lies where the chance to last is below the share, and rises with runs that agree", () => {
    for (const runs of [ended(3000), ended(3000, 3100), [...ended(3000), { kind: "censored" as const, sec: 3200, day: null }]]) {
      const sec = presumedLimitSec(runs, PRESUMED.battery, 0.9, 0.9);
      expect(chanceAt(predictiveCurve(runs, PRESUMED.battery), sec)).toBeGreaterThanOrEqual(0.9 - 1e-9);
    }
    const [one, five] = [ended(3000), ended(3000, 3010, 2990, 3020, 2980)].map((r) => presumedLimitSec(r, PRESUMED.battery, 0.9, 0.9));
    expect(five).toBeGreaterThan(one ?? 0);
  });
});
