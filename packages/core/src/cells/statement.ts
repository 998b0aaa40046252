// The distribution-free statement of one cell: what its shortest record supports, and what it would take to claim more.
// No typical time and no upper end is ever drawn from censored runs alone.

import { median } from "es-toolkit/math";
import type { Endpoint } from "../runs/index.ts";
import { roundDown } from "../format/index.ts";
import { confidenceOfShortest, recordsNeeded, shareOutlastingShortest } from "../statistics/index.ts";
import type { CandidateRun, Eligible } from "./eligibility.ts";
import { eligible } from "./eligibility.ts";

export const STATEMENT_METHOD = "shortest-of-n";
export const STATEMENT_VERSION = 1;

export interface ClaimLevels {
  share: number;
  confidence: number;
}
/** Nine of ten runs, 90 % sure. */
export const DEFAULT_LEVELS: ClaimLevels = { share: 0.9, confidence: 0.9 };

export interface CellStatement {
  ok: true;
  endpoint: Endpoint;
  levels: ClaimLevels;
  n: number;
  events: number;
  censored: number;
  /** Of the censored: broken by a gap, and the endpoint came after it all the same. */
  afterGap: number;
  /** Of the censored: nobody said that it was not the endpoint. */
  maybe: number;
  /** The shortest counted record, whole seconds, rounded down. */
  valueMs: number;
  shortestRunId: string;
  shortestIsCensored: boolean;
  /** At least this share of runs outlasts it at the asked confidence; two digits, rounded down. */
  share: number;
  /** How sure one is that the asked share outlasts it; two digits, rounded down. */
  confidenceAtShare: number;
  /** Records in all that the asked claim needs, and how many are still missing. */
  needed: number;
  missing: number;
  /** Middle record; only when the endpoint happened in every counted run, else null. */
  typicalMs: number | null;
  longestMs: number | null;
}
export type Statement = CellStatement | { ok: false; reason: "no-eligible-run"; needed: number };

export interface CellReading {
  statement: Statement;
  runs: Eligible;
}

/** Candidates of one cell, one kind of clock. `asked.share` and `asked.confidence` strictly between 0 and 1. */
export function stateCell(candidates: readonly CandidateRun[], endpoint: Endpoint, levels: ClaimLevels = DEFAULT_LEVELS): CellReading {
  return stateEligible(eligible(candidates, endpoint), endpoint, levels);
}

/** The same where it is known already which runs count: another share or confidence changes none of them. */
export const stateEligible = (runs: Eligible, endpoint: Endpoint, levels: ClaimLevels): CellReading => ({
  statement: stateRecords(runs.counted, endpoint, levels),
  runs,
});

function stateRecords(counted: Eligible["counted"], endpoint: Endpoint, levels: ClaimLevels): Statement {
  const needed = recordsNeeded(levels.share, levels.confidence);
  const shortest = counted[0];
  if (shortest === undefined) return { ok: false, reason: "no-eligible-run", needed };
  const n = counted.length;
  const events = counted.filter((r) => r.event === 1).length;
  const complete = events === n;
  return {
    ok: true,
    endpoint,
    levels,
    n,
    events,
    censored: n - events,
    afterGap: counted.filter((r) => r.event === 0 && r.noLaterMs !== null).length,
    maybe: counted.filter((r) => r.event === 0 && r.maybeByMs !== null).length,
    valueMs: wholeSecondsDown(shortest.timeMs.lo),
    shortestRunId: shortest.runId,
    shortestIsCensored: shortest.event === 0,
    share: roundDown(shareOutlastingShortest(n, levels.confidence), 2),
    confidenceAtShare: roundDown(confidenceOfShortest(n, levels.share), 2),
    needed,
    missing: Math.max(0, needed - n),
    typicalMs: complete && n >= 3 ? wholeSecondsDown(median(counted.map((r) => r.timeMs.lo))) : null,
    longestMs: complete && n >= 2 ? wholeSecondsDown(Math.max(...counted.map((r) => r.timeMs.lo))) : null,
  };
}

const wholeSecondsDown = (ms: number): number => Math.floor(ms / 1000) * 1000;

/** The statement with one left-out run counted: how much hangs on it. */
export function withLeftOut(runs: Eligible, runId: string, endpoint: Endpoint, levels: ClaimLevels): Statement {
  const extra = runs.leftOut.find((r) => r.runId === runId)?.wouldBe;
  const counted = extra == null ? runs.counted : [...runs.counted, extra].sort((a, b) => a.timeMs.lo - b.timeMs.lo);
  return stateRecords(counted, endpoint, levels);
}
