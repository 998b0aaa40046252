import { foldRun, observe, summarise } from "@keep-rolling/core/runs";
import { describe, expect, it } from "vitest";
import { mark } from "../../testing/marks.ts";
import type { LateText } from "./late.ts";
import { echoOfLate, readLate } from "./late.ts";

const NOW = Date.UTC(2031, 5, 15, 12);
const text = (more: Partial<LateText> = {}): LateText => ({
  started: "2031-06-15T09:00:00",
  lasted: "67 min",
  cause: "thermal shutdown",
  foundOff: false,
  lastSeen: "",
  ...more,
});
const errorsOf = (t: LateText): string[] => {
  const read = readLate(t, NOW, true);
  return read.ok ? [] : read.errors.map((e) => `${e.field}: ${e.message}`);
};

describe("a run entered late", () => {
  it("is read from times as people write them, each echoed before it is stored", () => {
    for (const lasted of ["67 min", "1h07m", "1:07", "1:07:00"]) {
      expect(echoOfLate(lasted)).toBe("reads as 1 h 07 min");
      expect(readLate(text({ lasted }), NOW, true)).toEqual({
        ok: true,
        times: { startMs: NOW - 3 * 3_600_000, endMs: NOW - 3 * 3_600_000 + 4_020_000, lastSeenMs: null },
      });
    }
    expect(echoOfLate("an hour")).toMatch(/^Write it as/);
    expect(echoOfLate(" ")).toBeUndefined();
  });
  it("found off is an interval; bounds use the time it was last seen", () => {
    const read = readLate(text({ foundOff: true, lastSeen: "0:50", lasted: "1:20" }), NOW, true);
    if (!read.ok || read.times.lastSeenMs === null) throw new Error("not read");
    const { startMs, endMs, lastSeenMs } = read.times;
    const setup = { protocol: { continuity: { poweredOff: "strict", bridgeBodyOnMs: 20_000 } } };
    const fold = foldRun([
      mark("start", startMs / 1000, setup),
      mark("end", endMs / 1000, { cause: "battery empty", foundOff: { lastSeenMs } }),
    ]);
    expect(summarise(fold, NOW).recordedMs).toEqual({ lo: 3_000_000, hi: 4_800_000 });
    expect(observe(fold, { poweredOff: "strict", bridgeBodyOnMs: 20_000 }, "batteryEmpty")).toMatchObject({
      ok: true,
      event: 1,
      timeMs: { lo: 3_000_000, hi: 4_800_000 },
    });
  });
  it("says what cannot be", () => {
    expect(errorsOf(text({ started: "", lasted: "" }))).toEqual(["started: Say when it started.", "lasted: Say how long."]);
    expect(errorsOf(text({ lasted: "soon" }))).toEqual(["lasted: Write it as 67 min, 1h07m or 1:07 (hours and minutes)."]);
    expect(errorsOf(text({ lasted: "0 min" }))).toEqual(["lasted: Longer than nothing; a refusal is recorded from the run before it."]);
    expect(errorsOf(text({ lasted: "3h1m" }))).toEqual(["lasted: It would end in the future."]);
    expect(errorsOf(text({ foundOff: true, lastSeen: "1:10" }))).toEqual(["lastSeen: It was seen rolling after it was found off."]);
  });
});
