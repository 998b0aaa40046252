// Laws of the limit that no case shows: units, order, more evidence, and one object for limit and chance.

import fc from "fast-check";
import { describe, expect, inject, it } from "vitest";
import { logNormalSf, normalCdf } from "../distributions.ts";
import { randomFrom } from "../random.ts";
import { lifeLimits } from "./lifeLimits.ts";
import { logBetween } from "./gridded.ts";
import { lawsFor } from "./laws.ts";
import { logSf, normalScore } from "./normalTable.ts";
import type { LimitCell, LimitRun } from "./runs.ts";

const SETTINGS = { share: 0.9, confidence: 0.9, tauSec: 1800, tauFactor: 1.25 };
const anyRun = fc.record({
  kind: fc.constantFrom("exact" as const, "exact" as const, "censored" as const),
  sec: fc.integer({ min: 600, max: 9000 }),
  day: fc.constantFrom("a", "b", "c", null),
});
const anyCell = fc.array(anyRun, { minLength: 1, maxLength: 5 });
const cellOf = (key: string, runs: readonly LimitRun[]): LimitCell => ({ key, runs });
const boundOf = (cells: readonly LimitCell[], settings = SETTINGS): number => {
  const [limit] = lifeLimits(cells, settings);
  return limit?.ok === true ? limit.boundSec : Number.NaN;
};
const timed = (...secs: number[]): LimitRun[] => secs.map((sec) => ({ kind: "exact", sec, day: "a" }));

describe("the normal tail from a table", () => {
  it("is the exact one to seven digits, and the score of an extreme value has its share below it", () => {
    for (let w = -5; w < 45; w += 0.0137) expect(Math.abs(logSf(w) / logNormalSf(w) - 1)).toBeLessThan(1e-7);
    // Below, one minus almost nothing: compared as what it is short of.
    for (let w = -12; w < -5; w += 0.0137) expect(Math.abs(logSf(w) + normalCdf(w))).toBeLessThan(1e-12 + 0.02 * normalCdf(w));
    for (let w = -30; w < 3; w += 0.037) expect(normalCdf(normalScore(w)) / -Math.expm1(-Math.exp(w))).toBeCloseTo(1, 5);
  });
  it("keeps its digits between two points of either tail", () => {
    const [lognormal, weibull] = lawsFor(1800, 1.25);
    for (const a of [-8, -3, -0.2, 0, 0.1, 2, 7, 20]) {
      const b = a + 0.3;
      const exact = a > 0 ? Math.exp(logNormalSf(a)) - Math.exp(logNormalSf(b)) : Math.exp(logNormalSf(-b)) - Math.exp(logNormalSf(-a));
      if (lognormal !== undefined) expect(Math.exp(logBetween(lognormal, a, b)) / exact).toBeCloseTo(1, 6);
      const share = Math.exp(-Math.exp(a)) - Math.exp(-Math.exp(b));
      if (weibull !== undefined && share > 1e-12) expect(Math.exp(logBetween(weibull, a, b)) / share).toBeCloseTo(1, 6);
    }
  });
});

describe("a limit", () => {
  it("is the same in minutes as in seconds", () => {
    fc.assert(
      fc.property(anyCell, anyCell, (one, two) => {
        const shrink = (runs: typeof one) => runs.map((r) => ({ ...r, sec: r.sec / 60 }));
        const seconds = boundOf([cellOf("1", one), cellOf("2", two)]);
        const minutes = boundOf([cellOf("1", shrink(one)), cellOf("2", shrink(two))], { ...SETTINGS, tauSec: 30 });
        if (Number.isNaN(seconds)) expect(minutes).toBeNaN();
        else expect((60 * minutes) / seconds).toBeCloseTo(1, 6);
      }),
      { numRuns: 12 },
    );
  });
  it("does not hang on the order of runs or cells", () => {
    fc.assert(
      fc.property(anyCell, anyCell, (one, two) => {
        const there = lifeLimits([cellOf("1", one), cellOf("2", two)], SETTINGS);
        const back = lifeLimits([cellOf("2", [...two].reverse()), cellOf("1", [...one].reverse())], SETTINGS).reverse();
        there.forEach((limit, i) => {
          const other = back[i];
          if (!limit.ok || other?.ok !== true) return expect(limit).toEqual(other);
          expect(other.boundSec / limit.boundSec).toBeCloseTo(1, 6);
          expect([other.refusal, other.scope]).toEqual([limit.refusal, limit.scope]);
        });
      }),
      { numRuns: 12 },
    );
  });
  it("is nearer to the runs with more of them, and further below at more confidence or a larger share", () => {
    const few = boundOf([cellOf("1", timed(3000, 3300))]);
    const more = boundOf([cellOf("1", timed(3000, 3300, 3000, 3300, 3000, 3300))]);
    expect(few).toBeLessThan(more);
    expect(more).toBeLessThan(3000);
    const cells = [cellOf("1", timed(3000, 3200, 3300))];
    expect(boundOf(cells, { ...SETTINGS, confidence: 0.95 })).toBeLessThan(boundOf(cells));
    expect(boundOf(cells, { ...SETTINGS, share: 0.95 })).toBeLessThan(boundOf(cells));
  });
  it("and its chance come from one object: the chance falls with time, and at the limit it is above the share", () => {
    fc.assert(
      fc.property(anyCell, (runs) => {
        const [limit] = lifeLimits([cellOf("1", runs)], SETTINGS);
        if (limit?.ok !== true) return;
        if (Number.isFinite(limit.boundSec)) expect(limit.chance(limit.boundSec)).toBeGreaterThan(SETTINGS.share);
        const chances = [300, 900, 1800, 3600, 7200, 14_400].map((sec) => limit.chance(sec));
        expect([...chances].sort((a, b) => b - a)).toEqual(chances);
        expect(chances.every((c) => c >= -1e-9 && c <= 1)).toBe(true);
      }),
      { numRuns: 20 },
    );
  });
  it("says why it is no claim", () => {
    const reasons = (cells: LimitCell[]) => lifeLimits(cells, SETTINGS).map((l) => (l.ok ? l.refusal : l.reason));
    expect(reasons([cellOf("none", [{ kind: "censored", sec: 3000, day: "a" }])])).toEqual(["no-shutdown"]);
    expect(reasons([cellOf("one", timed(3000))])).toEqual(["single-run"]);
    const lasted: LimitRun = { kind: "censored", sec: 3100, day: "a" };
    expect(reasons([cellOf("one", [...timed(3000), lasted])])).toEqual(["too-few-elsewhere"]);
    const rest = [cellOf("b", timed(1000, 1100, 1050)), cellOf("c", timed(2000, 2100, 2050))];
    expect(reasons([cellOf("one", [...timed(3000), lasted]), ...rest])[0]).toBeNull();
    expect(reasons([cellOf("wide", timed(1000, 4000, 9000))])).toEqual(["scatters-widely"]);
    expect(() => lifeLimits([cellOf("x", timed(0))], SETTINGS)).toThrow("sec must be positive, got 0");
    expect(() => lifeLimits([], { ...SETTINGS, tauSec: 0 })).toThrow("tauSec must be positive, got 0");
  });
  it("speaks of new days from three days on, and then leans on cells of other days only", () => {
    const days = (key: string, named: string[], base: number): LimitCell =>
      cellOf(
        key,
        named.map((day, i) => ({ kind: "exact", sec: base * (1 + 0.04 * i), day })),
      );
    const [a] = lifeLimits(
      [days("a", ["1", "2", "3"], 3000), days("b", ["3", "4", "5"], 2000), days("c", ["6", "7", "8"], 1500)],
      SETTINGS,
    );
    expect(a).toMatchObject({ scope: "new days", pool: ["a", "c"] });
    const [b] = lifeLimits([days("a", ["1", "2"], 3000), days("b", ["3", "4", "5"], 2000)], SETTINGS);
    expect(b).toMatchObject({ scope: "tested days", pool: ["a", "b"] });
  });
});

describe("what is claimed", () => {
  /** Three standard errors below the claimed share. */
  const least = (n: number): number => 0.9 - 3 * Math.sqrt(0.09 / n);
  for (const [world, draw] of [
    ["lognormal, scatter .10", (random: ReturnType<typeof randomFrom>) => Math.exp(0.1 * random.normal())],
    [
      "Weibull, scatter .20",
      (random: ReturnType<typeof randomFrom>) => Math.exp((0.2 * Math.sqrt(6) * Math.log(-Math.log(1 - random.next()))) / Math.PI),
    ],
  ] as const)
    it.runIf(inject("proof") || world.startsWith("Weibull"))(
      `covers as often as it says: ${world}, four runs in each of three cells`,
      () => {
        const random = randomFrom(2711);
        const z = world.startsWith("log") ? -1.2815515655 * 0.1 : (-2.250367327 * 0.2 * Math.sqrt(6)) / Math.PI;
        let [covered, claimed] = [0, 0];
        for (let set = 0; set < 100; set++) {
          const middles = [1200, 3000, 6600];
          const cells = middles.map((middle, c) => cellOf(String(c), timed(...Array.from({ length: 4 }, () => middle * draw(random)))));
          lifeLimits(cells, SETTINGS).forEach((limit, c) => {
            if (!limit.ok || limit.refusal !== null) return;
            claimed++;
            if (limit.boundSec <= (middles[c] ?? 0) * Math.exp(z)) covered++;
          });
        }
        expect(claimed).toBeGreaterThan(285);
        expect(covered / claimed).toBeGreaterThan(least(claimed));
      },
    );
});
