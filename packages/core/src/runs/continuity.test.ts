import { describe, expect, it } from "vitest";
import { gapEffect } from "./continuity.ts";
import { foldRun } from "./fold.ts";
import { observe } from "./observe.ts";
import { end, gap, resume, start } from "./testing/marks.ts";

describe("what a gap does to the record", () => {
  const strict = { poweredOff: "strict" as const, bridgeBodyOnMs: 20_000 };
  const counted = (power: "on" | "off", sec: number, rule: Parameters<typeof observe>[1]): number => {
    const seen = observe(foldRun([start(0), gap(600, power), resume(600 + sec), end(1200)]), rule, "shutdown");
    return seen.ok ? seen.event : -1;
  };
  it("is said as the estimators will read it", () => {
    expect(gapEffect(strict, "off")).toContain("the record ends here");
    expect(counted("off", 5, strict)).toBe(0);
    expect(gapEffect(strict, "on")).toContain("up to 20 s of such gaps in all are bridged");
    expect([counted("on", 20, strict), counted("on", 21, strict)]).toEqual([1, 0]);
    const lenient = { poweredOff: "lenient" as const, bridgeBodyOnMs: 86_400_000 };
    expect(gapEffect(lenient, "off")).toContain("bridged");
    expect(gapEffect(lenient, "on")).toContain("however long");
    expect([counted("off", 300, lenient), counted("on", 300, lenient)]).toEqual([1, 1]);
  });
});
