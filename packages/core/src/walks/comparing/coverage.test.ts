// What is claimed of walks, simulated in the worlds of the procedure: statements of a whole family hold in at least .88, sameness is wrong in
// at most one in ten. Seeded, so that a run of the tests is one draw of the simulation.

import { describe, expect, it } from "vitest";
import { randomFrom } from "../../statistics/index.ts";
import { shareAbout } from "../../statistics/testing/beta.ts";
import { sets as setsOf, worldsFor } from "../../statistics/testing/sets.ts";
import { fights, gainOf } from "./additions.ts";
import { compareSetups } from "./compareSetups.ts";
import { shareDifference, softFootfalls } from "./footfalls.ts";
import { overWalks } from "./overWalks.ts";

type Random = ReturnType<typeof randomFrom>;
interface World {
  name: string;
  levels: readonly number[];
  takes: readonly number[];
  /** Scatter of each setup. */
  sd: (random: Random) => number;
  /** One take twice or half what it should be. */
  stumble?: true;
  /** Log change over the day; then the day is allowed for. */
  day?: number;
  brief?: true;
}
const even = (sd: number) => (): number => sd;
const wide = (random: Random): number => 0.08 * (0.25 / 0.08) ** random.next();
const FOUR = [0, -0.35, -0.5, -0.9];
const WORLDS: World[] = [
  { name: "4 x 3, scatter .12", levels: FOUR, takes: [3, 3, 3, 3], sd: even(0.12) },
  { name: "4 x 3, scatter .25", levels: FOUR, takes: [3, 3, 3, 3], sd: even(0.25) },
  { name: "4 x 3, scatters from .08 to .25", levels: FOUR, takes: [3, 3, 3, 3], sd: wide, brief: true },
  { name: "6 x 5, scatters from .08 to .25", levels: [0, -0.1, -0.2, -0.4, -0.6, -0.9], takes: [5, 5, 5, 5, 5, 5], sd: wide },
  { name: "3, 1, 2, 3 takes, scatter .12", levels: FOUR, takes: [3, 1, 2, 3], sd: even(0.12), brief: true },
  { name: "4 x 3, scatter .12, a stumble", levels: FOUR, takes: [3, 3, 3, 3], sd: even(0.12), stumble: true },
  {
    name: "4 x 3, scatter .12, shake grows by a tenth over the day",
    levels: FOUR,
    takes: [4, 3, 3, 3],
    sd: even(0.12),
    day: 0.1,
    brief: true,
  },
];
const SETS = setsOf(150);

function walked(world: World, random: Random) {
  const takes = world.levels.flatMap((level, s) => {
    const sd = world.sd(random);
    return Array.from({ length: world.takes[s] ?? 0 }, () => ({ s, log: level + sd * random.normal(), order: random.next() }));
  });
  if (world.stumble === true) {
    const bad = takes[random.int(0, takes.length - 1)];
    if (bad !== undefined) bad.log += Math.log(2) * (random.next() < 0.5 ? 1 : -1);
  }
  const place = new Map([...takes].sort((a, b) => a.order - b.order).map((t, i) => [t, i / (takes.length - 1)]));
  for (const t of takes) t.log += (world.day ?? 0) * (place.get(t) ?? 0);
  return world.levels.map((_, s) => ({
    id: String(s),
    takes: takes.filter((t) => t.s === s).map((t) => ({ order: place.get(t) ?? 0, value: Math.exp(t.log) })),
  }));
}

describe("statements about all pairs together", () => {
  it.each(worldsFor(WORLDS))("$name", (world) => {
    const random = randomFrom(17);
    let [held, set] = [0, 0];
    for (let i = 0; i < SETS; i++) {
      const c = compareSetups(walked(world, random), { control: "0", allowForDay: world.day !== undefined });
      if (!c.ok) throw new Error(c.reason);
      const truth = (id: string): number => world.levels[Number(id)] ?? 0;
      if (c.pairs.every((p) => p.family.low <= truth(p.a) - truth(p.b) && truth(p.a) - truth(p.b) <= p.family.high)) held++;
      // Alone, whatever the day did cancels only in differences.
      const middle = (world.day ?? 0) / 2;
      set +=
        c.setups.filter((s) => s.low90 <= Math.exp(truth(s.id) + middle) && Math.exp(truth(s.id) + middle) <= s.high90).length /
        c.setups.length;
    }
    expect(held / SETS).toBeGreaterThan(0.88);
    expect(set / SETS).toBeGreaterThan(0.86);
  });
});

describe("sameness", () => {
  it("is wrong in at most one in ten where the truth is ten per cent, and found where there is nothing", () => {
    const random = randomFrom(23);
    const at = (levels: number[]): World => ({ name: "", levels, takes: [5, 5, 5, 5], sd: even(0.05) });
    const step = Math.log(1.1);
    let [wrong, found] = [0, 0];
    for (let i = 0; i < SETS; i++) {
      const spaced = compareSetups(walked(at([0, step, 2 * step, 3 * step]), random), { control: null, allowForDay: false });
      const equal = compareSetups(walked(at([0, 0, 0, 0]), random), { control: null, allowForDay: false });
      if (!spaced.ok || !equal.ok) throw new Error("not compared");
      if (spaced.pairs.some((p) => p.sameWithin10)) wrong++;
      found += equal.pairs.filter((p) => p.sameWithin10).length / equal.pairs.length;
    }
    expect(wrong / SETS).toBeLessThanOrEqual(0.1);
    expect(found / SETS).toBeGreaterThan(0.3);
  });
});

describe("additions", () => {
  it("gain what is claimed together, and fight only where they do", () => {
    const random = randomFrom(29);
    const world: World = { name: "", levels: [0, -0.4, -0.4, -0.7], takes: [3, 3, 3, 3], sd: even(0.12) };
    const steps = [
      [0, 1],
      [1, 2],
      [2, 3],
    ] as const;
    let [held, falseFights] = [0, 0];
    for (let i = 0; i < SETS; i++) {
      const c = compareSetups(walked(world, random), { control: "0", allowForDay: false });
      if (!c.ok) throw new Error(c.reason);
      const level = (s: number) => {
        const known = c.setups[s];
        if (known === undefined) throw new Error("no setup");
        return known.level;
      };
      const gains = steps.map(([a, b]) => ({
        truth: (world.levels[a] ?? 0) - (world.levels[b] ?? 0),
        gain: gainOf(level(a), level(b), 3),
      }));
      if (gains.every(({ truth, gain }) => gain.low <= truth && truth <= gain.high)) held++;
      if (steps.some(([a, b]) => fights(level(a), level(b), 3, 4))) falseFights++;
    }
    expect(held / SETS).toBeGreaterThan(0.88);
    // Of four columns one is looked at here: a quarter of the family's error, and chance.
    expect(falseFights / SETS).toBeLessThan(0.06);
  });
});

describe("soft footfalls", () => {
  it("cover share and difference where footfalls of a take are alike", () => {
    const random = randomFrom(31);
    const truth = [0.1, 0.3];
    let [share, difference] = [0, 0];
    for (let i = 0; i < SETS; i++) {
      const setups = truth.map((p) => Array.from({ length: 3 }, () => ({ soft: softOf(random, p, 0.1, 10), of: 10 })));
      const session = softFootfalls(setups);
      const [first] = session.levels;
      if (first !== undefined && (first.low90 ?? 0) <= 0.1 && 0.1 <= (first.high90 ?? 1)) share++;
      const d = shareDifference(session, 1, 0);
      if (d !== null && d.alone.low <= 0.2 && 0.2 <= d.alone.high) difference++;
    }
    expect(share / SETS).toBeGreaterThan(0.86);
    expect(difference / SETS).toBeGreaterThan(0.86);
  });
  it("of one take are counts and nothing more", () => {
    const session = softFootfalls([
      [{ soft: 3, of: 10 }],
      [
        { soft: 0, of: 10 },
        { soft: 0, of: 9 },
      ],
    ]);
    expect(session.levels[0]).toEqual({ share: null, low90: null, high90: null });
    expect(session.levels[1]?.low90).toBe(0);
    expect(shareDifference(session, 0, 1)).toBeNull();
  });
  it("that are all soft have no upper end below one", () => {
    expect(
      softFootfalls([
        [
          { soft: 9, of: 9 },
          { soft: 8, of: 8 },
        ],
      ]).levels[0]?.high90,
    ).toBe(1);
    expect(() => softFootfalls([[{ soft: 3, of: 2 }]])).toThrow("soft footfalls must be counts with soft <= of, got 3 of 2");
  });
});

/** A share drawn for the take, then footfalls one by one. */
function softOf(random: Random, p: number, rho: number, n: number): number {
  const share = shareAbout(random, p, rho);
  return Array.from({ length: n }, () => random.next() < share).filter(Boolean).length;
}

describe("several walks", () => {
  it("cover the mean and a next walk", () => {
    const random = randomFrom(37);
    const sets = setsOf(500);
    let [mean, next] = [0, 0];
    for (let i = 0; i < sets; i++) {
      const walks = Array.from({ length: 3 }, () => {
        const log = 0.3 + 0.15 * random.normal() + 0.08 * random.normal();
        return { log, low: log - 0.08 * 1.645, high: log + 0.08 * 1.645 };
      });
      const over = overWalks(walks);
      if (!over.ok) throw new Error(over.reason);
      if (over.mean.low <= 0.3 && 0.3 <= over.mean.high) mean++;
      const another = 0.3 + 0.15 * random.normal();
      if (over.next.low <= another && another <= over.next.high) next++;
    }
    expect(mean / sets).toBeGreaterThan(0.88);
    expect(next / sets).toBeGreaterThan(0.88);
  });
  it("are refused below three, and a next walk is never surer than the mean", () => {
    const walk = { log: 0.4, low: 0.3, high: 0.5 };
    expect(overWalks([walk, walk])).toEqual({ ok: false, reason: "too-few-walks" });
    const over = overWalks([walk, walk, walk]);
    if (!over.ok) throw new Error(over.reason);
    expect(over.next.low).toBeLessThan(over.mean.low);
    // Three walks that agree to the hundredth still leave a next one open.
    expect(over.mean.low).toBeGreaterThan(0);
    expect(over.next.low).toBeLessThan(0.1);
  });
});
