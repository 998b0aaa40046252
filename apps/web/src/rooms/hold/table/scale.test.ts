import { describe, expect, it } from "vitest";
import { scaleFactor, scaleWords } from "./scale.ts";

describe("the size of a crop", () => {
  it("at 100 % is one pixel of the picture on one of the screen, however dense that is", () => {
    expect(scaleFactor({ kind: "percent", percent: 100 }, 6000, 1)).toBe(1);
    expect(scaleFactor({ kind: "percent", percent: 100 }, 6000, 2)).toBe(0.5);
    expect(scaleFactor({ kind: "percent", percent: 25 }, 6000, 1)).toBe(0.25);
  });
  it("as a print is so many centimetres wide, whatever its pixels: 24 and 60 megapixels look alike then", () => {
    // 96 page pixels are an inch of 2.54 cm (CSS Values and Units, 6.2).
    const wide = (px: number): number => (px * scaleFactor({ kind: "print", widthCm: 30 }, px, 1) * 2.54) / 96;
    expect(wide(6000)).toBeCloseTo(30, 9);
    expect(wide(9500)).toBeCloseTo(30, 9);
    expect(scaleFactor({ kind: "screen", pixelsWide: 3840 }, 7680, 1)).toBe(0.5);
  });
  it("says pixels and print size", () => {
    expect(scaleWords({ kind: "percent", percent: 100 }, 6000, 1)).toBe(
      "6000 pixels across, shown at 100 %: the whole would be 159 cm wide here.",
    );
    expect(scaleWords({ kind: "print", widthCm: 30 }, 6000, 1)).toBe(
      "6000 pixels across, shown at 19 %: as on a print 30 cm wide, if this screen keeps to its size.",
    );
    expect(scaleWords({ kind: "print", widthCm: 10 }, 9500, 1)).toMatch(/shown at 4\.0 %/);
  });
});
