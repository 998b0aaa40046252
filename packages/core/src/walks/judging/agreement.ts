// Whether judges can be believed: each with themself (pairs shown twice, sides exchanged), with each other, and against a lean to one side.

import { betaQuantile, signTest } from "../../statistics/index.ts";
import type { Answer } from "./answers.ts";

/** Alike by chance when a share `undecided` of answers is "no difference" and the rest fall to either side alike. */
export const alikeByChance = (undecided: number): number => undecided ** 2 + (1 - undecided) ** 2 / 2;

export interface Consistency {
  pairs: number;
  alike: number;
  low90: number;
  high90: number;
  chance: number;
  /** Chance would do as well. */
  noBetter: boolean;
}
/** `twice`: both answers to the same pair, told by setup and not by side ("a", "b", none). Null without any. */
export function consistencyOf(twice: readonly (readonly [string | null, string | null])[]): Consistency | null {
  const pairs = twice.length;
  if (pairs === 0) return null;
  const alike = twice.filter(([x, y]) => x === y).length;
  const undecided = twice.flat().filter((x) => x === null).length / (2 * pairs);
  const chance = alikeByChance(undecided);
  const [low90, high90] = [betaQuantile(0.05, alike + 0.5, pairs - alike + 0.5), betaQuantile(0.95, alike + 0.5, pairs - alike + 0.5)];
  return { pairs, alike, low90, high90, chance, noBetter: low90 <= chance };
}

export interface SideBias {
  left: number;
  decided: number;
  p: number;
  /** Of decided answers the left was taken too often or too seldom for shuffled sides. */
  biased: boolean;
}
/** Sides must have been shuffled. Null with nothing decided. */
export function sideBias(answers: readonly Answer[]): SideBias | null {
  const left = answers.filter((a) => a === "left").length;
  const right = answers.filter((a) => a === "right").length;
  const test = signTest(left, right);
  return test === null ? null : { left, decided: test.n, p: test.twoSided, biased: test.twoSided <= 0.05 };
}

export interface JudgesAgreement {
  /** Pairs that two judges have both answered, over all pairs of judges. */
  common: number;
  /** Mean over pairs of judges of the share of alike answers. */
  alike: number;
  kappa: number;
  /** Null below a dozen common pairs. */
  low90: number | null;
  high90: number | null;
}
export type AgreementResult = ({ ok: true } & JudgesAgreement) | { ok: false; reason: "one-judge" | "no-common-pairs" | "all-undecided" };

/** A claim about agreement needs so many common pairs. */
const LEAST = 12;
/** By judge: answers by pair, told by setup and not by side; a pair that a judge did not see is missing. */
export function judgesAgreement(byJudge: readonly ReadonlyMap<string, string | null>[]): AgreementResult {
  if (byJudge.length < 2) return { ok: false, reason: "one-judge" };
  const shares = byJudge.flatMap((one, i) =>
    byJudge.slice(i + 1).flatMap((other) => {
      const keys = [...one.keys()].filter((k) => other.has(k));
      return keys.length === 0 ? [] : [{ n: keys.length, alike: keys.filter((k) => one.get(k) === other.get(k)).length / keys.length }];
    }),
  );
  if (shares.length === 0) return { ok: false, reason: "no-common-pairs" };
  const alike = shares.reduce((s, x) => s + x.alike, 0) / shares.length;
  const answers = byJudge.flatMap((m) => [...m.values()]);
  const chance = alikeByChance(answers.filter((x) => x === null).length / answers.length);
  if (chance === 1) return { ok: false, reason: "all-undecided" };
  const kappaOf = (a: number): number => (a - chance) / (1 - chance);
  // Judges who all saw the same pairs share them; the fewest any two had in common is what the claim rests on.
  const n = Math.min(...shares.map((s) => s.n));
  const common = shares.reduce((s, x) => s + x.n, 0);
  const few = n < LEAST;
  return {
    ok: true,
    common,
    alike,
    kappa: kappaOf(alike),
    low90: few ? null : kappaOf(betaQuantile(0.05, n * alike + 0.5, n * (1 - alike) + 0.5)),
    high90: few ? null : alike === 1 ? 1 : kappaOf(betaQuantile(0.95, n * alike + 0.5, n * (1 - alike) + 0.5)),
  };
}
