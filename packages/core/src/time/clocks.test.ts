import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { clockAt, nextSegment, rateAt } from "./benchClock.ts";
import type { ClockSegment } from "./benchClock.ts";
import { clocksParted, estimateOffset, followParting, NEVER_COMPARED_ERR_MS, offsetAt, TOGETHER } from "./deviceClock.ts";
import { heatTrace } from "../runs/index.ts";
import { foldRun } from "../runs/index.ts";
import { end, mark, start, warning } from "../runs/testing/marks.ts";

describe("bench clock", () => {
  it("is the identity without pieces", () => {
    expect(clockAt([], 123_456)).toBe(123_456);
    expect(rateAt([], 5)).toBe(1);
  });
  it("never runs backwards and changes rate without a jump, even when the wall clock steps back", () => {
    const change = fc.record({ by: fc.integer({ min: -5000, max: 60_000 }), rate: fc.constantFrom(0, 1, 10, 60, 120) });
    fc.assert(
      fc.property(fc.array(change, { maxLength: 12 }), (changes) => {
        let segments: ClockSegment[] = [{ wallMs: 0, clockMs: 1_000_000, rate: 1 }];
        let wall = 0;
        for (const c of changes) {
          wall += c.by;
          const before = clockAt(segments, Math.max(wall, segments.at(-1)?.wallMs ?? 0));
          segments = [...segments, nextSegment(segments, wall, c.rate)];
          expect(segments.at(-1)?.clockMs).toBe(before);
        }
        for (let w = -1000; w < wall + 5000; w += 997) expect(clockAt(segments, w + 997)).toBeGreaterThanOrEqual(clockAt(segments, w));
      }),
    );
  });
  it("is set ahead, never back", () => {
    const pieces = [{ wallMs: 0, clockMs: 0, rate: 1 }];
    expect(nextSegment(pieces, 1000, 60, 300_000)).toEqual({ wallMs: 1000, clockMs: 301_000, rate: 60 });
    expect(() => nextSegment(pieces, 1000, 1, -1)).toThrow("skipMs must be >= 0, got -1");
  });
  it("refuses a rate beyond 120", () => {
    expect(() => nextSegment([], 0, 121)).toThrow("rate must be in [0, 120], got 121");
  });
});

describe("device clock", () => {
  const look = (wallMs: number, serverMs: number, tripMs: number) => ({ tripMs, serverMs, wallMs, steadyMs: wallMs });
  it("keeps the shortest round trip, with half of it as the error", () => {
    const looks = [look(1100, 61_050, 100), look(2015, 62_010, 15), look(3900, 63_500, 900)];
    expect(estimateOffset(looks)).toEqual({ offsetMs: 60_003, errMs: 8, wallMs: 2015, steadyMs: 2015 });
    expect(estimateOffset([])).toBeNull();
    expect(estimateOffset([look(3, 5, -7)])).toBeNull();
  });
  it("says that a clock never compared may be anything", () => {
    expect(offsetAt(null, TOGETHER, 5, 5)).toEqual({ offsetMs: 0, errMs: NEVER_COMPARED_ERR_MS });
  });
  it("holds the true offset within its error, whatever the delays, drift, jumps and sleep", () => {
    const trip = fc.record({ out: fc.integer({ min: 0, max: 400 }), back: fc.integer({ min: 0, max: 400 }) });
    fc.assert(
      fc.property(
        fc.integer({ min: -600_000, max: 600_000 }),
        fc.array(trip, { minLength: 1, maxLength: 5 }),
        fc.record({
          laterMs: fc.integer({ min: 0, max: 3_600_000 }),
          ppm: fc.integer({ min: -200, max: 200 }),
          jumpMs: fc.integer({ min: -900_000, max: 900_000 }),
          sleptMs: fc.integer({ min: 0, max: 900_000 }),
        }),
        (offset, trips, after) => {
          const looks = trips.map((t, i) => {
            const wallMs = i * 1000 + t.out + t.back;
            return { tripMs: t.out + t.back, serverMs: i * 1000 + t.out + offset, wallMs, steadyMs: wallMs };
          });
          const anchor = estimateOffset(looks);
          if (anchor === null) throw new Error("no anchor");
          expect(Math.abs(anchor.offsetMs - offset)).toBeLessThanOrEqual(anchor.errMs);
          // True time goes on; the wall clock drifts and may be set, the monotonic one drifts alike and stands still in sleep.
          const drifted = (ms: number): number => ms + (ms * after.ppm) / 1e6;
          const wokeWallMs = Math.round(anchor.wallMs + drifted(after.laterMs + after.sleptMs));
          const steadyMs = anchor.steadyMs + drifted(after.laterMs);
          const parting = followParting(TOGETHER, anchor, wokeWallMs, steadyMs);
          const wallMs = wokeWallMs + after.jumpMs;
          const trueMs = anchor.wallMs + offset + after.laterMs + after.sleptMs;
          const got = offsetAt(anchor, parting, wallMs, steadyMs);
          expect(Math.abs(wallMs + got.offsetMs - trueMs)).toBeLessThanOrEqual(got.errMs);
        },
      ),
      { numRuns: 500 },
    );
  });
  it("sees the wall and the monotonic clock part", () => {
    const anchor = { offsetMs: 0, errMs: 1, wallMs: 0, steadyMs: 0 };
    expect([clocksParted(anchor, 1000, 1100), clocksParted(anchor, 60_000, 1000)]).toEqual([false, true]);
  });
});

describe("heat trace", () => {
  it("takes the best witness and says which", () => {
    const touched = mark("touch", 50, { feel: "warm" });
    const gauge = mark("reading", 100, { gauge: 4 });
    expect(heatTrace(foldRun([start(0), touched, gauge, end(200)]))).toEqual({
      witness: "gauge",
      steps: [
        { fromMs: 0, level: 0 },
        { fromMs: 100_000, level: 0.4 },
      ],
    });
    expect(heatTrace(foldRun([start(0), touched])).witness).toBe("touch");
    expect(heatTrace(foldRun([start(0), mark("reading", 9, { shellC: 40 })]))).toMatchObject({
      witness: "surface temperature",
      steps: [{ level: 0 }, { level: 0.5 }],
    });
    expect(heatTrace(foldRun([start(0), warning(10)])).witness).toBe("warnings");
    expect(heatTrace(foldRun([start(0)])).witness).toBe("none");
    expect(heatTrace(foldRun([start(0)]), [{ atMs: 5000, value: 2 }]).witness).toBe("gauge");
  });
});
