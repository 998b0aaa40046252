import type { CandidateRun } from "@keep-rolling/core/cells";
import type { UnitQuestion } from "@keep-rolling/core/reading";
import { readUnit } from "@keep-rolling/core/reading";
import { DEFAULT_LEVELS } from "@keep-rolling/core/cells";
import { foldRun } from "@keep-rolling/core/runs";
import { demoRuns, PLOVER, TERN } from "@keep-rolling/demo";
import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { bare, inParts, lean, RUNS_A_PART } from "./runParts.ts";

const candidates: CandidateRun[] = demoRuns().map(({ runId, marks }) => ({ runId, fold: foldRun(marks), struck: null }));
const of = (unitId: string): UnitQuestion => ({
  candidates: candidates.filter((c) => c.fold.setup?.unit.id === unitId),
  endpoint: "shutdown",
  levels: DEFAULT_LEVELS,
  tauMin: 30,
  figures: [],
  cardSec: {},
  zone: "UTC",
});

describe("runs on their way to the worker", () => {
  it.each([
    ["Plover B", PLOVER],
    ["Tern A", TERN],
  ])("give the same reading of %s as the whole folds", (_name, unitId) => {
    const whole = of(unitId);
    // As the worker gets it: lean, in parts, and copied.
    const sent = inParts(whole.candidates, 7).flatMap((part) => structuredClone(part.map(lean)));
    const read = readUnit({ ...bare(whole), candidates: sent });
    expect(whole.candidates.length).toBeGreaterThan(7);
    expect(read).toEqual(readUnit(whole));
    expect(read.cells.some((c) => c.levelling.length > 0)).toBe(true);
  });
  it("leave most of what a fold holds behind", () => {
    const bytes = (all: readonly CandidateRun[]): number => JSON.stringify(all).length;
    expect(bytes(candidates.map(lean))).toBeLessThan(0.6 * bytes(candidates));
  });
  it("keep the question but not its runs", () => {
    expect(bare(of(PLOVER))).toEqual({ endpoint: "shutdown", levels: DEFAULT_LEVELS, tauMin: 30, figures: [], cardSec: {}, zone: "UTC" });
  });
  it("are all sent, in order, none twice", () => {
    fc.assert(
      fc.property(fc.array(fc.integer()), fc.integer({ min: 1, max: 9 }), (all, size) => {
        const parts = inParts(all, size);
        expect(parts.flat()).toEqual(all);
        expect(parts.every((p) => p.length >= 1 && p.length <= size)).toBe(true);
      }),
    );
    expect(() => inParts([1], 0)).toThrow("size must be at least 1, got 0");
    expect(RUNS_A_PART).toBeGreaterThan(1);
  });
});
