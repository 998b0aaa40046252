import { describe, expect, it } from "vitest";
import { footfallsOf } from "./footfalls.ts";
import type { ClipSeries } from "./record.ts";

/** A picture that bobs at `hz`, highest first at `atSec`; `stray`: every third step comes that much late. */
function bobbing(hz: number, atSec: number, rateHz: number, frames: number): ClipSeries {
  const y = Array.from({ length: frames }, (_, i) => -0.01 * Math.cos(2 * Math.PI * hz * (i / rateHz - atSec)) + 0.002 * Math.sin(1.3 * i));
  const pairs = y.slice(1).map((v, i) => v - (y[i] ?? 0));
  return {
    timesSec: y.map((_, i) => i / rateHz),
    dxFrac: pairs.map(() => 0),
    dyFrac: pairs,
    by: pairs.map(() => "points"),
  } as unknown as ClipSeries;
}

describe("footfalls", () => {
  it("are where the picture is highest, one a step, within a frame or two", () => {
    const falls = footfallsOf(bobbing(2, 0.2, 25, 200), 0, 200, 25, 2);
    expect(falls.length).toBe(16);
    for (const [i, t] of falls.entries()) expect(Math.abs(t - (0.2 + i / 2))).toBeLessThanOrEqual(2 / 25);
  });
  it("are told in seconds of the clip, whatever is cut at its beginning", () => {
    const [first] = footfallsOf(bobbing(2, 0.2, 25, 200), 50, 200, 25, 2);
    expect(Math.abs((first ?? 0) - 2.2)).toBeLessThanOrEqual(2 / 25);
  });
  it("are none without a step rate, in too short a span, or where the picture was not followed", () => {
    const series = bobbing(2, 0.2, 25, 200);
    expect(footfallsOf(series, 0, 200, 25, null)).toEqual([]);
    expect(footfallsOf(series, 0, 20, 25, 2)).toEqual([]);
    expect(footfallsOf({ ...series, by: series.by.map((b, i) => (i % 2 === 0 ? "none" : b)) }, 0, 200, 25, 2)).toEqual([]);
  });
});
