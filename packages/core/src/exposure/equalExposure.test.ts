// What to set, by the law it must keep: sensitivity times time over the square of the f-number, less the filters, is the metered exposure (definition of
// exposure, ISO 2720), or what is said to be off.

import { describe, expect, it } from "vitest";
import { randomFrom } from "../statistics/index.ts";
import type { Metered } from "./equalExposure.ts";
import { equalExposure } from "./equalExposure.ts";

const third = (v: number): number => 2 ** (Math.round(3 * v) / 3);
const bagOf = (random: ReturnType<typeof randomFrom>): number[] => [3, 6, 10].filter(() => random.next() < 0.5);
function meteredBy(seed: number): Metered {
  const random = randomFrom(seed);
  const iso = 100 * third(random.int(0, 12) / 3);
  const fNumber = 2 ** (random.int(6, 18) / 6);
  return {
    x: random.int(-24, 0) / 3,
    iso,
    fNumber,
    isoLeast: iso / third(random.int(0, 6) / 3),
    isoMost: iso * third(random.int(0, 12) / 3),
    fWidest: fNumber / 2 ** (random.int(0, 6) / 6),
    fNarrowest: fNumber * 2 ** (random.int(0, 12) / 6),
    filters: bagOf(random),
  };
}
const light = (iso: number, fNumber: number, x: number): number => Math.log2(iso) - 2 * Math.log2(fNumber) + x;

describe("what to set, for 300 bags and lights", () => {
  const all = Array.from({ length: 300 }, (_, seed) => ({ m: meteredBy(seed), x: ((seed * 7) % 45) / 3 - 12 }));
  it("is as bright as what was metered, but for what is said to be off", () => {
    for (const { m, x } of all) {
      const set = equalExposure(m, x);
      const glass = set.filters.reduce((s, f) => s + f, 0);
      expect(light(set.iso, set.fNumber, x) - glass - light(m.iso, m.fNumber, m.x)).toBeCloseTo(set.tooBright, 6);
    }
  });
  it("stays within the limits, and puts on nothing that the bag does not hold", () => {
    for (const { m, x } of all) {
      const { iso, fNumber, filters } = equalExposure(m, x);
      expect(iso).toBeGreaterThanOrEqual(m.isoLeast * (1 - 1e-9));
      expect(iso).toBeLessThanOrEqual(m.isoMost * (1 + 1e-9));
      expect(fNumber).toBeGreaterThanOrEqual(m.fWidest * (1 - 1e-9));
      expect(fNumber).toBeLessThanOrEqual(m.fNarrowest * (1 + 1e-9));
      expect(filters.every((f) => m.filters.includes(f)) && new Set(filters).size === filters.length).toBe(true);
    }
  });
  it("is too dark only with nothing in front and everything open, and no filter more than is needed", () => {
    for (const { m, x } of all) {
      const set = equalExposure(m, x);
      if (set.tooBright < -1e-6)
        expect(set.filters.length === 0 || Math.abs(equalExposure({ ...m, filters: [] }, x).tooBright) > -set.tooBright).toBe(true);
      const bare = equalExposure({ ...m, filters: [] }, x);
      if (Math.abs(bare.tooBright) < 1e-6) expect(set.filters).toEqual([]);
      expect(Math.abs(set.tooBright)).toBeLessThanOrEqual(Math.abs(bare.tooBright) + 1e-6);
    }
  });
});
