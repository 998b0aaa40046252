// One body, one answer: what the bench, the rest, the planner and the statistics say of its heat is the same number.

import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { CandidateRun } from "../cells/index.ts";
import { foldRun } from "../runs/index.ts";
import { end, gap, resume, start, START } from "../runs/testing/marks.ts";
import { bodyHeat, protocolTauMin, startHeats } from "./bodyHeat.ts";
import { DEFAULT_TAU_MIN, heatShare } from "./ledger.ts";

const HOUR = 3600;
const schools = (tauMin: number) =>
  ({ ...START.protocol, schools: { load: "not said", coolDown: { to: "ambient" }, tauMin, stopAfterMin: null, swaps: "none" } }) as const;

/** A run every two hours: minutes recorded, whether heat ended it, whether it had a pause. */
const days = fc.array(fc.record({ min: fc.integer({ min: 1, max: 90 }), heat: fc.boolean(), pause: fc.boolean() }), {
  minLength: 1,
  maxLength: 8,
});
const runsOf = (day: { min: number; heat: boolean; pause: boolean }[]): CandidateRun[] =>
  day.map(({ min, heat, pause }, i) => {
    const at = i * 2 * HOUR;
    const pauses = pause ? [gap(at + 20, "on"), resume(at + 40)] : [];
    return {
      runId: `r${i}`,
      struck: null,
      fold: foldRun([start(at), ...pauses, end(at + min * 60, heat ? "thermal shutdown" : "tester stopped")]),
    };
  });

describe("the heat of a body", () => {
  it("is at a run's start what the statistics take as its start heat", () =>
    fc.assert(
      fc.property(days, (day) => {
        const runs = runsOf(day);
        const nextMs = day.length * 2 * HOUR * 1000;
        const next: CandidateRun = { runId: "next", struck: null, fold: foldRun([start(nextMs / 1000)]) };
        const body = bodyHeat(runs, nextMs);
        // They look six time constants back: a body at its hottest just then leaves exactly this, up to rounding.
        const apart = Math.abs((startHeats([...runs, next], body.tauMs).get("next") ?? 1) - body.share);
        expect(apart).toBeLessThanOrEqual(Math.exp(-6) * (1 + 1e-9));
        expect(heatShare(body.intervals, body.tauMs, nextMs)).toBeCloseTo(body.share, 12);
      }),
    ));
  it("falls with rest, and is cold when it says it will be", () => {
    const runs = runsOf([{ min: 40, heat: true, pause: false }]);
    const body = bodyHeat(runs, 41 * 60_000);
    expect(body.share).toBeGreaterThan(0.9);
    expect(bodyHeat(runs, 41 * 60_000 + body.coldInMs).share).toBeLessThan(0.1);
    expect(body.lastPoweredMs).toBe(40 * 60_000);
    expect(bodyHeat([], 0)).toMatchObject({ share: 0, coldInMs: 0, lastPoweredMs: null });
  });
  it("works with the longest constant said, else with the default, and says which", () => {
    const slow = { runId: "s", struck: null, fold: foldRun([start(0, { protocol: schools(55) }), end(60)]) };
    expect(protocolTauMin([])).toBe(DEFAULT_TAU_MIN);
    expect(protocolTauMin([slow])).toBe(55);
    expect(protocolTauMin([slow], [70])).toBe(70);
    expect(bodyHeat([slow], HOUR * 1000).constant).toMatchObject({ by: "protocol", tauMin: 55 });
  });
});
