// The worked examples of docs/methods/ends-first.md, computed for this project independently of this code (three digits).

import { describe, expect, it } from "vitest";
import type { LimitRun } from "../statistics/index.ts";
import { chanceAt, PRESUMED, predictiveCurve } from "../statistics/index.ts";
import type { Ends, Known } from "./ends.ts";
import { completion, endsFirst } from "./ends.ts";

const MIN = 60;
const ended = (...min: number[]): LimitRun[] => min.map((m) => ({ kind: "exact", sec: m * MIN, day: null }));
const cut = (...min: number[]): LimitRun[] => min.map((m) => ({ kind: "censored", sec: m * MIN, day: null }));
const from = (cause: keyof typeof PRESUMED, ends: LimitRun[], cuts: LimitRun[] = []): Known => ({
  by: "presumed",
  curve: predictiveCurve([...ends, ...cuts], PRESUMED[cause]),
  ends: ends.length,
  outlasted: cuts.length,
});
const outlasted = (cause: keyof typeof PRESUMED, min: number[], path: (Known & { by: "outlasted" })["path"] = null): Known => ({
  by: "outlasted",
  reachedSec: min.map((m) => m * MIN),
  curve: predictiveCurve(ended(Math.max(...min)), PRESUMED[cause]),
  path,
});
/** GB and Mbit/s. */
const card = (gb: number, mbps: number, spread = 0.02): Known => ({ by: "size", atSec: (8000 * gb) / mbps, spread });
const [mains, nothing]: Known[] = [{ by: "cannot end it" }, { by: "nothing" }] as Known[];

const EXAMPLES: [string, Ends, number, number, number, Partial<Record<keyof Ends, number>>][] = [
  ["1", { heat: from("heat", ended(22)), battery: nothing as Known, card: card(128, 100) }, 55, 0, 0.001, { heat: 1 }],
  ["2", { heat: from("heat", ended(22)), battery: mains as Known, card: card(128, 100) }, 15, 0.979, 0.979, { heat: 0.021 }],
  ["3", { heat: from("heat", ended(48, 55)), battery: mains as Known, card: card(128, 200) }, 40, 0.957, 0.957, { heat: 0.043 }],
  [
    "4",
    { heat: from("heat", ended(47, 50, 52, 54, 58, 49)), battery: from("battery", ended(61, 63, 66)), card: card(128, 200) },
    50,
    0.63,
    0.63,
    { heat: 0.368, battery: 0.002 },
  ],
  [
    "5",
    { heat: outlasted("heat", [62, 60, 75]), battery: from("battery", ended(62, 60, 75)), card: card(256, 100) },
    50,
    0.972,
    0.989,
    { battery: 0.011 },
  ],
  [
    "6",
    { heat: outlasted("heat", [62, 60, 75]), battery: from("battery", ended(62, 60, 75)), card: card(256, 100) },
    90,
    0,
    0.004,
    { battery: 0.996 },
  ],
  ["7", { heat: nothing as Known, battery: nothing as Known, card: card(64, 400, 0.15) }, 20, 0, 0.666, { card: 0.334 }],
  ["8", { heat: nothing as Known, battery: nothing as Known, card: nothing as Known }, 30, 0, 1, {}],
  ["9", { heat: outlasted("heat", [120]), battery: mains as Known, card: card(256, 200, 0.05) }, 115, 0.667, 1, {}],
  [
    "10",
    {
      heat: outlasted("heat", [120], { levelsOff: 0.97, climbing: false, rangeSec: null }),
      battery: mains as Known,
      card: card(512, 200),
    },
    180,
    0.667,
    1,
    {},
  ],
  [
    "11",
    {
      heat: outlasted("heat", [60], { levelsOff: 0.05, climbing: true, rangeSec: { lo: 70 * MIN, hi: 105 * MIN } }),
      battery: from("battery", ended(95)),
      card: card(256, 100),
    },
    80,
    0.647,
    0.66,
    { heat: 0.317, battery: 0.022 },
  ],
  [
    "12",
    { heat: from("heat", ended(70), cut(80, 65)), battery: from("battery", ended(95)), card: card(128, 150) },
    75,
    0.643,
    0.643,
    { heat: 0.349, battery: 0.008 },
  ],
];

describe("what ends it first: the worked examples", () => {
  it.each(EXAMPLES)("%s", (_id, ends, min, lo, hi, shares) => {
    const chance = completion(ends, min * MIN);
    expect(Math.abs(chance.lo - lo)).toBeLessThan(0.002);
    expect(Math.abs(chance.hi - hi)).toBeLessThan(0.002);
    const first = endsFirst(ends, min * MIN);
    for (const cause of ["heat", "battery", "card"] as const) expect(Math.abs(first[cause] - (shares[cause] ?? 0))).toBeLessThan(0.003);
  });
});

it("one shutdown at 22 min gives the curve worked out there", () => {
  const curve = predictiveCurve(ended(22), PRESUMED.heat);
  const points: [number, number, number][] = [
    [10, 0.999, 3],
    [15, 0.979, 3],
    [17, 0.941, 3],
    [20, 0.76, 2],
    [22, 0.5, 2],
    [25, 0.18, 2],
    [30, 0.038, 3],
    [35, 0.011, 3],
  ];
  for (const [min, chance, digits] of points) expect(Math.abs(chanceAt(curve, min * MIN) - chance)).toBeLessThan(0.6 * 10 ** -digits);
});
