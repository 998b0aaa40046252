// What is known before a start: the range of earlier runs, nearest first, and what ends it before heat.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { conditionDifferences, differsIn, protocolDifferences } from "./compare.ts";
import { chanceAt } from "../statistics/index.ts";
import { earlierOf, expectedHeat, heatScore } from "./earlier.ts";
import type { EndsAhead } from "./ends.ts";
import { endsBeforeHeat, OPEN_RUN_MS, plannedEnd } from "./ends.ts";
import { firstModes } from "./firstModes.ts";
import { DEFAULT_SCHOOLS } from "./schools.ts";
import { finished, HOUR, MIN, range, setup } from "./testing/requests.ts";

const UTC = (): string => "UTC";
const cell = setup();
const sun = setup({ condition: { id: "c2", name: "Sun", sun: "direct", ambientC: 30 } });
const shade = setup({ condition: { id: "c3", name: "Shade", sun: "shade", ambientC: 25 } });
const other = setup({ unit: { id: "u2", name: "Body two" } });
const hot = setup({ mode: { id: "mo2", name: "UHD 50", fpsNum: 50, mbps: 400, readout: "oversampled" } });

describe("the range of earlier runs", () => {
  const expect_ = (runs: ReturnType<typeof finished>[], wanted = cell) => expectedHeat(earlierOf(runs, UTC), wanted);
  it("is the cell's own, shortest to longest, and says so", () => {
    expect(expect_([finished(cell, 20), finished(cell, 61), finished(sun, 30)])).toMatchObject({
      ok: true,
      range: { basis: "this cell", by: "seen", loMs: 20 * MIN, hiMs: 61 * MIN, midMs: 40.5 * MIN, n: 2, events: 2, runIds: ["r20", "r61"] },
    });
  });
  it("has no upper end when a run that did not end by heat is the longest", () => {
    expect(expect_([finished(cell, 47), finished(cell, 61, false)])).toMatchObject({ range: { loMs: 47 * MIN, hiMs: null, events: 1 } });
    expect(expect_([finished(cell, 61), finished(cell, 47, false)])).toMatchObject({ range: { hiMs: 61 * MIN } });
    expect(expect_([finished(cell, 61, false)])).toMatchObject({ range: { hiMs: null, events: 0 } });
  });
  it("has no low end by a run that something else cut off early; without a heat end the longest is what was outlasted", () => {
    expect(expect_([finished(cell, 5, false), finished(cell, 61)])).toMatchObject({ range: { loMs: 61 * MIN, hiMs: 61 * MIN, n: 2 } });
    expect(expect_([finished(cell, 5, false), finished(cell, 61, false)])).toMatchObject({ range: { loMs: 61 * MIN, hiMs: null } });
  });
  it("names what differs in degrees of the tester's choice", () => {
    const near = expectedHeat(earlierOf([finished(shade, 40)], UTC), cell, "F");
    expect(near).toMatchObject({ range: { basisWords: "nearest: Shade, sun shade → none, ambient −5.4 °F" } });
  });
  it("else the nearest: condition before unit before mode, and what differs is in its words", () => {
    const near = expect_([finished(sun, 30), finished(shade, 40), finished(other, 50), finished(hot, 20)]);
    expect(near).toMatchObject({
      range: {
        basis: "another condition",
        loMs: 40 * MIN,
        basisWords: "nearest: Shade, sun shade → none, ambient -3 °C".replace("-3", "−3"),
      },
    });
    expect(expect_([finished(other, 50), finished(hot, 20)])).toMatchObject({
      range: { basis: "another unit", basisWords: "nearest: unit Body two" },
    });
    expect(expect_([finished(hot, 20)])).toMatchObject({ range: { basis: "another mode", basisWords: "nearest: mode UHD 50" } });
    const newer = setup({ unit: { firmware: "2.0" } });
    expect(expect_([finished(newer, 33), finished(sun, 30)])).toMatchObject({
      range: { basis: "another firmware", basisWords: "nearest: firmware 2.0" },
    });
  });
  it("never takes another clock, a warm start or nothing at all", () => {
    const rehearsed = { ...cell, clockId: "rehearsal" };
    const warm = { ...cell, startState: { state: "warm" as const, by: "gauge" as const } };
    expect(expect_([finished(rehearsed, 47), finished(warm, 20)])).toEqual({ ok: false, reason: "no-earlier-run" });
  });
});

describe("the estimate of earlier runs", () => {
  const hot3 = [47, 52, 58];
  it("is where eight of ten runs to come should end, by the posterior of its limit", () => {
    const earlier = earlierOf(
      hot3.map((m) => finished(cell, m)),
      UTC,
    );
    const e = expectedHeat(earlier, cell);
    const limit = earlier.limitOf(earlier.cells[0] as (typeof earlier.cells)[number]);
    if (!e.ok || !limit.ok) throw new Error("three runs carry a limit");
    expect(e.range).toMatchObject({ by: "estimate", n: 3, events: 3 });
    expect(chanceAt(limit.curve, e.range.loMs / 1000)).toBeCloseTo(0.9, 3);
    expect(chanceAt(limit.curve, e.range.midMs / 1000)).toBeCloseTo(0.5, 3);
    expect(chanceAt(limit.curve, (e.range.hiMs ?? 0) / 1000)).toBeCloseTo(0.1, 3);
    expect(e.range.loMs).toBeGreaterThan(limit.lowerMs);
  });
  it("is none for a single run, whatever the others scatter: what was seen stands", () => {
    const alone = expectedHeat(earlierOf([finished(sun, 30)], UTC), sun);
    expect(alone).toMatchObject({ ok: true, range: { by: "seen", loMs: 30 * MIN, hiMs: 30 * MIN } });
    const lent = [finished(sun, 30), ...[47, 52].map((m) => finished(cell, m)), ...[20, 22].map((m) => finished(hot, m))];
    expect(expectedHeat(earlierOf(lent, UTC), sun)).toMatchObject({ range: { by: "seen" } });
  });
  it("leans on the unit's other cells, never on another unit's", () => {
    const two = [33, 35].map((m) => finished(sun, m));
    const width = (runs: ReturnType<typeof finished>[]): number => {
      const e = expectedHeat(earlierOf(runs, UTC), sun);
      return e.ok ? (e.range.hiMs ?? 0) / e.range.loMs : 0;
    };
    const tame = [47, 47.2, 47.1, 47.3].map((m) => finished(cell, m));
    expect(width([...two, ...tame])).toBeLessThan(width(two));
    const theirs = [47, 47.2, 47.1, 47.3].map((m) => finished(other, m));
    expect(width([...two, ...theirs])).toBe(width(two));
  });
  it("names itself where it flags an end before heat", () => {
    const e = expectedHeat(
      earlierOf(
        hot3.map((m) => finished(cell, m)),
        UTC,
      ),
      cell,
    );
    const [flag] = endsBeforeHeat(ahead({ heat: e, cardMs: 20 * MIN }), fixes);
    expect(flag?.text).toMatch(/^The card ends it at 0:20, 8 of 10 runs 0:\d\d to 1:\d\d: /);
  });
});

const ahead = (more: Partial<EndsAhead>): EndsAhead => ({
  heat: range(70, 95),
  cardMs: null,
  recorderMs: null,
  batteryMs: null,
  clipMs: null,
  testerMs: null,
  ...more,
});
const fixes = { largerCard: "Wide 330", swapMs: 15_000, mainsAtHand: true };

describe("what will end it", () => {
  it("heat, when nothing comes before the earliest run", () => {
    expect(plannedEnd(ahead({ cardMs: 3 * HOUR }))).toEqual({ kind: "heat", loMs: 70 * MIN, midMs: 82.5 * MIN, hiMs: 95 * MIN });
    expect(endsBeforeHeat(ahead({ cardMs: 95 * MIN }), fixes)).toEqual([]);
  });
  it("the card, flagged with the fix", () => {
    expect(plannedEnd(ahead({ cardMs: 58 * MIN }))).toEqual({ kind: "card", loMs: 58 * MIN, midMs: 58 * MIN, hiMs: 58 * MIN });
    expect(endsBeforeHeat(ahead({ cardMs: 58 * MIN }), fixes).map((f) => f.text)).toEqual([
      "The card ends it at 0:58, earlier runs 1:10 to 1:35: use Wide 330, or plan one swap of 15 s, body on.",
    ]);
    expect(endsBeforeHeat(ahead({ cardMs: 80 * MIN }), { ...fixes, largerCard: null }).map((f) => f.text)).toEqual([
      "The card may end it at 1:20, earlier runs 1:10 to 1:35: no larger card in the kit fits; plan one swap of 15 s, body on.",
    ]);
  });
  it("battery and clip limit each with theirs; the tester's own stop is no surprise", () => {
    const flags = endsBeforeHeat(ahead({ batteryMs: 60 * MIN, clipMs: 30 * MIN, testerMs: 20 * MIN }), fixes);
    expect(flags.map((f) => f.text)).toEqual([
      "The clip limit ends it at 0:30, earlier runs 1:10 to 1:35: start the next clip at once, body on, and mark the gap.",
      "The battery ends it at 1:00, earlier runs 1:10 to 1:35: use the power supply, or take the battery's end as the result.",
    ]);
  });
  it("keeps two hours for what never ended by heat or was never run", () => {
    expect(plannedEnd(ahead({ heat: range(70, null) })).hiMs).toBe(OPEN_RUN_MS);
    expect(plannedEnd(ahead({ heat: range(170, null) })).hiMs).toBe(170 * MIN);
    expect(plannedEnd(ahead({ heat: { ok: false, reason: "no-earlier-run" } }))).toMatchObject({ kind: "tester", hiMs: OPEN_RUN_MS });
    expect(plannedEnd(ahead({ heat: { ok: false, reason: "no-earlier-run" }, cardMs: 40 * MIN }))).toMatchObject({
      kind: "card",
      hiMs: 40 * MIN,
    });
  });
  it("never says an end later than one that is certain, and keeps early, middle and late in order", () => {
    const maybe = fc.option(fc.integer({ min: 1, max: 300 * MIN }), { nil: null });
    fc.assert(
      fc.property(
        maybe,
        maybe,
        maybe,
        fc.integer({ min: 1, max: 200 }),
        fc.option(fc.nat({ max: 60 }), { nil: null }),
        (cardMs, batteryMs, testerMs, lo, more) => {
          const e = ahead({ cardMs, batteryMs, testerMs, heat: range(lo, more === null ? null : lo + more) });
          const end = plannedEnd(e);
          for (const ms of [cardMs, batteryMs, testerMs]) if (ms !== null) expect(end.hiMs).toBeLessThanOrEqual(ms);
          expect(end.loMs).toBeLessThanOrEqual(end.midMs);
          expect(end.midMs).toBeLessThanOrEqual(end.hiMs);
        },
      ),
    );
  });
});

describe("a plain comparison", () => {
  it("names what differs, temperatures as a difference in the reader's unit", () => {
    const dark = { ...cell.condition, screen: "dark" as const, ambientC: 31, settings: { humidityPct: 60 } };
    expect(differsIn(conditionDifferences(cell.condition, dark))).toBe(
      "differs in: screen lit → dark, ambient +9 °C, humidity not said → 60 %",
    );
    const inF = conditionDifferences(cell.condition, dark, "F");
    expect(differsIn(inF)).toContain("ambient +16.2 °F");
    expect(inF.find((d) => d.what === "ambient")).toMatchObject({ a: "71.6 °F", b: "87.8 °F" });
    expect(differsIn(conditionDifferences(cell.condition, { ...cell.condition, name: "other name", settings: null }))).toBe(
      "the same in everything that is recorded",
    );
  });
  it("an older protocol is read with the planner's defaults", () => {
    expect(protocolDifferences(cell.protocol, { ...cell.protocol, schools: DEFAULT_SCHOOLS })).toEqual([]);
    const rest = { ...cell.protocol, schools: { ...DEFAULT_SCHOOLS, coolDown: { to: "rest" as const, restMin: 45 } } };
    expect(protocolDifferences(cell.protocol, rest).map((d) => [d.what, d.b])).toEqual([["cool-down", "a fixed rest of 45 min"]]);
  });
});

describe("which modes first", () => {
  const mild = setup({ mode: { id: "mo3", name: "HD", widthPx: 1920, heightPx: 1080, mbps: 50 } }).mode;
  it("hottest on paper, with the reason", () => {
    expect(heatScore(hot.mode)).toBeGreaterThan(heatScore(cell.mode));
    expect(heatScore(cell.mode)).toBeGreaterThan(heatScore(mild));
    const advice = firstModes([mild, cell.mode, hot.mode].map((mode) => ({ mode, typicalHeatMs: null, n: 0 })));
    expect(advice.map((a) => a.modeId)).toEqual(["mo2", "mo1", "mo3"]);
    expect(advice[0]?.why).toBe("hottest on paper (oversampled, 50 frames, long-GOP, 400 Mbit/s); no run yet");
  });
  it("its own runs overrule the paper among modes that have them", () => {
    const advice = firstModes([
      { mode: hot.mode, typicalHeatMs: 80 * MIN, n: 3 },
      { mode: cell.mode, typicalHeatMs: 30 * MIN, n: 3 },
      { mode: mild, typicalHeatMs: null, n: 0 },
    ]);
    expect(advice.map((a) => [a.modeId, a.by])).toEqual([
      ["mo1", "own runs"],
      ["mo2", "own runs"],
      ["mo3", "specification"],
    ]);
    expect(advice[0]?.why).toBe("hottest: ended by heat at about 0:30 in its own runs");
  });
  it("every pixel, frame and megabit counts upward", () => {
    fc.assert(
      fc.property(fc.constantFrom("fpsNum", "widthPx", "mbps"), fc.integer({ min: 1, max: 500 }), (key, more) => {
        expect(heatScore({ ...cell.mode, [key]: cell.mode[key as "mbps"] + more })).toBeGreaterThan(heatScore(cell.mode));
      }),
    );
  });
});
