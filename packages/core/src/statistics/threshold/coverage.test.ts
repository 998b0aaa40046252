// What is claimed of shutters, simulated in worlds of the procedure: slope, lapse, likeness of shots in a visit, and curves that are no logistic ones.
// Seeded, so that a run of the tests is one draw, of some of the worlds; npm run proof draws ten times as many, of all.

import { describe, expect, it } from "vitest";
import { normalCdf } from "../distributions.ts";
import type { Random } from "../random.ts";
import { randomFrom } from "../random.ts";
import { shareAbout } from "../testing/beta.ts";
import { sets, worldsFor } from "../testing/sets.ts";
import { gainInSession, gainOverSessions } from "./gained.ts";
import { beliefOf, keepRateAt } from "./keepRate.ts";
import type { Ladder, Visit } from "./ladder.ts";
import { nextExposure } from "./nextExposure.ts";
import { sessionClaim } from "./oneSession.ts";
import { sessionsClaim } from "./sessions.ts";

interface World {
  name: string;
  slope: number;
  lapse: number;
  likeness: number;
  shape: "logistic" | "probit" | "heavy";
  brief?: true;
}
const WORLDS: World[] = [
  { name: "shallow, alike", slope: 0.8, lapse: 0, likeness: 0.15, shape: "logistic" },
  { name: "shallow, lapses, alike", slope: 0.8, lapse: 0.05, likeness: 0.15, shape: "logistic", brief: true },
  { name: "middling", slope: 1.5, lapse: 0, likeness: 0, shape: "logistic" },
  { name: "middling, lapses, alike", slope: 1.5, lapse: 0.05, likeness: 0.15, shape: "logistic" },
  { name: "steep, alike", slope: 3, lapse: 0, likeness: 0.15, shape: "logistic" },
  { name: "probit", slope: 1.5, lapse: 0, likeness: 0.1, shape: "probit" },
  { name: "heavy tails", slope: 1.5, lapse: 0, likeness: 0.1, shape: "heavy", brief: true },
];
const SHARE = 0.8;

/** Chance that a shot `slower` than the true threshold is kept; .8 at it. */
function chance(world: World, slower: number): number {
  const curve = {
    logistic: (z: number) => 1 / (1 + Math.exp(-z)),
    probit: (z: number) => normalCdf(z / 1.7),
    heavy: (z: number) => 0.5 + Math.atan(z) / Math.PI,
  }[world.shape];
  const top = 1 - world.lapse;
  let [lo, hi] = [-20, 20];
  for (let i = 0; i < 60; i++) {
    const c = (lo + hi) / 2;
    if (top * curve(c) < SHARE) lo = c;
    else hi = c;
  }
  return top * curve(lo - world.slope * slower);
}

/** Shots of one visit share a beta draw where they are alike. */
function visit(world: World, random: Random, x: number, threshold: number, shots: number): Visit {
  const p = chance(world, x - threshold);
  const q = world.likeness > 0 ? shareAbout(random, p, world.likeness) : p;
  return { x, shots, kept: Array.from({ length: shots }, () => random.next() < q).filter(Boolean).length };
}
const FIXED = { share: SHARE, confidence: 0.9, adaptive: false };
const ADAPTIVE = { ...FIXED, adaptive: true };
const fiveByFive = (world: World, random: Random, threshold: number): Ladder =>
  [-2, -1, 0, 1, 2].map((x) => visit(world, random, x, threshold, 5));
/** A refusal claims nothing, so it is not wrong. */
const holds = (claim: number | null, truth: number): boolean => claim === null || claim <= truth;

/** What so few sets can show of a share that must be reached: three standard errors below it, for there are two dozen such looks. */
const leastOf = (share: number, n: number): number => share - 3 * Math.sqrt((share * (1 - share)) / n);

describe("fixed ladders of five times five", () => {
  it.each(worldsFor(WORLDS))("$name: the claim, the stops gained and the keep rate hold", (world) => {
    const random = randomFrom(41);
    const n = sets(60);
    let [claims, gains, rates, told] = [0, 0, 0, 0];
    for (let i = 0; i < n; i++) {
      const [off, on] = [random.next() - 0.5, random.next() - 0.5];
      const [ladder, other] = [fiveByFive(world, random, off), fiveByFive(world, random, on)];
      const claim = sessionClaim(ladder, FIXED);
      if (holds(claim.claim, off)) claims++;
      const gain = gainInSession(other, ladder, FIXED);
      if (!gain.ok || ((gain.low ?? -99) <= on - off && on - off <= (gain.high ?? 99))) gains++;
      if (claim.claim === null) continue;
      told++;
      if (keepRateAt(beliefOf([ladder], SHARE), -1).least <= chance(world, -1 - off)) rates++;
    }
    expect(claims / n).toBeGreaterThan(leastOf(0.87, n));
    expect(gains / n).toBeGreaterThan(leastOf(0.88, n));
    expect(rates / told).toBeGreaterThan(leastOf(0.88, told));
  });
});

describe("adaptive ladders of 24 shots", () => {
  it.each(worldsFor(WORLDS.filter((w) => w.slope < 1 || w.shape === "probit")))("$name: the claim holds", (world) => {
    const random = randomFrom(43);
    const n = sets(24);
    let held = 0;
    for (let i = 0; i < n; i++) {
      const truth = random.next() * 2 - 1;
      const visits: Visit[] = [];
      for (let v = 0; v < 12; v++) {
        const next = nextExposure(visits, { ...ADAPTIVE, start: -1 });
        if (next.done) break;
        visits.push(visit(world, random, next.x, truth, 2));
      }
      if (holds(sessionClaim(visits, ADAPTIVE).claim, truth)) held++;
    }
    expect(held / n).toBeGreaterThan(leastOf(0.87, n));
  });
});

describe("three sessions", () => {
  it("cover a session not yet shot, and the mean gain", () => {
    const random = randomFrom(47);
    const n = sets(25);
    const [world] = WORLDS;
    if (world === undefined) throw new Error("no world");
    let [next, gained] = [0, 0];
    for (let i = 0; i < n; i++) {
      const mean = random.next() - 0.5;
      const gain = 2;
      const pairs = Array.from({ length: 3 }, () => {
        const day = mean + 0.5 * random.normal();
        return {
          off: fiveByFive(world, random, day),
          on: [0, 1, 2, 3, 4].map((x) => visit(world, random, x, day + gain + 0.2 * random.normal(), 5)),
        };
      });
      const claim = sessionsClaim(
        pairs.map((p) => p.off),
        FIXED,
      );
      if (holds(claim.claim, mean + 0.5 * random.normal())) next++;
      const told = gainOverSessions(pairs, FIXED);
      if (!told.ok || ((told.low ?? -99) <= gain && gain <= (told.high ?? 99))) gained++;
    }
    expect(next / n).toBeGreaterThan(leastOf(0.88, n));
    expect(gained / n).toBeGreaterThan(leastOf(0.88, n));
  });
});
