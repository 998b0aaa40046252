// Made hands: which shots at which exposure times are kept, by a seeded draw. For the demo, rehearsals and tests; it says nothing about any real hands.

import type { Grade, HoldPlan, Setting, ShotBody } from "../../holds/index.ts";
import { plannedVisits } from "../../holds/index.ts";
import { randomFrom } from "../../statistics/index.ts";

export interface MadeHands {
  seed: number;
  /** Exposure time, log2 of seconds, at which 8 of 10 are kept. */
  threshold: Readonly<Record<Setting, number>>;
  /** How fast the keep rate falls, per stop. */
  slope: number;
  /** Share lost for other reasons, however fast. */
  lapse: number;
  /** Share of tries that go wrong by themselves and are taken again. */
  badShare: number;
}

const LOGIT_OF_SHARE = Math.log(0.8 / 0.2);
/** Chance of keeping a shot that is so many stops slower than the threshold. */
export const keepChance = ({ slope, lapse }: Pick<MadeHands, "slope" | "lapse">, slower: number): number =>
  (1 - lapse) / (1 + Math.exp(slope * slower - LOGIT_OF_SHARE));

/** The shots of a whole plan in the order of its card, bad tries among them. Some grips are better than others: shots of one go are alike. */
export function madeShots(plan: Pick<HoldPlan, "spans" | "stepStops" | "shotsEach">, hands: MadeHands): ShotBody[] {
  const random = randomFrom(hands.seed);
  return plannedVisits(plan).flatMap(({ setting, x }) => {
    const grip = 0.3 * random.normal();
    const shots: ShotBody[] = [];
    for (let good = 0; good < plan.shotsEach; ) {
      const bad = random.next() < hands.badShare;
      const kept = random.next() < keepChance(hands, x - hands.threshold[setting] + grip);
      const grade: Grade = bad ? "bad" : kept ? "kept" : "lost";
      shots.push({ setting, x, grade });
      if (!bad) good++;
    }
    return shots;
  });
}
