// The sentences of what ends it first, in the order of docs/methods/ends-first.md, and over random knowledge: never certain, never "never".

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { LimitRun } from "../statistics/index.ts";
import { PRESUMED, predictiveCurve } from "../statistics/index.ts";
import type { Ends, Known } from "./ends.ts";
import { completion } from "./ends.ts";
import { endsWords } from "./endsWords.ts";

const MIN = 60;
const from = (cause: keyof typeof PRESUMED, ...min: number[]): Known => ({
  by: "presumed",
  curve: predictiveCurve(
    min.map((m): LimitRun => ({ kind: "exact", sec: m * MIN, day: null })),
    PRESUMED[cause],
  ),
  ends: min.length,
  outlasted: 0,
});
const outlasted = (...min: number[]): Known => ({
  by: "outlasted",
  reachedSec: min.map((m) => m * MIN),
  curve: predictiveCurve([{ kind: "exact", sec: Math.max(...min) * MIN, day: null }], PRESUMED.heat),
  path: null,
});
/** Some of whose runs may have ended by it, unsaid: as if they had, its chance is that of `low`. */
const doubtful = (known: Known, low: Known): Known => ({ ...known, low: (low as Known & { by: "presumed" }).curve }) as Known;
const card = (gb: number, mbps: number, spread = 0.02): Known => ({ by: "size", atSec: (8000 * gb) / mbps, spread });
const mains: Known = { by: "cannot end it" };
const nothing: Known = { by: "nothing" };
const words = (ends: Ends, min: number) => endsWords(ends, min * MIN);

describe("what ends it first, in words", () => {
  it("one shutdown long before: hardly held, heat first, and what is not known beside it", () => {
    expect(words({ heat: from("heat", 22), battery: nothing, card: card(128, 100) }, 55)).toEqual({
      lead: "0:55 will hardly be held.",
      first: "Heat ends it first.",
      unknown: "The battery could end it before: nothing is known of it at this length.",
      // It would say the same.
      aside: null,
      ground: "heat: one such end, and how much cameras usually scatter; the card: size",
    });
  });
  it("few ends give words, three give per cent", () => {
    expect(words({ heat: from("heat", 48, 55), battery: mains, card: card(128, 200) }, 40).lead).toBe(
      "0:40 is likely held, if it scatters as cameras usually do.",
    );
    const known = { heat: from("heat", 47, 50, 52, 54, 58, 49), battery: from("battery", 61, 63, 66), card: card(128, 200) };
    expect(words(known, 50)).toMatchObject({
      lead: "The chance to hold 0:50 is about 63 %.",
      first: "If something ends it before, it is heat.",
    });
  });
  it("an unknown cause makes every chance at most", () => {
    const w = words({ heat: nothing, battery: nothing, card: card(64, 400, 0.15) }, 20);
    expect(w.lead).toBe("The chance to hold 0:20 is at most 67 %, perhaps far less.");
    expect(w.unknown).toBe("Heat and the battery could end it before: nothing is known of them at this length.");
    expect(words({ heat: nothing, battery: nothing, card: nothing }, 30)).toEqual({
      lead: "No chance can be given for 0:30.",
      first: null,
      unknown: "Heat, the battery and the card could end it before: nothing is known of them at this length.",
      aside: null,
      ground: "",
    });
    // A card nobody listed must not silence what the runs say.
    const noCard = words({ heat: from("heat", 47, 50, 52, 54, 58, 49), battery: mains, card: nothing }, 45);
    expect(noCard).toMatchObject({
      lead: "No chance can be given for 0:45.",
      aside: expect.stringMatching(/^The chance to hold 0:45 is about 9[0-3] %\.$/) as string,
    });
  });
  it("beyond what was outlasted a cause is unknown again", () => {
    const ends = { heat: outlasted(62, 60, 75), battery: from("battery", 62, 60, 75), card: card(256, 100) };
    expect(words(ends, 90)).toMatchObject({
      lead: "1:30 will hardly be held: the chance is less than 2 %.",
      first: "The battery ends it first.",
      unknown: "Heat could end it before: nothing is known of it at this length.",
    });
    // Three runs outlasted it: enough for a number; one did: words.
    expect(words(ends, 50).lead).toBe("The chance to hold 0:50 is about 97 %.");
    expect(words({ ...ends, battery: mains }, 70).lead).toBe("1:10 is open, or better.");
  });
  it("an end nobody explained widens the chance downwards, and raises none", () => {
    const ends = { heat: doubtful(outlasted(30, 62), from("heat", 30, 62)), battery: mains, card: card(256, 100) };
    expect(words(ends, 40).lead).toBe("0:40 is open, or better.");
    const sure = completion({ ...ends, heat: outlasted(30, 62) }, 40 * MIN);
    const read = completion(ends, 40 * MIN);
    expect(read.lo).toBeLessThan(sure.lo - 0.2);
    expect(read.hi).toBe(sure.hi);
    const short = { ...ends, heat: doubtful(from("heat", 60, 61, 59, 62), from("heat", 20, 21, 19, 60, 61, 59, 62)) };
    expect(words(short, 55).lead).toMatch(/^The chance to hold 0:55 is at least \d+ %/);
  });
});

const known = fc.oneof(
  fc.array(fc.integer({ min: 5, max: 200 }), { minLength: 1, maxLength: 6 }).map((m) => from("heat", ...m)),
  fc.array(fc.integer({ min: 5, max: 200 }), { minLength: 1, maxLength: 4 }).map((m) => outlasted(...m)),
  fc.integer({ min: 5, max: 300 }).map((m): Known => ({ by: "size", atSec: m * MIN, spread: 0.05 })),
  fc.constant(mains),
  fc.constant(nothing),
);
it("over random knowledge: lo <= hi, both fall with time, nothing is certain and no unknown cause gives a lower chance", () => {
  fc.assert(
    fc.property(
      known,
      known,
      known,
      fc.integer({ min: 1, max: 300 }),
      fc.integer({ min: 1, max: 60 }),
      (heat, battery, cards, min, more) => {
        const ends = { heat, battery, card: cards };
        const [now, later] = [completion(ends, min * MIN), completion(ends, (min + more) * MIN)];
        expect(now.lo).toBeLessThanOrEqual(now.hi + 1e-9);
        expect(later.hi).toBeLessThanOrEqual(now.hi + 1e-9);
        const { lead, unknown } = words(ends, min);
        expect(lead).not.toMatch(/NaN|\b(99|100) %/);
        if (unknown !== null) expect(lead).not.toContain("at least");
      },
    ),
    { numRuns: 60 },
  );
});
