// Levelled off? Against rises with a known plateau, against the simulated cameras of the application, and every way readings can refuse to tell.

import { describe, expect, it } from "vitest";
import { advance, steadyState } from "../heat/index.ts";
import { randomFrom } from "../statistics/index.ts";
import type { Levelling, LevellingQuestion } from "./levelling.ts";
import { levelling } from "./levelling.ts";

const MIN = 60;
const TAU = { lo: 24, hi: 38 };
const rise = (plateau: number, tauMin: number) => (sec: number) => plateau * -Math.expm1(-sec / (tauMin * MIN));
const readEvery = (level: (sec: number) => number, everyMin: number, untilMin: number): LevellingQuestion["readings"] =>
  Array.from({ length: Math.floor(untilMin / everyMin) }, (_, i) => (i + 1) * everyMin * MIN).map((sec) => ({
    sec,
    step: Math.floor(level(sec)),
  }));
const ask = (plateau: number, untilMin: number, more: Partial<LevellingQuestion> = {}): Levelling =>
  levelling({ readings: readEvery(rise(plateau, 30), 5, untilMin), endSec: untilMin * MIN, tauMin: TAU, changed: false, ...more });

describe("a rise with a known plateau", () => {
  it("levels off well below shutdown, the plateau below its upper limit", () => {
    const l = ask(7.3, 115);
    expect(l).toMatchObject({ ok: true, verdict: "levels off" });
    expect(l.ok && l.upper).toBeGreaterThan(7.3);
    expect(l.ok && l.upper).toBeLessThan(9);
  });
  it("still climbs when it leads far beyond, with the true time in the range", () => {
    const l = ask(14, 34);
    if (!l.ok || l.verdict !== "still climbing") throw new Error(JSON.stringify(l));
    const trueSec = -30 * MIN * Math.log(1 - 10 / 14);
    expect(l.rangeSec.lo).toBeGreaterThan(34 * MIN);
    expect(l.rangeSec.lo).toBeLessThan(trueSec);
    expect(l.rangeSec.hi).toBeGreaterThan(trueSec);
  });
  it("cannot tell early, and says after how long it could", () => {
    const l = ask(9, 35);
    if (!l.ok || l.verdict !== "cannot tell") throw new Error(JSON.stringify(l));
    expect(l.tells?.afterMin).toBeGreaterThanOrEqual(5);
    expect(l.upper).toBeGreaterThan(9);
  });
  it("is not made surer by reading the same steps more often", () => {
    const every = (min: number): number => {
      const l = levelling({ readings: readEvery(rise(8.5, 30), min, 70), endSec: 70 * MIN, tauMin: TAU, changed: false });
      return l.ok ? l.levelsOff : Number.NaN;
    };
    // Twenty times the readings place the boundaries better; they do not multiply what is known.
    expect(Math.abs(every(0.25) - every(5))).toBeLessThan(0.15);
  });
});

describe("no answer", () => {
  it.each([
    ["surroundings-changed", ask(7, 90, { changed: true })],
    ["too-few-readings", ask(7, 90, { readings: readEvery(rise(7, 30), 5, 18) })],
    ["too-short", ask(7, 22, { readings: readEvery(rise(7, 30), 1, 22) })],
    ["gauge-fell", ask(7, 90, { readings: readEvery((sec) => (sec < 60 * MIN ? rise(7, 30)(sec) : 3), 5, 90) })],
    ["not-one-rise", ask(7, 115, { readings: readEvery((sec) => (sec < 60 * MIN ? 2.5 : 7.5), 5, 115) })],
  ] as const)("%s", (reason, l) => expect(l).toEqual({ ok: false, reason }));
  it("but a step that flickers for one reading is none", () => {
    const readings = readEvery(rise(7.3, 30), 5, 115).map((r, i) => (i === 17 ? { ...r, step: r.step - 1 } : r));
    expect(levelling({ readings, endSec: 115 * MIN, tauMin: TAU, changed: false })).toMatchObject({ ok: true });
  });
  it("for a time constant that is no range", () => expect(() => ask(7, 90, { tauMin: { lo: 40, hi: 20 } })).toThrow(RangeError));
});

/** A simulated camera's gauge in tenths of the way from where it starts to shutdown, as `simulatedCamera.ts` has it. */
function camera(watts: number, ambientC: number, random: ReturnType<typeof randomFrom>) {
  const spread = (by: number): number => 1 + by * (2 * random.next() - 1);
  const body = { chipJPerK: 40, shellJPerK: 300 * spread(0.18), chipToShellKPerW: 3, shellToAirKPerW: 4.5 * spread(0.05) };
  const [zeroC, shutdownC] = [30, 68];
  const input = { chipW: watts * Math.exp(0.028 * random.normal()), shellW: 0, ambientC };
  const start = { chipC: ambientC, shellC: ambientC };
  const levelOf = (chipC: number): number => (10 * (chipC - zeroC)) / (shutdownC - zeroC);
  return {
    levelAt: (sec: number): number => levelOf(advance(body, start, input, sec).chipC),
    plateau: levelOf(steadyState(body, input).chipC),
    /** The slow time constant, minutes; what is known of it: within a third. */
    tauMin: (body.shellJPerK * body.shellToAirKPerW) / 60,
  };
}

it("on the simulated cameras (marks every 5 min, 20 seeds, four cuts): at most one in ten that would shut down is called levelled off, the upper limit covers in nine of ten", () => {
  const told = { shut: 0, wrong: 0, all: 0, covered: 0, decided: 0 };
  for (let seed = 1; seed <= 20; seed++) {
    const random = randomFrom(seed);
    for (const [watts, ambientC] of [
      [4.7, 20],
      [5.4, 24],
      [5.4, 32],
      [6.4, 20],
    ] as const)
      for (const cutMin of [40, 60, 80, 115]) {
        const c = camera(watts, ambientC, random);
        if (c.levelAt(cutMin * MIN) >= 10) continue;
        const mark = (): number => 20 * (2 * random.next() - 1);
        const readings = readEvery((sec) => Math.max(0, c.levelAt(Math.max(1, sec + mark()))), 5, cutMin);
        const guess = Math.exp(0.174 * random.normal()) * c.tauMin;
        const l = levelling({ readings, endSec: cutMin * MIN, tauMin: { lo: guess / 1.33, hi: guess * 1.33 }, changed: false });
        if (!l.ok) continue;
        told.all++;
        if (c.plateau <= l.upper) told.covered++;
        if (l.verdict !== "cannot tell") told.decided++;
        if (c.plateau < 10) continue;
        told.shut++;
        if (l.verdict === "levels off") told.wrong++;
      }
  }
  expect(told.all).toBeGreaterThan(150);
  expect(told.shut).toBeGreaterThan(15);
  expect(told.wrong / told.shut).toBeLessThanOrEqual(0.1);
  expect(told.covered / told.all).toBeGreaterThanOrEqual(0.9);
  // And it does tell: more than half of them.
  expect(told.decided / told.all).toBeGreaterThan(0.5);
});
