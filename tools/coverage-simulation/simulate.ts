// Made units with a known truth, read by the ladder with its rule in the loop: how often is the bound at or below the true quantile? A set in
// which no bound is claimed is counted as a refusal, never as covered.

import type { Timed } from "@keep-rolling/core/cells";
import type { CellBound, LadderCell, Rung } from "@keep-rolling/core/reading";
import { climb, LADDER_SETTINGS } from "@keep-rolling/core/reading";
import type { Random } from "@keep-rolling/core/statistics";
import { randomFrom } from "@keep-rolling/core/statistics";
import type { LifeLaw } from "@keep-rolling/core/statistics";
import { lawQuantile } from "@keep-rolling/core/statistics";
import { DEFAULT_RULE } from "@keep-rolling/core/runs";

export interface Scenario {
  name: string;
  law: LifeLaw;
  /** Log standard deviation of runs of one cell. */
  sd: number;
  cells: number;
  runs: number;
  /** Share of runs that battery or card cut before the heat would; 0: none. */
  cutShare: number;
}
export const ASKED = { share: 0.9, confidence: 0.9 };
const PROTOCOL = {
  id: "p",
  name: "p",
  continuity: DEFAULT_RULE,
  checkpointSec: 300,
  checkpointAfterWarningSec: 60,
  onWarning: "run on" as const,
};

/** Sigma of the law, for a log standard deviation. */
const sigmaOf = (s: Pick<Scenario, "law" | "sd">): number => (s.law === "weibull" ? (s.sd * Math.sqrt(6)) / Math.PI : s.sd);
const noise = (law: LifeLaw, random: Random): number => (law === "weibull" ? Math.log(-Math.log(1 - random.next())) : random.normal());
const middleOf = (cell: number): number => Math.log(1800 * (1 + 0.35 * cell));

export function trueQuantile(s: Scenario, cell: number, p: number): number {
  return Math.exp(middleOf(cell) + lawQuantile(s.law, p) * sigmaOf(s));
}

export function madeUnit(s: Scenario, random: Random): LadderCell[] {
  return Array.from({ length: s.cells }, (_, cell) => {
    const cut = s.cutShare > 0 ? trueQuantile(s, cell, 1 - s.cutShare) : Number.POSITIVE_INFINITY;
    const records = Array.from({ length: s.runs }, (_r, i): Timed => {
      const t = Math.exp(middleOf(cell) + sigmaOf(s) * noise(s.law, random));
      return { runId: `${cell}.${i}`, timeSec: Math.min(t, cut), event: t <= cut ? 1 : 0 };
    });
    return { setup: { protocol: PROTOCOL }, records };
  });
}

export interface Coverage {
  sets: number;
  refused: number;
  /** Bounds claimed, and those at or below the truth, by rung. */
  by: Partial<Record<Rung, { claimed: number; covered: number; ratio: number }>>;
}

export function simulate(s: Scenario, sets: number, draws: number, seed: number): Coverage {
  const random = randomFrom(seed);
  const truth = trueQuantile(s, 0, 1 - ASKED.share);
  const out: Coverage = { sets, refused: 0, by: {} };
  for (let i = 0; i < sets; i++) {
    const cells = madeUnit(s, random);
    const bound = climb(cells, ASKED, { ...LADDER_SETTINGS, draws }, 0)[0];
    count(out, bound, truth);
  }
  for (const tally of Object.values(out.by)) tally.ratio /= tally.claimed;
  return out;
}

function count(out: Coverage, bound: CellBound | undefined, truth: number): void {
  if (bound?.ok !== true) {
    out.refused++;
    return;
  }
  const tally = (out.by[bound.rung] ??= { claimed: 0, covered: 0, ratio: 0 });
  tally.claimed++;
  if (bound.lowerMs / 1000 <= truth) tally.covered++;
  tally.ratio += bound.lowerMs / 1000 / truth;
}
