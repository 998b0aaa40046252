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
type Planned = Parameters<typeof plannedVisits>[0] & Pick<HoldPlan, "shotsEach">;
export interface MadeShot {
  shot: ShotBody;
  /** Stops by which its blur is beyond what is kept; below zero: kept. */
  margin: number;
}
/** Lost for another reason than the hands, such as the focus. */
const LAPSED_STOPS = 2.5;

/** The tries of a whole plan in the order of its card, bad ones among them. Some grips are better than others: shots of one go are alike. */
export function madeTries(plan: Planned, hands: MadeHands): MadeShot[] {
  const random = randomFrom(hands.seed);
  return plannedVisits(plan).flatMap(({ setting, x }) => {
    const grip = 0.3 * random.normal();
    const tries: MadeShot[] = [];
    for (let good = 0; good < plan.shotsEach; ) {
      const bad = random.next() < hands.badShare;
      const margin = marginOf(random.next(), hands, x - hands.threshold[setting] + grip);
      const grade: Grade = bad ? "bad" : margin < 0 ? "kept" : "lost";
      tries.push({ shot: { setting, x, grade }, margin });
      if (!bad) good++;
    }
    return tries;
  });
}
/** A uniform draw as a logistic one about the chance of keeping it: below it, kept. */
function marginOf(drawn: number, { slope, lapse }: MadeHands, slower: number): number {
  if (drawn >= 1 - lapse) return LAPSED_STOPS;
  const share = Math.max(1e-9, drawn / (1 - lapse));
  return (Math.log(share / (1 - share)) + slope * slower - LOGIT_OF_SHARE) / slope;
}

export const madeShots = (plan: Planned, hands: MadeHands): ShotBody[] => madeTries(plan, hands).map((t) => t.shot);
