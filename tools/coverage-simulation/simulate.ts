// How often is a claimed limit at or below the truth, with the rule in the loop? A cell without a claim is a refusal, never counted as covered.

import type { LimitedCell } from "@keep-rolling/core/reading";
import { cellLimits } from "@keep-rolling/core/reading";
import { DEFAULT_RULE } from "@keep-rolling/core/runs";
import type { Random } from "@keep-rolling/core/statistics";
import { randomFrom } from "@keep-rolling/core/statistics";
import type { World } from "./worlds.ts";
import { fittedTau, recorded } from "./worlds.ts";

export const ASKED = { share: 0.9, confidence: 0.9 };
const PROTOCOL = {
  id: "p",
  name: "p",
  continuity: DEFAULT_RULE,
  checkpointSec: 300,
  checkpointAfterWarningSec: 60,
  onWarning: "run on" as const,
};

export interface Coverage {
  name: string;
  asked: number;
  refused: number;
  /** Shares of claims at or below the truth: of all, and of the cell where it is lowest, with the number of its claims. */
  whole: number;
  worst: number;
  worstOf: number;
  /** Middle of claim over truth. */
  ratio: number;
}

export function simulate(world: World, sets: number, seed: number): Coverage {
  const random = randomFrom(seed);
  const cells = world.runs.map(() => ({ claimed: 0, covered: 0 }));
  const ratios: number[] = [];
  for (let i = 0; i < sets; i++) oneUnit(world, random, cells, ratios);
  const claimed = cells.reduce((sum, c) => sum + c.claimed, 0);
  const covered = cells.reduce((sum, c) => sum + c.covered, 0);
  const worst = cells.filter((c) => c.claimed > 0).sort((a, b) => a.covered / a.claimed - b.covered / b.claimed)[0];
  ratios.sort((a, b) => a - b);
  return {
    name: world.name,
    asked: sets * cells.length,
    refused: sets * cells.length - claimed,
    whole: claimed === 0 ? Number.NaN : covered / claimed,
    worst: worst === undefined ? Number.NaN : worst.covered / worst.claimed,
    worstOf: worst?.claimed ?? 0,
    ratio: ratios[ratios.length >> 1] ?? Number.NaN,
  };
}

function oneUnit(world: World, random: Random, tally: { claimed: number; covered: number }[], ratios: number[]): void {
  const unit = world.unit(random);
  const cells = world.runs.map(
    (runs, cell): LimitedCell => ({
      setup: { protocol: PROTOCOL },
      records: Array.from({ length: runs }, (_, run) => recorded(world, unit.draw(cell, run), random, `${cell}.${run}`)),
    }),
  );
  const limits = cellLimits(cells, { ...ASKED, ...fittedTau(random) });
  tally.forEach((t, cell) => {
    const limit = limits.of(cell);
    if (!limit.ok) return;
    const truth = unit.quantile(cell, 1 - ASKED.share);
    t.claimed++;
    if (limit.lowerMs / 1000 <= truth) t.covered++;
    ratios.push(limit.lowerMs / 1000 / truth);
  });
}
