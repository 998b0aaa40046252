import { describe, expect, it } from "vitest";
import { randomFrom } from "../statistics/index.ts";
import type { Rise, Seen } from "./rises.ts";
import { boundariesOf, levelAt, notCrossed, notEnded, termOf, timeAt, weighedRises } from "./rises.ts";

const likelihood = (rise: Rise, seen: Seen): number =>
  notCrossed(rise, seen.open) * notEnded(rise, seen.endSec) * seen.crossed.reduce((product, b) => product * termOf(rise, b), 1);

/** Made readings of one rise, every few minutes. */
function madeSeen(seed: number): Seen {
  const random = randomFrom(seed);
  const rise = { plateau: 5 + 6 * random.next(), start: 3 * random.next(), tauSec: 1200 + 1800 * random.next(), slow: 0, z: 0, weight: 1 };
  const everySec = 180 + 240 * random.next();
  const readings = Array.from({ length: 20 }, (_, i) => (i + 1) * everySec).map((sec) => ({
    sec,
    step: Math.max(0, Math.floor(levelAt(rise, sec) + 0.05 * random.normal())),
  }));
  return boundariesOf(readings, 600, 20 * everySec + 60);
}

describe("rises weighed on their grid", () => {
  it("leave out beside one that counts none that would have counted, and weigh the others by their likelihood", () => {
    for (let seed = 1; seed <= 12; seed++) {
      const seen = madeSeen(seed);
      const { rises, best } = weighedRises(seen, { lo: 15, hi: 60 });
      expect(rises.length).toBeGreaterThan(0);
      const keyOf = (r: Rise): string => [r.z, r.slow, r.plateau, r.start].map((v) => v.toFixed(6)).join(" ");
      const kept = new Map(rises.map((r) => [keyOf(r), r]));
      const bestWeight = Math.max(...rises.map((r) => r.weight));
      expect(kept.get(keyOf(best))?.weight).toBe(bestWeight);
      for (const r of rises) {
        const own = likelihood(r, seen);
        for (const start of [r.start - 0.3, r.start + 0.3]) {
          if (start < -4 - 1e-9 || start > 8 + 1e-9 || start >= r.plateau) continue;
          const beside = { ...r, start };
          const weight = (r.weight * likelihood(beside, seen)) / own;
          const found = kept.get(keyOf(beside));
          if (found === undefined) expect(weight).toBeLessThan(1.001e-4 * bestWeight);
          else expect(found.weight / weight).toBeCloseTo(1, 6);
        }
      }
    }
  });
  it("reach a level when they stand at it, with a slow part and without", () => {
    for (const slow of [0, 0.1, 0.2]) {
      const rise = { plateau: 11, start: 1, tauSec: 1500, slow, z: 0, weight: 1 };
      for (const level of [3, 7, 10, 10.9]) expect(levelAt(rise, timeAt(rise, level, 60))).toBeCloseTo(level, 9);
    }
  });
});
