import { describe, expect, it } from "vitest";
import type { TakeRead } from "../../../workers/jobs/readTakes.ts";
import { fields, laid, pathBefore, spanOf } from "./lay.ts";

const read = (inFrame: number, outFrame: number, footfallsSec: number[], frames = 100): TakeRead =>
  ({
    inFrame,
    outFrame,
    footfallsSec,
    whole: { timesSec: Array.from({ length: frames }, (_, i) => i / 25), x: Array.from({ length: frames }, (_, i) => i), y: [] },
  }) as unknown as TakeRead;

describe("takes laid on each other", () => {
  const [a, b] = [read(10, 90, [0.6, 1.1]), read(0, 70, [0.2])];
  const times = Array.from({ length: 100 }, (_, i) => i / 25);
  it("meet at their first footfalls, moved by hand, over the time both are counted", () => {
    const by = laid([a, b], "footfall", [0, 0.04]);
    expect(by.map((l) => Number(l.zeroSec.toFixed(9)))).toEqual([0.6, 0.24]);
    const span = spanOf([a, b], by, times);
    // From a's in (0.4 - 0.6) to b's last counted frame (69/25 - 0.24).
    expect(span?.fromSec).toBeCloseTo(-0.2, 9);
    expect(span?.toSec).toBeCloseTo(2.52, 9);
    expect(span?.timesSec.at(-1)).toBeLessThanOrEqual(2.52 + 1e-6);
  });
  it("meet by sound where the second clip begins later, whatever their feet do", () => {
    expect(laid([a, b], "sound", [], 0.25).map((l) => [l.by, Number(l.zeroSec.toFixed(9))])).toEqual([
      ["sound", 0.4],
      ["sound", 0.15],
    ]);
    // Without a lag they fall back to their feet, all of them.
    expect(laid([a, b], "sound", [], null).map((l) => l.by)).toEqual(["footfall", "footfall"]);
  });
  it("meet at their beginnings when one has no footfall, all of them", () => {
    expect(laid([a, read(5, 50, [])], "footfall", []).map((l) => [l.by, l.zeroSec])).toEqual([
      ["start", 0.4],
      ["start", 0.2],
    ]);
  });
  it("have no span when they share no moment", () => {
    expect(
      spanOf(
        [a, b],
        [
          { by: "start", zeroSec: 0 },
          { by: "start", zeroSec: 60 },
        ],
        times,
      ),
    ).toBeNull();
  });
  it("are cut to the narrowest field, and not at all where one is not known", () => {
    const [wide, narrow] = fields([1, 1.25], true);
    expect(wide?.shown).toBeCloseTo(0.8, 9);
    expect(wide?.note).toBe("cut to 80 % of its width");
    expect(narrow).toEqual({ shown: 1, note: "the narrowest field: nothing cut" });
    expect(fields([1, null], true).every((f) => f.shown === 1 && f.note.includes("not known"))).toBe(true);
    expect(fields([1, 1.25], false).map((f) => f.shown)).toEqual([1, 1]);
  });
  it("show the way of the last second and a half and nothing that is to come", () => {
    const way = pathBefore(a, 2);
    expect(way.at(-1)?.x).toBe(50);
    expect(way).toHaveLength(38);
    expect(pathBefore(a, 0)).toHaveLength(1);
  });
});
