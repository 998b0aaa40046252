import { describe, expect, it } from "vitest";
import checkCases from "../../fixtures/check-cases.json" with { type: "json" };
import { randomFrom } from "../statistics/index.ts";
import { foldRun } from "../runs/index.ts";
import type { Mark } from "../runs/index.ts";
import { end, gap, mark, resume, start, START, warning } from "../runs/testing/marks.ts";
import {
  confidenceOfOrder,
  confidenceOfShortest,
  recordsNeeded,
  recordsNeededForOrder,
  shareOutlastingShortest,
} from "../statistics/distributionFree.ts";
import type { CandidateRun } from "./eligibility.ts";
import { stateCell, withLeftOut } from "./statement.ts";
import { answerSentence, evidenceWords, neededWords, runsOfTen, statementSentence } from "./wording.ts";

interface Case {
  id: string;
  family: string;
  inputs: Record<string, number | number[]>;
  expected: Record<string, unknown>;
}
const cases = (checkCases.cases as unknown as Case[]).filter((c) => c.family === "tolerance-nonparam");

describe("Wilks' tolerance limits (Ann. Math. Statist. 12, 1941), check cases computed with R 4.2.2 pbinom", () => {
  it.each(cases.filter((c) => "order" in c.inputs).map((c) => [c.id, c] as const))("%s", (_id, c) => {
    const { coverage, confidence, order } = c.inputs as Record<string, number>;
    const n = recordsNeededForOrder(coverage ?? 0, confidence ?? 0, order ?? 0);
    expect(n).toBe(c.expected.n);
    expect(confidenceOfOrder(n, coverage ?? 0, order ?? 0)).toBeCloseTo(c.expected.achieved_confidence as number, 9);
  });
  it.each(cases.filter((c) => "n" in c.inputs).map((c) => [c.id, c] as const))("%s", (_id, c) => {
    const { n, coverage, confidence } = c.inputs as Record<string, number>;
    expect(confidenceOfShortest(n ?? 0, coverage ?? 0)).toBeCloseTo(c.expected.confidence_of_minimum as number, 9);
    expect(shareOutlastingShortest(n ?? 0, confidence ?? 0)).toBeCloseTo(c.expected.coverage_of_minimum_at_conf as number, 9);
    expect(recordsNeeded(coverage ?? 0, confidence ?? 0)).toBe(c.expected.n_needed_for_minimum);
  });
  it("takes the shortest of all records, censored ones too", () => {
    const c = cases.find((x) => x.id === "nonparam-x-censored-min");
    const times = c?.inputs.time as number[];
    const events = c?.inputs.event as number[];
    const runs = times.map((t, i) => run(`r${i}`, start(0), end(t * 60, events[i] === 1 ? "thermal shutdown" : "card full")));
    const { statement } = stateCell(runs, "shutdown", { share: 0.6, confidence: 0.95 });
    expect(statement).toMatchObject({ ok: true, n: 6, valueMs: 18 * 60_000, shortestIsCensored: true });
    expect(statement.ok && statement.confidenceAtShare).toBe(Math.floor((c?.expected.confidence_of_minimum as number) * 100) / 100);
  });
});

const run = (runId: string, ...marks: Mark[]): CandidateRun => ({ runId, fold: foldRun(marks), struck: null });
const cold = (runId: string, sec: number, cause: Parameters<typeof end>[1] = "thermal shutdown"): CandidateRun =>
  run(runId, start(0), end(sec, cause));

describe("the statement of a cell", () => {
  it("says what five runs support", () => {
    const { statement } = stateCell(
      [2470, 2600, 2700, 2800, 2900].map((s, i) => cold(`r${i}`, s)),
      "shutdown",
    );
    if (!statement.ok) throw new Error("expected a statement");
    expect(statementSentence(statement)).toBe("5 runs, the shortest 0:41:10: at least 63 % of runs last longer, 90 % sure");
    expect(answerSentence(statement)).toBe("at least 0:41:10 in 6 of 10 runs");
    expect(neededWords(statement)).toContain("22 runs are needed");
    expect(neededWords(statement)).toContain("17 more");
    expect(statement).toMatchObject({ typicalMs: 2_700_000, longestMs: 2_900_000, confidenceAtShare: 0.4 });
  });
  it("gives no typical time and no upper end from censored runs", () => {
    const { statement } = stateCell(
      [cold("a", 6720, "battery empty"), cold("b", 7000, "card full"), cold("c", 7100, "card full")],
      "shutdown",
    );
    expect(answerSentence(statement)).toBe("at least 1:52:00; nothing ended by heat");
    expect(statement).toMatchObject({ events: 0, typicalMs: null, longestMs: null });
    const mixed = stateCell([cold("a", 100), cold("b", 200, "card full"), cold("c", 300)], "shutdown").statement;
    expect(mixed).toMatchObject({ typicalMs: null, longestMs: null });
    expect(mixed.ok && evidenceWords(mixed)).toBe('3 cold runs, 2 ended by heat, 1 only "at least"');
  });
  it("names every exclusion and shows its effect", () => {
    const warm = run("warm", start(0, { startState: { state: "warm", by: "gauge" } }), end(1200));
    const hot = run("hot", start(0, { ambient: { valueC: 27, plusMinusC: 0.5, basis: "measured" } }), end(1300));
    const refused = run("refused", start(0), end(0));
    const unsure = run("unsure", start(0, { startState: { state: "unknown", by: "not known" } }), end(1500));
    const again = run("again", start(0, { runKind: "recovery" }), end(900));
    const all = [
      cold("a", 2000),
      cold("b", 2100),
      warm,
      hot,
      refused,
      unsure,
      again,
      { ...cold("c", 100), struck: "door open" },
      run("live", start(0)),
    ];
    const { statement, runs } = stateCell(all, "shutdown");
    expect(statement).toMatchObject({ n: 2, valueMs: 2_000_000 });
    expect(Object.fromEntries(runs.leftOut.map((r) => [r.runId, r.because]))).toEqual({
      warm: "warm start",
      hot: "ambient outside the condition",
      refused: "refused to record",
      unsure: "start state not known",
      again: "recovery or fallback run",
      c: "struck out",
      live: "not ended",
    });
    expect(withLeftOut(runs, "warm", "shutdown", { share: 0.9, confidence: 0.9 })).toMatchObject({ n: 3, valueMs: 1_200_000 });
    expect(withLeftOut(runs, "refused", "shutdown", { share: 0.9, confidence: 0.9 })).toMatchObject({ n: 2 });
  });
  it("uses the early bound of an uncertain end and reads gaps by the protocol's rule", () => {
    const found = run("f", start(0), mark("end", 2000, { cause: "thermal shutdown", foundOff: { lastSeenMs: 1_500_000 } }));
    expect(stateCell([found], "shutdown").statement).toMatchObject({ valueMs: 1_500_000 });
    const off = run("o", start(0), gap(600, "off"), resume(700), end(2000));
    expect(stateCell([off], "shutdown").statement).toMatchObject({ valueMs: 600_000, events: 0 });
  });
  it("answers for the first warning too, and refuses without a run", () => {
    const warned = run("w", start(0), warning(1000), end(1100));
    expect(stateCell([warned], "firstWarning").statement).toMatchObject({ valueMs: 1_000_000, events: 1 });
    expect(stateCell([], "shutdown").statement).toEqual({ ok: false, reason: "no-eligible-run", needed: 22 });
    expect(START.protocol.continuity.poweredOff).toBe("strict");
  });
  it("pictures a share as a count, rounded down", () => {
    expect([runsOfTen(0.63), runsOfTen(0.9), runsOfTen(0.1), runsOfTen(0.09)]).toEqual([
      "6 of 10 runs",
      "9 of 10 runs",
      "1 of 10 runs",
      "9 % of runs",
    ]);
  });
});

it("keeps its promise: over many made cells the claimed share is missed at most as often as stated", () => {
  // 2,000 sets of 5 exponential-power runs, a third of them cut short by a card; misses are binomial with p <= 0.1.
  const random = randomFrom(20_261_124);
  const sets = 2000;
  let missed = 0;
  for (let s = 0; s < sets; s++) {
    const times = Array.from({ length: 5 }, () => 50 * (-Math.log(1 - random.next())) ** (1 / 4));
    const seen = times.map((t) => (random.next() < 0.33 ? Math.min(t, 45) : t));
    const claimed = shareOutlastingShortest(5, 0.9);
    const trueShare = Math.exp(-((Math.min(...seen) / 50) ** 4));
    if (trueShare < claimed) missed++;
  }
  const expectedMost = 0.1 * sets;
  expect(missed).toBeLessThan(expectedMost + 4 * Math.sqrt(sets * 0.1 * 0.9));
  expect(missed).toBeGreaterThan(0);
});
