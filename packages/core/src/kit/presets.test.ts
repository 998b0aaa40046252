import { describe, expect, it } from "vitest";
import { FRAME_RATES, frameRateWords, MODE_PRESETS, parseFrameRate, presetMode } from "./presets.ts";

describe("frame rates", () => {
  it("are read as people write them: usual ones exactly, others to a thousandth", () => {
    // SMPTE ST 12-1: 29.97 is 30000/1001, and so on.
    expect(parseFrameRate("29.97")).toEqual({ fpsNum: 30_000, fpsDen: 1001 });
    expect(parseFrameRate("23,98p")).toEqual({ fpsNum: 24_000, fpsDen: 1001 });
    expect(parseFrameRate("60000 over 1001")).toEqual({ fpsNum: 60_000, fpsDen: 1001 });
    expect(parseFrameRate("12.5")).toEqual({ fpsNum: 12_500, fpsDen: 1000 });
    for (const bad of ["", "fast", "0", "25/0", "-25", "1.2.3"]) expect(parseFrameRate(bad), bad).toBeNull();
  });
  it("read back what they print", () => {
    for (const [words, fpsNum, fpsDen] of FRAME_RATES) {
      expect(frameRateWords(fpsNum, fpsDen)).toBe(words);
      expect(parseFrameRate(words)).toEqual({ fpsNum, fpsDen });
    }
    expect(frameRateWords(12_500, 1000)).toBe("12.5");
  });
  it("of every preset are known, and its name says what it is", () => {
    for (const p of MODE_PRESETS) expect(frameRateWords(presetMode(p).fpsNum, presetMode(p).fpsDen)).toBe(p.rate);
    expect(new Set(MODE_PRESETS.map((p) => p.name)).size).toBe(MODE_PRESETS.length);
  });
});
