// Settings found from a card or the plan, against made tests whose settings are known.

import { describe, expect, it } from "vitest";
import { madeTries } from "../stand-ins/shots/hands.ts";
import { matchToCard, matchToPlan } from "./cardMatch.ts";
import type { HoldPlan } from "./plan.ts";
import { ORDERS } from "./plan.ts";

const plan = (order: HoldPlan["order"], seed: number) => ({
  order,
  seed,
  spans: { off: { fastest: -8, slowest: -4 }, on: { fastest: -6, slowest: 0 } },
  stepStops: 1 as const,
  shotsEach: 3,
});
const hands = (seed: number) => ({ seed, threshold: { off: -6, on: -3 }, slope: 1.5, lapse: 0.02, badShare: 0.1 });

describe("the setting of a picture", () => {
  it("is found for every picture of a whole card, bad tries too, whatever the order of the test", () => {
    for (const order of ORDERS.filter((o) => o !== "adaptive"))
      for (let seed = 1; seed <= 20; seed++) {
        const shots = madeTries(plan(order, seed), hands(seed)).map((t) => t.shot);
        const { settings, unequal } = matchToCard(
          shots.map((s) => s.x),
          shots,
        );
        expect(unequal).toEqual([]);
        expect(settings).toEqual(shots.map((s) => ({ setting: s.setting, bad: s.grade === "bad" })));
      }
  });
  it("is never wrong when pictures were thrown away: found, or left open and the time named", () => {
    for (let seed = 1; seed <= 30; seed++) {
      const shots = madeTries(plan("shuffled", seed), hands(seed)).map((t) => t.shot);
      const left = shots.filter((_, i) => (i * 7 + seed) % 11 !== 0);
      const { settings, unequal } = matchToCard(
        left.map((s) => s.x),
        shots,
      );
      const missing = new Set(shots.filter((_, i) => (i * 7 + seed) % 11 === 0).map((s) => s.x));
      for (const [i, found] of settings.entries()) {
        if (found !== null) expect(found.setting).toBe(left[i]?.setting);
        else expect(missing.has(left[i]?.x ?? Number.NaN)).toBe(true);
      }
      expect(unequal.map((u) => u.x)).toEqual([...missing].sort((a, b) => a - b));
    }
  });
  it("follows the plan's order where no card was kept, and leaves a time with more pictures than planned open", () => {
    for (let seed = 1; seed <= 10; seed++) {
      const shuffled = plan("shuffled", seed);
      const shots = madeTries(shuffled, { ...hands(seed), badShare: 0 }).map((t) => t.shot);
      const xs = shots.map((s) => s.x);
      expect(matchToPlan(xs, shuffled).settings.map((m) => m?.setting)).toEqual(shots.map((s) => s.setting));
      const more = matchToPlan([...xs, -5], shuffled);
      expect(more.unequal).toEqual([{ x: -5, card: 6, pictures: 7 }]);
      expect(more.settings.filter((m) => m === null)).toHaveLength(7);
    }
  });
});
