// Temperatures, paths, chances: against truths they were made from. The lumped body's own closed forms are checked in heat/testing/lumped.test.ts.

import { describe, expect, it } from "vitest";
import { timeToThreshold } from "../heat/testing/index.ts";
import { randomFrom } from "../statistics/index.ts";
import type { CandidateRun } from "../cells/index.ts";
import { agreement, farOutside, fitPhysics, physicsAt } from "./ambient.ts";
import { cellLimits } from "./limit.ts";
import { calibrate, chanceToReach, outlook, pastOf, timeOfChance } from "./chance.ts";
import { pathOf } from "./path.ts";
import type { RunRecord } from "./records.ts";
import { unitRecords } from "./records.ts";
import { START } from "../runs/testing/marks.ts";
import { gaugeAt, made } from "./testing/runs.ts";

const ASKED = { share: 0.9, confidence: 0.9 };
const TAU = 1800;
/** A body that rises 45 K and shuts down 55 °C: critical ambient 10 °C. */
const truthSec = (ambientC: number): number => {
  const t = timeToThreshold({ riseK: 45, tau: TAU }, ambientC, ambientC, 55);
  return t.ok ? t.time : Number.POSITIVE_INFINITY;
};
const recordsOf = (runs: CandidateRun[]): RunRecord[] => unitRecords(runs, "shutdown", ASKED, 30, "UTC").cells.flatMap((c) => c.records);
const at = (ambients: readonly number[], sd = 0, seed = 1): RunRecord[] => {
  const random = randomFrom(seed);
  return recordsOf(
    ambients.map((c, i) => made(`a${seed}.${i}`, { sec: Math.round(truthSec(c) * Math.exp(sd * random.normal())), ambientC: c })),
  );
};

const KNOWN = { tauSec: TAU, tauFactor: 1 };

describe("a temperature that was not tested", () => {
  it("comes back exactly from runs without scatter", () => {
    const fit = fitPhysics(at([18, 18, 24, 24, 30, 30]), KNOWN, 0.05);
    if (!fit.ok) throw new Error(fit.reason);
    expect(fit.criticalC).toBeCloseTo(10, 0);
    expect(fit.riseK).toBeCloseTo(45, -0.5);
    const t = physicsAt(fit, 27);
    expect(t.ok && t.time.mid / truthSec(27)).toBeCloseTo(1, 1.7);
    expect(physicsAt(fit, 60)).toEqual({ ok: false, reason: "far-outside" });
  });
  it("covers the truth about as often as it says, 200 made units (90 % asked, three standard errors allowed)", () => {
    let covered = 0;
    let answered = 0;
    for (let seed = 1; seed <= 200; seed++) {
      const fit = fitPhysics(at([18, 18, 18, 24, 24, 24, 30, 30, 30], 0.08, seed), KNOWN, 0.08);
      if (!fit.ok) continue;
      const t = physicsAt(fit, 27);
      answered++;
      if (t.ok && t.time.lo <= truthSec(27) && truthSec(27) <= t.time.hi) covered++;
    }
    expect(answered).toBeGreaterThan(150);
    expect(covered / answered).toBeGreaterThan(0.9 - 3 * Math.sqrt((0.9 * 0.1) / answered));
  });
  it("says never below the critical ambient, within reach", () => {
    const fit = fitPhysics(at([13, 13, 20, 20, 27]), KNOWN, 0.03);
    if (!fit.ok) throw new Error(fit.reason);
    expect(physicsAt(fit, 7)).toEqual({ ok: false, reason: "never" });
    expect(fit.criticalRange.lo).toBeLessThanOrEqual(10);
    expect(fit.criticalRange.hi).toBeGreaterThanOrEqual(10);
  });
  it("carries the range of the time constant: never is said only where none of it expects a shutdown, and a constant off by a quarter still covers", () => {
    const runs = at([13, 13, 20, 20, 27], 0.02);
    const [known, ranged] = [fitPhysics(runs, KNOWN, 0.03), fitPhysics(runs, { tauSec: 1.25 * TAU, tauFactor: 1.5 }, 0.03)];
    if (!known.ok || !ranged.ok) throw new Error("both fit");
    expect(ranged.criticalRange.lo).toBeLessThan(known.criticalRange.lo);
    expect(ranged.criticalRange.lo).toBeLessThanOrEqual(10);
    expect(ranged.criticalRange.hi).toBeGreaterThanOrEqual(10);
    expect(physicsAt(known, 7)).toEqual({ ok: false, reason: "never" });
    const perhaps = physicsAt(ranged, 7);
    expect(perhaps.ok && perhaps.time.lo).toBeLessThan(Number.POSITIVE_INFINITY);
    expect(perhaps.ok && perhaps.time.hi).toBe(Number.POSITIVE_INFINITY);
  });
  it("refuses one temperature, no shutdown, and times that do not tell how they fall", () => {
    expect(fitPhysics(at([22, 22.5]), KNOWN, 0.1)).toEqual({ ok: false, reason: "one-temperature" });
    expect(fitPhysics(recordsOf([made("c", { sec: 7000, cause: "battery empty" })]), KNOWN, 0.1)).toEqual({
      ok: false,
      reason: "no-shutdown",
    });
    const flat = recordsOf([16, 22, 28, 34].map((c, i) => made(`f${i}`, { sec: 3000 + i, ambientC: c })));
    expect(fitPhysics(flat, KNOWN, 0.05)).toMatchObject({ ok: false, reason: "no-floor-in-reach" });
    expect(() => fitPhysics(flat, { tauSec: 0, tauFactor: 1 }, 0.1)).toThrow(RangeError);
  });
  it("judges agreement by either middle in the other's range", () => {
    const t = (mid: number, lo: number, hi: number) => ({ ok: true as const, time: { mid, lo, hi } });
    expect(agreement(t(10, 9, 11), t(10.5, 9, 12))).toMatchObject({ agree: true });
    expect(agreement(t(10, 9, 11), t(13, 12, 14))).toMatchObject({ agree: false });
    expect(agreement(t(10, 9, 11), { ok: false, reason: "never" })).toEqual({ ok: false });
    expect(agreement(t(Number.POSITIVE_INFINITY, 9, Number.POSITIVE_INFINITY), t(10, 9, 11))).toEqual({ ok: false });
    expect([farOutside({ lo: 20, hi: 30 }, 35), farOutside({ lo: 20, hi: 30 }, 35.1), farOutside({ lo: 20, hi: 21 }, 17)]).toEqual([
      false,
      true,
      false,
    ]);
  });
});

/** Gauge steps as read every five minutes of a path to `plateau`, until `sec`. */
const readings = (plateau: number, tauSec: number, sec: number) =>
  Array.from({ length: Math.floor(sec / 300) }, (_, i) => (i + 1) * 300).map((t) =>
    gaugeAt(t, Math.floor(plateau * (1 - Math.exp(-t / tauSec)))),
  );

describe("a run's path", () => {
  it("reads a step at the middle of the interval in which it was first seen", () => {
    const path = pathOf(made("s", { sec: 1000, between: [gaugeAt(300, 1), gaugeAt(600, 1), gaugeAt(900, 3)] }).fold, "gauge");
    expect(path.time).toEqual([150, 750, 900]);
    expect(path.tempC).toEqual([1, 3, 3.5]);
  });
});

describe("the live chance", () => {
  const SETTINGS = { ...ASKED, tauSec: 1800, tauFactor: 2 };
  const runsOf = (n: number, seed: number) => {
    const random = randomFrom(seed);
    return Array.from({ length: n }, (_, i) => {
      const factor = Math.exp(0.1 * random.normal());
      const sec = Math.round(2400 * factor);
      const fold = made(`q${seed}.${i}`, { sec, between: readings(12, 1340 * factor, sec) }).fold;
      return { runId: `q${i}`, timeSec: sec, event: 1 as const, fold, lasted: { kind: "exact" as const, sec, day: "d" } };
    });
  };
  const limitsOf = (records: ReturnType<typeof runsOf>) => cellLimits([{ setup: START, records }], SETTINGS);
  const curveOf = (records: ReturnType<typeof runsOf>) => {
    const limit = limitsOf(records).of(0);
    if (!limit.ok) throw new Error(limit.because);
    return limit.curve;
  };
  const NO_PATH = { witness: "gauge" as const, time: [], tempC: [] };
  it("falls with the time asked, is 1 for what has been, and its inverse is the time of a chance", () => {
    const six = runsOf(6, 3);
    const o = outlook(curveOf(six), pastOf(six), NO_PATH, 0);
    if (!o.ok) throw new Error(o.reason);
    const chances = [600, 1800, 2400, 3000].map((t) => chanceToReach(o, t, 0));
    expect(chances).toEqual([...chances].sort((a, b) => b - a));
    expect(chanceToReach(o, 500, 900)).toBe(1);
    expect(chanceToReach(o, timeOfChance(o, 0.8, 900), 900)).toBeCloseTo(0.8, 6);
    expect(chanceToReach(o, 2400, 2000)).toBeGreaterThan(chanceToReach(o, 2400, 0));
  });
  it("expects a run whose gauge climbs faster to end sooner", () => {
    const six = runsOf(6, 4);
    const slow = pathOf(made("slow", { sec: 1200, cause: "tester stopped", between: readings(12, 1600, 1200) }).fold, "gauge");
    const fast = pathOf(made("fast", { sec: 1200, cause: "tester stopped", between: readings(12, 1100, 1200) }).fold, "gauge");
    const [a, b] = [slow, fast].map((path) => outlook(curveOf(six), pastOf(six), path, 1200));
    if (a?.ok !== true || b?.ok !== true) throw new Error("expected outlooks");
    expect(a.pace ?? 0).toBeGreaterThan(b.pace ?? 9);
    expect(timeOfChance(a, 0.5, 1200)).toBeGreaterThan(timeOfChance(b, 0.5, 1200));
  });
  it("is calibrated on the safe side: of 150 made runs told at half their length, at least 80 % less three standard errors reach the time given 80 %", () => {
    let [runs, reached] = [0, 0];
    for (let seed = 10; seed < 35; seed++) {
      const six = runsOf(6, seed);
      const half = calibrate(pastOf(six), six, limitsOf(six), 0)[1];
      runs += half?.runs ?? 0;
      reached += half?.reached ?? 0;
    }
    expect(runs).toBe(150);
    expect(reached / runs).toBeGreaterThan(0.8 - 3 * Math.sqrt((0.8 * 0.2) / runs));
    expect(reached).toBeLessThan(runs);
  });
  it("refuses fewer than three earlier runs, and runs without a claim", () => {
    const refused = { ok: false, reason: "too-few-runs" };
    const two = runsOf(2, 5);
    expect(outlook(curveOf(two), pastOf(two), NO_PATH, 0)).toEqual(refused);
    expect(outlook(null, pastOf(runsOf(6, 5)), NO_PATH, 0)).toEqual(refused);
  });
});
