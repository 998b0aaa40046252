import { demoTakes, WALK_PLAN } from "@keep-rolling/demo/walk";
import { WALK_PATHS } from "@keep-rolling/demo/walkPaths";
import { measuresOf, unpackRecord } from "@keep-rolling/core/motion";
import { checkControl, compareMove, matchCopy, rowsOf, signatureOf } from "@keep-rolling/core/walks";
import { describe, expect, it } from "vitest";
import { trimmed } from "../../packages/core/src/motion/record.ts";
import { measureDemoTake } from "./measureDemoTake.ts";

const recordOf = (takeId: string) => unpackRecord(Buffer.from(WALK_PATHS.find((p) => p.takeId === takeId)?.pack ?? "", "base64"));

describe("the demo's measured paths", () => {
  it("are what measuring those takes gives today", () => {
    const takes = demoTakes();
    if (process.env.PROOF === "1") {
      for (const take of takes) expect(recordOf(take.id)).toEqual(unpackRecord(measureDemoTake(take.made).pack));
      return;
    }
    // A pan that is held back, until it has let go: it walks too. What comes later moves no frame before it.
    const take = takes.findLast((t) => t.made.pan !== null && t.made.pan.holdSec > 0.2);
    if (take === undefined) throw new Error("the demo has no such take");
    const known = recordOf(take.id)?.series;
    const again = unpackRecord(measureDemoTake(take.made, 60).pack)?.series;
    expect(again?.by).toHaveLength(59);
    expect(known && trimmed(known, 0, 60)).toEqual(again);
  }, 1_800_000);
  it("tell each corrected copy's own take from its picture", () => {
    const signatures = demoTakes().map((t) => {
      const record = recordOf(t.id);
      return { ...t, signature: record === null ? null : signatureOf(record.series) };
    });
    for (const copy of signatures.filter((t) => t.of !== null)) {
      const parents = signatures.flatMap(({ id, of, moveId, setupId, signature }) =>
        of === null && setupId === WALK_PLAN.controlId && moveId === copy.moveId && signature !== null ? [[id, signature] as const] : [],
      );
      const match = copy.signature === null ? null : matchCopy(copy.signature, parents);
      expect(match?.parent).toBe(copy.of);
      expect(Math.abs(match?.lagSec ?? 9)).toBeLessThan(0.06);
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
        of: t.of,
        startMs: 0,
        endMs: 1,
        bad: null,
        badFactId: null,
        badAtMs: null,
        badLate: false,
        n: 1,
        clips: [],
      };
      return {
        take,
        measures: record === null ? null : measuresOf(record),
        cropFactor: WALK_PATHS.find((p) => p.takeId === t.id)?.crop?.factor ?? null,
        sound: null,
      };
    });
    expect(measured.every((m) => m.measures !== null)).toBe(true);
    const [walk] = WALK_PLAN.moves;
    const rows = rowsOf(WALK_PLAN, walk?.id ?? "", measured);
    const { shake } = compareMove(WALK_PLAN, rows).columns;
    expect(checkControl(rows, "walk", shake)).toEqual({ ok: true, says: "worst" });
    for (const [i, t] of takes.entries()) {
      const factor = measured[i]?.cropFactor;
      if (factor != null) expect(Math.abs(factor / t.made.crop - 1)).toBeLessThan(0.01);
    }
  });
});
