import { describe, expect, it } from "vitest";
import { echoDuration, formatHms, formatSpan, formatTick, parseDuration } from "./duration.ts";

describe("duration words", () => {
  it("truncates, so a printed time is never longer than the number behind it", () => {
    expect(formatHms(2_471_999)).toBe("0:41:11");
    expect(formatHms(0)).toBe("0:00:00");
    expect(formatHms(-500)).toBe("0:00:00");
    expect(formatHms(-61_000)).toBe("-0:01:01");
    expect(formatHms(36_000_000)).toBe("10:00:00");
  });
  it("writes ticks as h:mm and spans in words", () => {
    expect([formatTick(0), formatTick(600_000), formatTick(5_400_000)]).toEqual(["0", "0:10", "1:30"]);
    expect([formatSpan(59_999), formatSpan(91_000), formatSpan(4_020_000)]).toEqual(["59 s", "1 min 31 s", "1 h 07 min"]);
  });
  it("echoes how a two-part time was read", () => {
    expect(parseDuration("1:07")).toEqual({ ok: true, ms: 4_020_000, echo: "1 h 07 min" });
    expect(parseDuration("1:07", "m:ss")).toEqual({ ok: true, ms: 67_000, echo: "1 min 7 s" });
    expect(parseDuration("0:41:10")).toEqual({ ok: true, ms: 2_470_000, echo: "41 min 10 s" });
    expect(parseDuration("1 h 7 min")).toMatchObject({ ok: true, ms: 4_020_000 });
    expect(parseDuration("90 s")).toMatchObject({ ok: true, ms: 90_000 });
    // As people write them in notes: all the same time.
    for (const text of ["67 min", "1h07m", "1h 7m", "1:07", "67m", "1 H 07 MIN", "67", "1h07", "67 minutes", "1 hour 7 mins", "67:00"]) {
      expect(parseDuration(text)).toMatchObject({ ok: true, ms: 4_020_000, echo: "1 h 07 min" });
    }
  });
  it("reads what stands in notebooks", () => {
    const read = (text: string): string => {
      const reading = parseDuration(text);
      return reading.ok ? reading.echo : reading.reason;
    };
    expect(["70", "70 min", "2h05", "1.5 h", "1,5 h", "48 minutes", "1:07:30", "29:59", "41m07", "90 sec"].map(read)).toEqual([
      "1 h 10 min",
      "1 h 10 min",
      "2 h 05 min",
      "1 h 30 min",
      "1 h 30 min",
      "48 min",
      "1 h 07 min 30 s",
      "29 min 59 s",
      "41 min 7 s",
      "1 min 30 s",
    ]);
  });
  it("refuses what is not a time, with a closed reason", () => {
    expect(parseDuration(" ")).toEqual({ ok: false, reason: "empty" });
    for (const bad of ["1:60", "1:7", "abc", "-1:00", "1:00:60", "h", "2h99", "1:2:3", "5 x", "1.2.3"]) {
      expect(parseDuration(bad)).toEqual({ ok: false, reason: "not-a-time" });
    }
    expect(parseDuration("120:00:00")).toEqual({ ok: false, reason: "out-of-range" });
  });
  it("reads back what it writes", () => {
    for (const ms of [0, 1000, 59_000, 60_000, 3_599_000, 3_600_000, 4_271_000]) {
      expect(parseDuration(formatHms(ms))).toEqual({ ok: true, ms, echo: echoDuration(ms) });
    }
  });
  it("names the parameter and its value when a number is broken", () => {
    expect(() => formatHms(Number.NaN)).toThrow(/ms must be a finite number, got NaN/);
  });
});
