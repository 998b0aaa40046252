// How many judgements would tell setups apart, said before judging starts: a handful separates only what everybody sees at once.

import { normalQuantile } from "../../statistics/index.ts";
import { familyLevel } from "../comparing/family.ts";

/** Share of undecided answers, and chance wanted of telling a pair apart, with which the plan reckons. */
const UNDECIDED = 0.25;
const CHANCE = 0.8;

export interface Needed {
  /** Showings of each pair, and of all pairs together. */
  perPair: number;
  inAll: number;
}
/** For one judge, when of decided judgements `decidedShare` prefer one of a pair, above 1/2. Information of all pairs shown alike. */
export function judgementsNeeded(setups: number, decidedShare: number): Needed {
  if (!(decidedShare > 0.5 && decidedShare < 1)) throw new RangeError(`decidedShare must lie between 0.5 and 1, got ${decidedShare}`);
  const d = Math.log(decidedShare / (1 - decidedShare));
  const [p1, p2] = [(1 - UNDECIDED) * decidedShare, (1 - UNDECIDED) * (1 - decidedShare)];
  const information = (p1 + p2 - (p1 - p2) ** 2) / 4;
  const z = normalQuantile(1 - familyLevel(setups) / 2) + normalQuantile(CHANCE);
  const perPair = (2 * z ** 2) / (setups * information * d ** 2);
  return { perPair: Math.ceil(perPair), inAll: Math.ceil((perPair * setups * (setups - 1)) / 2) };
}
