// The curve against the function it was read from.

import { describe, expect, it } from "vitest";
import { normalCdf } from "../distributions.ts";
import { chanceAt, chanceCurve, timeOfChance } from "./chanceCurve.ts";

const lognormal = (middle: number, sd: number) => (sec: number) => normalCdf((Math.log(middle) - Math.log(sec)) / sd);

describe("a curve of chances", () => {
  it("is the function to four digits, between its points too", () => {
    for (const sd of [0.01, 0.1, 0.5]) {
      const chance = lognormal(2000, sd);
      const curve = chanceCurve(chance, 2100, 1.3 * sd, 2500);
      for (let z = -3; z <= 3; z += 0.07) {
        const sec = 2000 * Math.exp(z * sd);
        expect(Math.abs(chanceAt(curve, sec) - chance(sec))).toBeLessThan(2e-4);
      }
    }
  });
  it("never rises, and goes on beyond its ends", () => {
    const steps = (sec: number): number => (sec < 1000 ? 0.99 : sec < 3000 ? 0.6 : 0.01);
    const curve = chanceCurve(steps, 1500, 0.3, 3000);
    const all = Array.from({ length: 400 }, (_, i) => chanceAt(curve, 10 * 1.03 ** i));
    all.slice(1).forEach((c, i) => expect(c).toBeLessThanOrEqual((all[i] as number) + 1e-12));
    expect(chanceAt(curve, 0)).toBe(1);
    expect(chanceAt(curve, Number.POSITIVE_INFINITY)).toBe(0);
  });
  it("keeps a share that never ends", () => {
    const curve = chanceCurve((sec) => 0.3 + 0.7 * lognormal(2000, 0.1)(sec), 2000, 0.1, 2500);
    expect(chanceAt(curve, 40_000)).toBeCloseTo(0.3, 3);
  });
  it("turns back to the time of a chance, and refuses what is none", () => {
    const curve = chanceCurve(lognormal(2000, 0.1), 2000, 0.1, 2500);
    for (const p of [0.05, 0.5, 0.9]) expect(chanceAt(curve, timeOfChance(curve, p))).toBeCloseTo(p, 6);
    expect(() => timeOfChance(curve, 1)).toThrow(RangeError);
    expect(() => chanceCurve(lognormal(2000, 0.1), 0, 0.1, 1)).toThrow("aboutSec must be positive, got 0");
    expect(() => chanceCurve(lognormal(2000, 0.1), 2000, 0, 1)).toThrow("spread must be positive, got 0");
  });
});
