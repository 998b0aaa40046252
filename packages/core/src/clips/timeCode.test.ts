// Drop frame against the rule of SMPTE ST 12-1 (from memory): no ;00 and ;01 but at each tenth minute; 17,982 frames in ten minutes.

import { describe, expect, it } from "vitest";
import { formatTimeCode, framesInDay, timeCodeMs } from "./timeCode.ts";

const drop = (frame: number) => ({ frame, fpsNum: 30_000, fpsDen: 1001, dropFrame: true });

describe("time code", () => {
  it("leaves out two numbers at each minute but the tenth", () => {
    expect([1799, 1800, 3597, 3598, 17_981, 17_982].map((f) => formatTimeCode(drop(f)))).toEqual([
      "00:00:59;29",
      "00:01:00;02",
      "00:01:59;29",
      "00:02:00;02",
      "00:09:59;29",
      "00:10:00;00",
    ]);
    expect(formatTimeCode({ frame: 3600, fpsNum: 60_000, fpsDen: 1001, dropFrame: true })).toBe("00:01:00;04");
  });
  it("agrees with counting numbers one by one", () => {
    let [frame, mismatches] = [0, 0];
    for (let sec = 0; sec < 3600; sec++)
      for (let f = 0; f < 30; f++) {
        if (sec % 60 === 0 && f < 2 && sec % 600 !== 0) continue;
        const written = `00:${String(Math.floor(sec / 60)).padStart(2, "0")}:${String(sec % 60).padStart(2, "0")};${String(f).padStart(2, "0")}`;
        if (formatTimeCode(drop(frame)) !== written) mismatches++;
        frame++;
      }
    expect(mismatches).toBe(0);
    expect(frame).toBe(6 * 17_982);
    expect(framesInDay(drop(0))).toBe(24 * frame);
  });
  it("is real time by the exact rate", () => {
    expect(timeCodeMs(drop(17_982))).toBeCloseTo(599_999.4, 6);
    expect(timeCodeMs({ frame: 50, fpsNum: 50, fpsDen: 1, dropFrame: false })).toBe(1000);
    expect(formatTimeCode({ frame: 25 * 33_329 + 12, fpsNum: 25, fpsDen: 1, dropFrame: false })).toBe("09:15:29:12");
    expect(() => timeCodeMs({ frame: 0, fpsNum: 0, fpsDen: 1, dropFrame: false })).toThrow("the rate must be positive, got 0/1");
  });
});
