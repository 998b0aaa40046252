import { demoTakes, WALK_PLAN } from "@keep-rolling/demo/walk";
import { WALK_PATHS } from "@keep-rolling/demo/walkPaths";
import { measuresOf, unpackRecord } from "@keep-rolling/core/motion";
import { checkControl, rowsOf } from "@keep-rolling/core/walks";
import { describe, expect, it } from "vitest";
import { measureDemoTake } from "./measureDemoTake.ts";

const recordOf = (takeId: string) => unpackRecord(Buffer.from(WALK_PATHS.find((p) => p.takeId === takeId)?.pack ?? "", "base64"));

describe("the demo's measured paths", () => {
  it("are what measuring those takes gives today", () => {
    // Two of them: an ordinary walk, and a pan that is held back.
    const takes = demoTakes();
    const some = [takes[0], takes.findLast((t) => t.made.pan !== null && t.made.pan.holdSec > 0.2)];
    for (const take of some) {
      if (take === undefined) throw new Error("the demo has no such take");
      const again = unpackRecord(measureDemoTake(take.made).pack);
      expect(recordOf(take.id)).toEqual(again);
    }
  });
  it("read like a test that went well: the control shakiest, crops as they were made", () => {
    const takes = demoTakes();
    const measured = takes.map((t) => {
      const record = recordOf(t.id);
      const take = {
        id: t.id,
        setupId: t.setupId,
        moveId: t.moveId,
        unitId: null,
        timed: true,
        startMs: 0,
        endMs: 1,
        bad: null,
        n: 1,
        clips: [],
      };
      return {
        take,
        measures: record === null ? null : measuresOf(record),
        cropFactor: WALK_PATHS.find((p) => p.takeId === t.id)?.crop?.factor ?? null,
      };
    });
    expect(measured.every((m) => m.measures !== null)).toBe(true);
    const [walk] = WALK_PLAN.moves;
    const rows = rowsOf(WALK_PLAN, walk?.id ?? "", measured);
    expect(checkControl(rows, "walk")).toEqual({ ok: true, says: "worst" });
    for (const [i, t] of takes.entries()) {
      const factor = measured[i]?.cropFactor;
      if (factor != null) expect(Math.abs(factor / t.made.crop - 1)).toBeLessThan(0.01);
    }
  });
});
