// Three runs of one mode that differ for known reasons: made by the lumped body, told apart from their records alone.

import { describe, expect, it } from "vitest";
import { START } from "../runs/testing/marks.ts";
import type { Difference, DifferencesQuestion } from "./differences.ts";
import { differencesOf } from "./differences.ts";
import type { RunRecord } from "./records.ts";
import { costWords, leftWords } from "./words.ts";

const MIN = 60;
const TAU = 30 * MIN;
/** A body whose plateau lies 40 K above the room and that shuts down at 58 °C. */
const secAt = (ambientC: number, share = 0): number => {
  const rise = 58 - ambientC;
  return -TAU * Math.log((40 - rise) / (40 - share * rise));
};
const record = (runId: string, sec: number, ambientC: number, startHeat = 0, more: Partial<typeof START.condition> = {}): RunRecord => ({
  runId,
  timeSec: sec,
  event: 1,
  lasted: { kind: "exact", sec, day: "d" },
  startHeat,
  startMs: 0,
  because: "thermal shutdown",
  setup: { ...START, ambient: { ...START.ambient, valueC: ambientC }, condition: { ...START.condition, ...more } },
  fold: { gaps: [] } as unknown as RunRecord["fold"],
});
const ask = (records: RunRecord[], more: Partial<DifferencesQuestion> = {}) =>
  differencesOf({ records, tau: { tauSec: TAU, tauFactor: 1.25 }, tauFitted: true, physics: null, effects: [], sd: 0.03, ...more });
function only(records: RunRecord[], more: Partial<DifferencesQuestion> = {}): Difference {
  const d = ask(records, more);
  if (!d.ok || d.runs.length !== 1) throw new Error(JSON.stringify(d));
  return d.runs[0] as Difference;
}

describe("a run that is shorter than another", () => {
  const long = record("long", secAt(22), 22);
  it("because it started warm: what that took is in the range, and nothing is left", () => {
    const d = only([long, record("warm", secAt(22, 0.7), 22, 0.7)]);
    const truth = secAt(22) - secAt(22, 0.7);
    const [cost] = d.costs;
    expect(cost).toMatchObject({ what: "start heat", amount: 0.7, from: "recoveries", weak: false });
    expect(cost?.sec?.lo).toBeLessThan(truth);
    expect(cost?.sec?.hi).toBeGreaterThan(truth);
    expect([d.explained, leftWords(d)]).toEqual([true, "nothing is left unexplained"]);
    expect(costWords(cost as NonNullable<typeof cost>)).toMatch(
      /^started with 70 % heat left: took \d+ to \d+ min, by this body's recoveries$/,
    );
  });
  it("because the room was hotter: by the body's law from usual values, said so", () => {
    const d = only([long, record("hot", secAt(31), 31)]);
    const truth = secAt(22) - secAt(31);
    expect(d.costs).toMatchObject([{ what: "ambient", amount: 9, from: "the body's law", weak: true }]);
    expect(d.costs[0]?.sec?.lo).toBeLessThan(truth);
    expect(d.costs[0]?.sec?.hi).toBeGreaterThan(truth);
    expect(d.explained).toBe(true);
    expect(costWords(d.costs[0] as Difference["costs"][number])).toMatch(
      /^9 °C warmer: took \d+ to \d+ min, by the body's law, from usual values$/,
    );
    // A difference of nine degrees Celsius is 16.2 degrees Fahrenheit.
    expect(costWords(d.costs[0] as Difference["costs"][number], "F")).toMatch(/^16 °F warmer: took/);
  });
  it("for no recorded reason: what is left is said in minutes", () => {
    const d = only([long, record("odd", secAt(22) / 2, 22)]);
    expect(d).toMatchObject({ costs: [], explained: false });
    expect(leftWords(d)).toMatch(/^\d+ min are left unexplained|^\d+ to \d+ min are left unexplained/);
  });
  it("by less than runs of one kind scatter: no reason is looked for", () => {
    expect(leftWords(only([long, record("near", 0.95 * secAt(22), 22)]))).toMatch(/scatter so much$/);
  });
  it("with a setting whose price is known, and one whose price is not", () => {
    const sun = { cause: "direct sun" as const, together: [], factor: { mid: 0.75, lo: 0.7, hi: 0.8 }, yes: 3, no: 3 };
    const d = only([long, record("sun", 0.75 * secAt(22), 22, 0, { sun: "direct", screen: "dark" })], { effects: [sun] });
    expect(d.costs.find((c) => c.what === "direct sun")).toMatchObject({ from: "runs with and without", weak: false });
    const unknown = d.costs.find((c) => c.what !== "direct sun");
    expect(unknown).toMatchObject({ sec: null, from: "nothing" });
    expect(costWords(unknown as NonNullable<typeof unknown>)).toContain("is not known here");
    expect(d.explained).toBe(true);
  });
});

it("says nothing of a run whose end is not known: found off it may have lasted as long", () => {
  const foundOff = { ...record("found", 1200, 22), lasted: { kind: "interval" as const, loSec: 1200, hiSec: 3600, day: "d" } };
  expect(ask([record("long", secAt(22), 22), foundOff])).toEqual({ ok: false, reason: "one-run" });
});
it("needs a shutdown from cold to stand against, and another run", () => {
  expect(ask([record("warm", 1000, 22, 0.5)])).toEqual({ ok: false, reason: "no-cold-shutdown" });
  expect(ask([record("one", 1000, 22)])).toEqual({ ok: false, reason: "one-run" });
});
