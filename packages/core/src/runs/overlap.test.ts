import { describe, expect, it } from "vitest";
import { foldRun } from "./fold.ts";
import { overlapsAnother } from "./overlap.ts";
import { end, START, start, undo } from "./testing/marks.ts";

describe("a run over another of its body", () => {
  const of = (...marks: Parameters<typeof foldRun>[0]) => ({ id: "r", fold: foldRun(marks) });
  const unitId = START.unit.id;
  const over = (fromSec: number, toSec: number, runs = [of(start(100), end(200))], more = {}) =>
    overlapsAnother(runs, { unitId, fromMs: 1000 * fromSec, toMs: 1000 * toSec, ...more });
  it("is seen from every side, and not where they only touch", () => {
    expect([over(0, 150), over(150, 300), over(120, 130), over(0, 300)]).toEqual([true, true, true, true]);
    expect([over(0, 100), over(200, 300)]).toEqual([false, false]);
  });
  it("is none with a void run, another body or itself; one under way reaches on", () => {
    const s = start(100);
    expect(over(0, 300, [of(s, end(200), undo(s, 100))])).toBe(false);
    expect(over(0, 300, undefined, { unitId: "u2" })).toBe(false);
    expect(over(0, 300, undefined, { but: "r" })).toBe(false);
    expect(over(900, 1000, [of(start(100))])).toBe(true);
  });
});
