import { describe, expect, it } from "vitest";
import type { Measures } from "../motion/index.ts";
import { randomFrom } from "../statistics/index.ts";
import { sets as setsOf } from "../statistics/testing/sets.ts";
import { matchedBodies } from "./matchedBodies.ts";
import { takeOf } from "./testing/takes.ts";

/** Walks of which both bodies see the same; `a` shakes by exp(log) more, each with a little of its own. */
function walks(random: ReturnType<typeof randomFrom>, log: number, n: number, setupId = "off") {
  return Array.from({ length: n }, (_, i) => {
    const steps = 0.5 * random.normal();
    return (["a", "b"] as const).map((unitId) => ({
      take: takeOf(`${setupId}${unitId}${i}`, { setupId, unitId, startMs: 60_000 * i, endMs: 60_000 * i + 9000 }),
      measures: { jitterRmsFrac: 0.01 * Math.exp(steps + (unitId === "a" ? log : 0) + 0.05 * random.normal()) } as Measures,
      cropFactor: null,
      sound: null,
    }));
  }).flat();
}

describe("two bodies on one walk", () => {
  it("are told apart by their pairs though walks differ far more than they do, and cover what is claimed", () => {
    const random = randomFrom(3);
    let [covered, told] = [0, 0];
    const sets = setsOf(150);
    for (let i = 0; i < sets; i++) {
      const m = matchedBodies(walks(random, 0.3, 3), "a", "b");
      const [s] = m.ok ? m.setups : [];
      if (s !== undefined && s.low <= 0.3 && 0.3 <= s.high) covered++;
      if ((s?.low ?? 0) > 0) told++;
    }
    expect(covered / sets).toBeGreaterThan(0.88);
    expect(told / sets).toBeGreaterThan(0.8);
  });
  it("say nothing without pairs, or with one of each only", () => {
    const random = randomFrom(4);
    expect(matchedBodies(walks(random, 0, 1), "a", "b")).toEqual({ ok: false, reason: "no-repeats" });
    const apart = walks(random, 0, 3).map((t) => ({
      ...t,
      take: { ...t.take, startMs: t.take.startMs + (t.take.unitId === "a" ? 30_000 : 0) },
    }));
    expect(matchedBodies(apart, "a", "b")).toEqual({ ok: false, reason: "no-pairs" });
    expect(matchedBodies([], "a", "b")).toEqual({ ok: false, reason: "no-pairs" });
  });
  it("leave out the pair of a bad take", () => {
    const random = randomFrom(5);
    const all = walks(random, 0, 3);
    const bad = all.map((t) => (t.take.id === "offb1" ? { ...t, take: { ...t.take, bad: "fell" } } : t));
    const m = matchedBodies(bad, "a", "b");
    expect(m.ok ? m.setups.map((s) => s.pairs) : m.reason).toEqual([2]);
  });
});
