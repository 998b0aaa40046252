import { describe, expect, it } from "vitest";
import type { Timed } from "./timed.ts";
import { typicalOf } from "./timed.ts";

const ended = (...sec: number[]): Timed[] => sec.map((timeSec, i) => ({ runId: `e${i}`, timeSec, event: 1 }));
const cutOff = (...sec: number[]): Timed[] => sec.map((timeSec, i) => ({ runId: `c${i}`, timeSec, event: 0 }));
const of = (...records: Timed[][]): number | null => typicalOf({ records: records.flat() });

describe("the middle of a cell", () => {
  it("is the mean of the logs where every run ended, and none where none did", () => {
    expect(of(ended(1600, 2500))).toBeCloseTo(2000, 9);
    expect(of(cutOff(1600, 2500))).toBeNull();
    expect(of([])).toBeNull();
  });
  it("is the time of all ends where they are one, with what was cut off before: ties are no reason to know nothing", () => {
    expect(of(ended(2520, 2520), cutOff(2100))).toBe(2520);
    expect(of(ended(2520), cutOff(2100, 2520))).toBe(2520);
  });
  it("lies beyond the ends where runs outlasted them, never beyond the longest record", () => {
    const middle = of(ended(2000, 2400, 2200), cutOff(2600)) ?? 0;
    expect(middle).toBeGreaterThan(2200);
    expect(middle).toBeLessThanOrEqual(2600);
  });
});
