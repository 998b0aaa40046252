// How much warning there is, and whether the minutes the camera shows can be believed. Lead: recorded time from the first warning to the shutdown;
// a shutdown that was watched and came without a warning is a lead of zero, one entered late without a warning tells nothing of warnings. Countdowns are held against what was truly left.

import type { CandidateRun } from "../cells/index.ts";
import { warningUnknown } from "../cells/index.ts";
import { clopperPearsonLower } from "../statistics/index.ts";
import { shareOutlastingShortest } from "../statistics/index.ts";
import { checkCountdowns, recordedAt } from "../runs/index.ts";

export interface Lead {
  runId: string;
  leadSec: number;
  warned: boolean;
}
export interface WarningLeads {
  leads: Lead[];
  shortestSec: number;
  /** At least this share of shutdowns gives no less warning than the shortest, at the confidence. */
  share: number;
  unwarned: number;
  /** Runs without a warning that were entered late, or in which a device told one that nobody marked: they say nothing of leads. */
  notRecorded: string[];
}
export type LeadsResult = ({ ok: true } & WarningLeads) | { ok: false; reason: "no-shutdown" | "not-recorded" };

const counts = ({ fold, struck }: CandidateRun): boolean =>
  struck === null && fold.state === "ended" && fold.end?.cause === "thermal shutdown" && fold.segments.length > 0;

export function warningLeads(candidates: readonly CandidateRun[], confidence: number): LeadsResult {
  const ended = candidates.filter(counts);
  const notRecorded = ended.filter(warningUnknown).map((c) => c.runId);
  const leads = ended
    .filter((c) => !notRecorded.includes(c.runId))
    .map(({ runId, fold }): Lead => {
      const shownMs = fold.warnings[0]?.shownMs;
      const endMs = fold.end?.loMs ?? 0;
      const leadSec = shownMs === undefined ? 0 : Math.max(0, Math.floor((recordedAt(fold, endMs) - recordedAt(fold, shownMs)) / 1000));
      return { runId, leadSec, warned: shownMs !== undefined };
    });
  if (leads.length === 0) return { ok: false, reason: notRecorded.length > 0 ? "not-recorded" : "no-shutdown" };
  leads.sort((a, b) => a.leadSec - b.leadSec);
  return {
    ok: true,
    leads,
    shortestSec: leads[0]?.leadSec ?? 0,
    share: shareOutlastingShortest(leads.length, confidence),
    unwarned: leads.filter((l) => !l.warned).length,
    notRecorded,
  };
}

export interface Countdown {
  runId: string;
  saidSec: number;
  leftSec: number;
}
export type Belief =
  | {
      ok: true;
      countdowns: Countdown[];
      runs: number;
      /** Runs in which every countdown was at most what was left; at least this share, with the confidence. */
      kept: number;
      keptShare: number;
      /** Smallest left / said of any countdown: below 1 it promised too much. */
      worstRatio: number;
      verdict: "keeps its word" | "promises too much" | "cannot tell";
    }
  | { ok: false; reason: "no-countdown" };

/** Whole minutes are shown: a countdown is kept when what was left is no more than a minute short. */
const MINUTE = 60;

export function countdownBelief(candidates: readonly CandidateRun[], confidence: number): Belief {
  const byRun = candidates.filter(counts).map(({ runId, fold }) => ({
    runId,
    countdowns: checkCountdowns(fold, 0)
      .filter((c) => c.exact && c.saidMs > 0)
      .map((c): Countdown => ({ runId, saidSec: c.saidMs / 1000, leftSec: c.leftMs / 1000 })),
  }));
  const runs = byRun.filter((r) => r.countdowns.length > 0);
  if (runs.length === 0) return { ok: false, reason: "no-countdown" };
  const kept = runs.filter((r) => r.countdowns.every((c) => c.leftSec + MINUTE > c.saidSec)).length;
  const keptShare = clopperPearsonLower(kept, runs.length, confidence);
  const worst = runs.map((r) => Math.min(...r.countdowns.map((c) => c.leftSec / c.saidSec))).sort((a, b) => a - b);
  const verdict = kept < runs.length ? "promises too much" : keptShare >= 0.5 ? "keeps its word" : "cannot tell";
  return {
    ok: true,
    countdowns: runs.flatMap((r) => r.countdowns),
    runs: runs.length,
    kept,
    keptShare,
    worstRatio: worst[0] ?? 1,
    verdict,
  };
}
