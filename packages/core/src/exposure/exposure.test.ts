// Exposures by the places of a dial, and the rules of thumb. Whole series against exact powers of two are cases of tools/conformance.

import { describe, expect, it } from "vitest";
import { apexOf, filterOfFactor } from "./apex.ts";
import { onePixelRule, ruleOfThumb } from "./focal.ts";
import { labelAt, nearestPlace, readSeconds, seriesOf, stopsShorter } from "./series.ts";

describe("a dial's times", () => {
  it("are read as they are written, and refused where they are none", () => {
    for (const [text, sec] of [
      ["1/125", 1 / 125],
      ["0.3", 0.3],
      ["0,8 s", 0.8],
      ['30"', 30],
      ["1/1.6", 0.625],
    ] as const)
      expect(readSeconds(text)).toBeCloseTo(sec, 12);
    for (const text of ["", "1/0", "0", "-1", "bulb", "1/2/3"]) expect(readSeconds(text)).toBeNull();
  });
  it("land on their place: rounded labels, and times reckoned by the camera", () => {
    const label = (sec: number): string => labelAt(Math.log2(sec), "third");
    for (const [sec, name] of [
      [0.3, "0.3"],
      [1 / 13, "1/13"],
      [0.8, "0.8"],
      [1 / 15.6, "1/15"],
      [0.0166667, "1/60"],
      [32, "30"],
      [1 / 12800, "1/12800"],
    ] as const)
      expect(label(sec)).toBe(name);
    expect(labelAt(7, "third")).toBe("130");
    expect(labelAt(-16, "full")).toBe("1/66000");
  });
  it("are of a dial in halves only where one of them is on no dial in thirds", () => {
    const series = (...secs: number[]) => seriesOf(secs.map(Math.log2));
    expect(series(1 / 30, 1 / 45, 1 / 60)).toBe("half");
    expect(series(1 / 30, 1 / 40, 1 / 60, 0.3)).toBe("third");
    expect(series(1 / 30, 1 / 60)).toBe("third");
    // A bulb's time is on no dial.
    expect(series(1 / 30, 45)).toBe("third");
    expect(nearestPlace(Math.log2(0.3), "half")).toBe(-1.5);
  });
  it("are told apart by places: 0.8 s is five and two thirds stops slower than 1/60, not the 5.58 of the labels", () => {
    expect(stopsShorter("0.8", "1/60", "third")).toBeCloseTo(17 / 3, 12);
    expect(stopsShorter("0.8", "1/45", "third")).toBeNull();
  });
});

describe("rules of thumb", () => {
  it("start from the focal length chosen, and need the sensor for the equivalent", () => {
    const lens = { focalMm: 30, equivalentMm: 45 };
    expect(ruleOfThumb("1/equivalent", lens)).toBeCloseTo(-Math.log2(45), 12);
    expect(ruleOfThumb("1/twice-actual", lens)).toBeCloseTo(-Math.log2(60), 12);
    expect((ruleOfThumb("1/actual", lens) ?? 0) - (ruleOfThumb("1/twice-equivalent", lens) ?? 0)).toBeCloseTo(Math.log2(3), 12);
    expect(ruleOfThumb("1/equivalent", { focalMm: 30, equivalentMm: null })).toBeNull();
    expect(ruleOfThumb("off", lens)).toBeNull();
  });
  it("of one pixel grow stricter with pixels, by their width", () => {
    const sensor = { widthMm: 36, heightMm: 24 };
    const [few, many] = [onePixelRule(sensor, 50, 6000), onePixelRule(sensor, 50, 9600)];
    expect(few - many).toBeCloseTo(Math.log2(1.6), 12);
  });
});

describe("exposure in stops", () => {
  it("names what is no exposure", () => {
    expect(() => apexOf({ fNumber: 0, seconds: 1, iso: 100 })).toThrow("fNumber must be above zero, got 0");
    expect(() => filterOfFactor(-2)).toThrow("factor must be above zero, got -2");
  });
});
