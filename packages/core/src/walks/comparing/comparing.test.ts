// Comparing setups: laws that hold for any takes, and what few, equal or odd takes give. Numbers against the check cases: tools/conformance.

import { describe, expect, it } from "vitest";
import { randomFrom } from "../../statistics/index.ts";
import { bracketsOf } from "./brackets.ts";
import type { Comparison, SetupValues } from "./compareSetups.ts";
import { compareSetups } from "./compareSetups.ts";
import { dayTrend } from "./dayTrend.ts";
import { familyLevel } from "./family.ts";
import { moreTakes } from "./pairs.ts";

type Random = ReturnType<typeof randomFrom>;
function madeSetups(random: Random, levels: readonly number[], takes: number, sd: number): SetupValues[] {
  let order = 0;
  return levels.map((level, s) => ({
    id: `s${s}`,
    takes: Array.from({ length: takes }, () => ({ order: ++order, value: 0.005 * Math.exp(level + sd * random.normal()) })),
  }));
}
function compared(setups: readonly SetupValues[], control: string | null = null, allowForDay = false): Comparison {
  const c = compareSetups(setups, { control, allowForDay });
  if (!c.ok) throw new Error(c.reason);
  return c;
}

describe("any setups", () => {
  const random = randomFrom(1);
  const many = Array.from({ length: 12 }, (_, i) => {
    const levels = Array.from({ length: 2 + (i % 5) }, () => random.normal());
    return madeSetups(random, levels, 2 + (i % 4), 0.05 + 0.02 * i);
  });
  it("give the same answer in another unit", () => {
    for (const setups of many) {
      const percent = setups.map((s) => ({ ...s, takes: s.takes.map((t) => ({ ...t, value: 100 * t.value })) }));
      const [a, b] = [compared(setups), compared(percent)];
      a.setups.forEach((s, i) => expect((b.setups[i]?.point ?? 0) / s.point / 100).toBeCloseTo(1, 3));
      expect(b.pairs.map((p) => p.toldApart)).toEqual(a.pairs.map((p) => p.toldApart));
    }
  });
  it("give the same answer in another order of naming", () => {
    for (const setups of many) {
      const [a, b] = [compared(setups), compared([...setups].reverse())];
      const of = (c: Comparison, id: string) => c.setups.find((s) => s.id === id);
      for (const { id } of setups) expect(of(b, id)?.high90).toBeCloseTo(of(a, id)?.high90 ?? 0, 9);
      expect(b.brackets).toEqual(a.brackets);
    }
  });
  it("have points inside their intervals, family intervals no narrower than a pair's own, and brackets that say exactly who is told apart", () => {
    for (const setups of many) {
      const c = compared(setups);
      for (const s of c.setups) expect(s.low90 < s.point && s.point < s.high90 && Number.isFinite(s.high90)).toBe(true);
      for (const p of c.pairs) {
        expect(p.family.low).toBeLessThanOrEqual(p.alone.low);
        expect(p.family.high).toBeGreaterThanOrEqual(p.alone.high);
        const together = c.brackets.some((g) => g.includes(p.a) && g.includes(p.b));
        expect(together).toBe(!p.toldApart);
      }
    }
  });
});

describe("few and odd takes", () => {
  const takes = (...values: number[]) => values.map((value, order) => ({ order, value }));
  it("are refused without a repeat, without a take, and beyond ten setups", () => {
    const one = [1, 2].map((v) => ({ id: `s${v}`, takes: takes(v) }));
    expect(compareSetups(one, { control: null, allowForDay: false })).toEqual({ ok: false, reason: "no-repeats" });
    expect(compareSetups([{ id: "a", takes: [] }], { control: null, allowForDay: false })).toEqual({ ok: false, reason: "no-takes" });
    const eleven = Array.from({ length: 11 }, (_, i) => ({ id: `s${i}`, takes: takes(1, 1.1) }));
    expect(compareSetups(eleven, { control: null, allowForDay: false })).toEqual({ ok: false, reason: "too-many-setups" });
  });
  it("of no shake at all are a fault of the caller, who must leave them out", () => {
    const zero = [{ id: "a", takes: takes(0, 1) }];
    expect(() => compareSetups(zero, { control: null, allowForDay: false })).toThrow("values must be above zero, got 0 of a");
  });
  it("that are all equal still scatter: ties never mean no doubt", () => {
    const c = compared([
      { id: "a", takes: takes(1, 1, 1) },
      { id: "b", takes: takes(1, 1, 1) },
    ]);
    expect(c.setups[0]?.high90).toBeGreaterThan(1.015);
    expect(c.pairs[0]).toMatchObject({ toldApart: false, sameWithin10: true, moreTakes: null });
    expect(c.pairs[0]?.probASteadier).toBeCloseTo(0.5, 9);
  });
  it("name a stumble, and of two that disagree only that one does", () => {
    const steady = { id: "b", takes: takes(1, 1.02, 0.98) };
    const bad = compared([{ id: "a", takes: takes(1, 1.03, 3.2, 0.97) }, steady]).setups[0];
    expect(bad?.badTakes).toEqual([2]);
    const two = compared([{ id: "a", takes: takes(1, 3.2) }, steady]).setups[0];
    expect([two?.badTakes, two?.oneOfTwo]).toEqual([[], true]);
  });
  it("of which one setup has a single one: its scatter is borrowed, and wider than of three", () => {
    const c = compared([
      { id: "a", takes: takes(1) },
      { id: "b", takes: takes(1, 1.1, 0.9) },
    ]);
    expect(c.setups.map((s) => s.scatterBorrowed)).toEqual([true, false]);
    const width = (i: number): number => Math.log((c.setups[i]?.high90 ?? 0) / (c.setups[i]?.low90 ?? 1));
    expect(width(0)).toBeGreaterThan(1.5 * width(1));
  });
  it("sound the alarm when the control is steadier than a setup, never the other way", () => {
    const shaky = { id: "gimbal", takes: takes(2, 2.1, 1.9) };
    const control = { id: "control", takes: takes(1, 1.05, 0.95) };
    expect(compared([control, shaky], "control").control).toEqual({ known: true, above: ["gimbal"], alarm: ["gimbal"] });
    expect(compared([control, shaky], "gimbal").control).toEqual({ known: true, above: [], alarm: [] });
    expect(compared([control, shaky], null).control.known).toBe(false);
  });
});

describe("the trend of the day", () => {
  const orders = [0, 1, 2, 3, 4, 5, 6, 7, 8];
  const drifting = (of: readonly number[], level: number) => of.map((order) => ({ order, log: level + 0.2 * (order / 8) }));
  it("is found within setups, whatever their levels, and pulled towards none", () => {
    const t = dayTrend([drifting([0, 4, 8], 0), drifting([1, 3, 7], -1), drifting([2, 5, 6], 1)]);
    expect(t.log).toBeGreaterThan(0.05);
    expect(t.log).toBeLessThan(0.2);
    expect(orders).toHaveLength(9);
  });
  it("walked in blocks cannot be told from the setups, and widens what is said of them", () => {
    const random = randomFrom(3);
    const setups = madeSetups(random, [0, -0.2], 4, 0.05);
    const [plain, allowed] = [compared(setups), compared(setups, null, true)];
    const width = (c: Comparison): number => (c.pairs[0]?.family.high ?? 0) - (c.pairs[0]?.family.low ?? 0);
    expect(width(allowed)).toBeGreaterThan(width(plain) + 0.05);
  });
  it("does not mind numbers that are left out of the order", () => {
    const [a, b] = [1, 10].map((k) =>
      dayTrend([drifting([0, 4, 8], 0), drifting([1, 3, 7], -1)].map((row) => row.map((t) => ({ ...t, order: k * t.order })))),
    );
    expect(a?.log).toBe(b?.log);
  });
});

describe("how many more takes", () => {
  const verdict = (log: number, half: number) => ({
    log,
    family: { low: log - half, high: log + half },
    same: { low: log - half, high: log + half },
    alone: { low: 0, high: 0 },
    probASteadier: 0.5,
    toldApart: Math.abs(log) > half,
    sameWithin10: Math.abs(log) + half < Math.log(1.1),
  });
  it("follows the square of the width, is at least one, and stops at a dozen", () => {
    expect(moreTakes(verdict(0.2, 0.3), 4)).toBe(5);
    expect(moreTakes(verdict(0.2, 0.201), 3)).toBe(1);
    expect(moreTakes(verdict(0.01, 0.4), 3)).toBe("many");
    expect(moreTakes(verdict(0.5, 0.3), 3)).toBeNull();
  });
});

describe("brackets", () => {
  it("are the maximal groups not told apart, one alone where it differs from all", () => {
    const apart = (a: number, b: number): boolean => Math.abs(a - b) > 1;
    expect(bracketsOf(4, apart)).toEqual([
      [0, 1],
      [1, 2],
      [2, 3],
    ]);
    expect(bracketsOf(3, () => true)).toEqual([[0], [1], [2]]);
    expect(bracketsOf(3, () => false)).toEqual([[0, 1, 2]]);
    expect(bracketsOf(0, () => false)).toEqual([]);
  });
  it("hold every pair that is not told apart and no other, for any relation", () => {
    const random = randomFrom(5);
    for (let round = 0; round < 50; round++) {
      const n = random.int(1, 8);
      const told = Array.from({ length: n * n }, () => random.next() < 0.5);
      const apart = (a: number, b: number): boolean => told[Math.min(a, b) * n + Math.max(a, b)] === true;
      const groups = bracketsOf(n, apart);
      for (let a = 0; a < n; a++)
        for (let b = a + 1; b < n; b++) expect(groups.some((g) => g.includes(a) && g.includes(b))).toBe(!apart(a, b));
    }
  });
});

/** Tukey's studentised range at 90 % with infinite degrees of freedom over root two, as a two-sided normal level: R 4.2, ptukey, from memory of its table. */
describe("the family level", () => {
  it("is the pair's own for two, falls with every setup, and never below that of every pair alone (Bonferroni)", () => {
    expect(familyLevel(2)).toBe(0.1);
    for (let k = 3; k <= 10; k++) {
      expect(familyLevel(k)).toBeLessThan(familyLevel(k - 1));
      expect(familyLevel(k)).toBeGreaterThan(0.1 / ((k * (k - 1)) / 2));
    }
    expect(() => familyLevel(11)).toThrow("setups must be a whole number from 2 to 10, got 11");
  });
});
