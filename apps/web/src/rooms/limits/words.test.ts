// A recorded limit in words: what stands behind it decides what it may say.

import type { Limit } from "@keep-rolling/contract/limits";
import { describe, expect, it } from "vitest";
import { becauseWords, basisWords, limitSentence, methodTitle } from "./words.ts";

const limit = (more: Partial<Limit>): Limit =>
  ({ valueMs: 1_847_000, share: 0.9, confidence: 0.9, events: 5, endpoint: "shutdown", ...more }) as Limit;
type LadderBasis = Extract<NonNullable<Limit["basis"]>, { rung: unknown }>;
const basis = (more: Partial<LadderBasis>): LadderBasis => ({
  rung: "own",
  by: "conditional",
  sd: 0.0912,
  runs: 6,
  shutdowns: 5,
  cells: 1,
  runIds: [],
  ...more,
});

describe("a limit in one sentence", () => {
  it("says the share and how sure, shares rounded down", () => {
    expect(limitSentence(limit({ share: 0.6309 }))).toBe("at least 0:30:47 in 63 % of runs, 90 % sure");
    expect(limitSentence(limit({ basis: basis({}) }))).toBe("at least 0:30:47 in 90 % of runs, 90 % sure");
  });
  it("says when nothing reached the end", () => {
    expect(limitSentence(limit({ events: 0 }))).toBe(
      "at least 0:30:47 in 90 % of runs, 90 % sure; none is known to have reached the heat shutdown",
    );
    expect(limitSentence(limit({ events: 0, endpoint: "batteryEmpty" }))).toMatch(/none is known to have reached the empty battery$/);
  });
  it("never says how sure where the scatter is assumed", () => {
    const words = limitSentence(limit({ basis: basis({ rung: "assumed", by: "assumed", sd: 0.1 }) }));
    expect(words).toBe("at least 0:30:47 in 90 % of runs, if runs scatter by 10 % (assumed, no confidence claimed)");
    expect(words).not.toContain("sure");
  });
});

describe("why a run counts", () => {
  it("is said in the words of the interface, whatever the record calls it", () => {
    expect(["thermal shutdown", "unknown", "struck out", "card full"].map(becauseWords)).toEqual([
      "heat shutdown",
      "cause not said",
      "left out by hand",
      "card full",
    ]);
  });
});

describe("what it stands on", () => {
  it("names method, version, scatter and runs", () => {
    expect(basisWords(basis({}), 1)).toBe(
      "Weibull, conditional (Lawless 1982), version 1; 9.1 % log scatter, from 5 ends in 6 runs of 1 mode and condition",
    );
    expect(basisWords(basis({ rung: "pooled", by: "pivot", cells: 4 }), 1)).toMatch(
      /^lognormal, bootstrap pivot, .* runs of 4 modes and conditions$/,
    );
    expect(basisWords(basis({ rung: "pooled", by: "exact", cells: 4 }), 2)).toMatch(/^lognormal, noncentral t, version 2/);
    expect(basisWords(basis({ rung: "assumed", by: "assumed", sd: 0.1 }), 1)).toMatch(
      /assumed, not measured, version 1; 10\.0 % log scatter assumed/,
    );
  });
  it("keeps a method it does not know as it was written", () => {
    expect(basisWords(basis({ by: "a later one" }), 9)).toMatch(/^a later one, version 9/);
  });
  it("has a title for each rung of old", () =>
    expect(new Set((["own", "pooled", "assumed"] as const).map((rung) => methodTitle(basis({ rung })))).size).toBe(3));
  it("of today names its days and the pool", () => {
    const today = {
      scope: "tested days" as const,
      days: ["2026-06-11"],
      scatter: 0.0784,
      runs: 9,
      shutdowns: 8,
      cells: 2,
      runIds: [],
      evidence: [],
    };
    expect(limitSentence(limit({ basis: today }))).toBe("at least 0:30:47 in 90 % of runs, on days like 11 June 2026; 90 % sure");
    expect(basisWords(today, 1)).toBe(
      "one estimate, the lowest of five laws, version 1; scatter of these runs 7.8 %, from 8 ends in 9 runs of 2 modes and conditions, on days like 11 June 2026",
    );
    expect(methodTitle(today)).toBe("dependable limit");
  });
});
