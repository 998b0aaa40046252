import fc from "fast-check";
import { describe, expect, it } from "vitest";
import type { CellStatement } from "../cells/index.ts";
import { stateCell } from "../cells/index.ts";
import { foldRun } from "../runs/index.ts";
import { end, start } from "../runs/testing/marks.ts";
import type { FrozenLimit } from "./recordedLimit.ts";
import { retestReasons } from "./recordedLimit.ts";

const cellOf = (seconds: readonly number[]) => seconds.map((s, i) => ({ runId: `r${i}`, fold: foldRun([start(0), end(s)]), struck: null }));
const cell = { unitId: "u", firmware: "1.0", recordedAtMs: 5 };
const recorded = (s: CellStatement, evidenceIds: readonly string[]): FrozenLimit => ({
  ...cell,
  evidenceIds,
  endpoint: s.endpoint,
  valueMs: s.valueMs,
  share: s.share,
  confidence: s.levels.confidence,
});

describe("a recorded statement", () => {
  const lengths = fc.array(fc.integer({ min: 60, max: 20_000 }), { minLength: 1, maxLength: 30 });
  it("promises no more than the runs carry, and stands against its own evidence", () => {
    fc.assert(
      fc.property(lengths, fc.constantFrom(0.5, 0.8, 0.9, 0.95), (seconds, confidence) => {
        const { statement, runs } = stateCell(cellOf(seconds), "shutdown", { share: 0.9, confidence });
        if (!statement.ok) throw new Error("a cell with runs has a statement");
        const limit = recorded(
          statement,
          runs.counted.map((r) => r.runId),
        );
        expect(limit.valueMs).toBeLessThanOrEqual(1000 * Math.min(...seconds));
        expect(limit.share).toBeLessThanOrEqual((1 - confidence) ** (1 / seconds.length) + 1e-9);
        const today = runs.counted.map((r) => ({ runId: r.runId, timeLoMs: r.timeMs.lo, startedMs: 0, firmware: "1.0" }));
        expect(retestReasons(limit, { unitFirmware: "1.0", counted: today })).toEqual([]);
      }),
    );
  });
  it("asks for a re-test exactly when a run outside the evidence was shorter", () => {
    fc.assert(
      fc.property(lengths, fc.integer({ min: 1, max: 30_000 }), (seconds, more) => {
        const { statement, runs } = stateCell(cellOf(seconds), "shutdown");
        if (!statement.ok) throw new Error("a cell with runs has a statement");
        const limit = recorded(
          statement,
          runs.counted.map((r) => r.runId),
        );
        const today = [
          ...runs.counted.map((r) => ({ runId: r.runId, timeLoMs: r.timeMs.lo, startedMs: 0, firmware: "1.0" })),
          { runId: "new", timeLoMs: more * 1000, startedMs: 9, firmware: "1.0" },
        ];
        const codes = retestReasons(limit, { unitFirmware: "1.0", counted: today }).map((r) => r.code);
        expect(codes).toEqual(more * 1000 < limit.valueMs ? ["shorter-run"] : []);
      }),
    );
  });
  it("more runs of at least the same length never lower the share", () => {
    fc.assert(
      fc.property(lengths, (seconds) => {
        const share = (s: readonly number[]): number => {
          const { statement } = stateCell(cellOf(s), "shutdown");
          return statement.ok ? statement.share : 0;
        };
        expect(share([...seconds, 30_000])).toBeGreaterThanOrEqual(share(seconds));
      }),
    );
  });
});
