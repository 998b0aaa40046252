import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { foldRun } from "../runs/index.ts";
import { mark } from "../runs/testing/marks.ts";
import type { LiveEndsInput } from "./liveEnds.ts";
import { elapsedAhead, liveBand, liveEnds } from "./liveEnds.ts";
import { HOUR, MIN, setup } from "./testing/requests.ts";

const START = setup({ mode: { mbps: 400, clipLimitSec: null } });
const run = (...more: Parameters<typeof mark>[]) => foldRun([mark("start", 0, START), ...more.map((m) => mark(...m))] as never);
const input = (more: Partial<LiveEndsInput> = {}): LiveEndsInput => ({
  batteryPct: [],
  freeGb: [],
  wh: 16,
  watts: 8,
  cardMs: 40 * MIN,
  stopAfterMs: null,
  ...more,
});
const read = (min: number, value: number) => ({ atMs: min * MIN, value });
const ends = (fold: ReturnType<typeof run>, m: LiveEndsInput, nowMin: number) =>
  liveEnds(fold, m, nowMin * MIN).map((e) => [e.kind, e.atElapsedMs / MIN, e.by]);

describe("what will end a run under way", () => {
  it("from the start: battery by earlier watts, the empty card", () => {
    // 16 Wh at 8 W: two hours.
    expect(ends(run(), input(), 10)).toEqual([
      ["card", 40, "start"],
      ["battery", 120, "start"],
    ]);
    expect(ends(run(), input({ watts: null, cardMs: null }), 10)).toEqual([]);
  });
  it("a reading moves them: 75 GB at 400 Mbit/s are 25 min, 40 % of 16 Wh are 48 min", () => {
    expect(ends(run(), input({ freeGb: [read(10, 75)], batteryPct: [read(5, 50), read(12, 40)] }), 15)).toEqual([
      ["card", 35, "reading"],
      ["battery", 60, "reading"],
    ]);
    // The future does not count, nor what was read before a swap.
    expect(ends(run(), input({ freeGb: [read(20, 3)] }), 15)[0]).toEqual(["card", 40, "start"]);
  });
  it("its own drain overrules earlier runs' once it is large enough", () => {
    // 30 points in 30 min: 1 % a minute.
    expect(ends(run(), input({ batteryPct: [read(0, 100), read(30, 70)] }), 31).find(([k]) => k === "battery")).toEqual([
      "battery",
      100,
      "reading",
    ]);
  });
  it("a swap makes it full again, and the gap moves everything", () => {
    const swapped = run(["gap", 1200, { cause: "card swap", power: "on" }], ["resume", 1260, {}]);
    // 20 min recorded, a minute of gap, 40 min more.
    expect(ends(swapped, input({ freeGb: [read(10, 75)] }), 25)[0]).toEqual(["card", 61, "swap"]);
    expect(ends(swapped, input(), 25).find(([k]) => k === "battery")).toEqual(["battery", 121, "start"]);
  });
  it("clip limit from the last new file, the tester's stop as it stands; nothing once it is over", () => {
    const clipped = foldRun([
      mark("start", 0, setup({ mode: { clipLimitSec: 1800 }, condition: { power: "USB" } })),
      mark("split", 600, {}),
    ]);
    expect(ends(clipped, input({ cardMs: null, stopAfterMs: 2 * HOUR }), 15)).toEqual([
      ["clip limit", 40, "limit"],
      ["tester", 120, "limit"],
    ]);
    expect(ends(run(["end", 60, { cause: "thermal shutdown" }]), input(), 15)).toEqual([]);
  });
  it("the heat band lies where recorded time will reach it, behind us where it was passed", () => {
    const paused = run(["gap", 600, { cause: "tester", power: "on" }], ["resume", 900, {}]);
    expect(liveBand(paused, { loMs: 20 * MIN, midMs: 25 * MIN, hiMs: null }, 30 * MIN)).toEqual({
      loElapsedMs: 25 * MIN,
      midElapsedMs: 30 * MIN,
      hiElapsedMs: null,
    });
    expect(liveBand(run(["end", 60, { cause: "other" }]), { loMs: 1, midMs: 1, hiMs: 1 }, MIN)).toBeNull();
  });
  it("while it rolls, what lies ahead stays where it is as time goes on; in a gap it moves with the clock", () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 300 }),
        fc.integer({ min: 0, max: 60 }),
        fc.integer({ min: 400, max: 900 }),
        (nowMin, moreMin, aheadMin) => {
          const rolling = run();
          expect(elapsedAhead(rolling, aheadMin * MIN, nowMin * MIN)).toBe(elapsedAhead(rolling, aheadMin * MIN, (nowMin + moreMin) * MIN));
          const gap = run(["gap", 30, { cause: "tester", power: "on" }]);
          const later = elapsedAhead(gap, aheadMin * MIN, (nowMin + moreMin) * MIN) - elapsedAhead(gap, aheadMin * MIN, nowMin * MIN);
          expect(later).toBe(moreMin * MIN);
        },
      ),
    );
  });
});
