import { describe, expect, it } from "vitest";
import { daysOfRuns } from "./days.ts";

const at = (text: string): number => Date.parse(text);
const days = (zone: string, ...starts: string[]): string[] => [
  ...daysOfRuns(
    starts.map((s, i) => ({ runId: String(i), startMs: at(s) })),
    zone,
  ).values(),
];

describe("the day of a run", () => {
  it("is the date where it was made", () => {
    expect(days("UTC", "2026-06-11T23:30:00Z")).toEqual(["2026-06-11"]);
    expect(days("Asia/Tokyo", "2026-06-11T23:30:00Z")).toEqual(["2026-06-12"]);
  });
  it("is one for a sitting past midnight, and another after the night", () => {
    expect(days("UTC", "2026-06-11T21:00:00Z", "2026-06-12T00:30:00Z", "2026-06-12T02:00:00Z", "2026-06-12T09:00:00Z")).toEqual([
      "2026-06-11",
      "2026-06-11",
      "2026-06-11",
      "2026-06-12",
    ]);
  });
  it("is one date however long the break at noon", () => {
    expect(days("UTC", "2026-06-11T07:00:00Z", "2026-06-11T20:00:00Z")).toEqual(["2026-06-11", "2026-06-11"]);
  });
  it("still changes under a rig that never stops", () => {
    const starts = Array.from({ length: 24 }, (_, i) => new Date(at("2026-06-11T08:00:00Z") + i * 2 * 3_600_000).toISOString());
    expect(new Set(days("UTC", ...starts)).size).toBe(3);
  });
  it("refuses a zone nobody knows", () => expect(() => days("Nowhere/At all", "2026-06-11T07:00:00Z")).toThrow(RangeError));
});
