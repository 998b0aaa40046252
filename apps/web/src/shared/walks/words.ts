// Words of a walking test that more than one room says.

import type { MoveKind } from "@keep-rolling/core/walks";

const MOVE_WORDS: Readonly<Record<MoveKind, string>> = {
  still: "Standing still",
  "slow pan": "Slow pan",
  walk: "Walk",
  "walk and talk": "Walk and talk",
  backwards: "Backwards",
  "careful walk": "Careful walk",
  "fast walk": "Fast walk",
  run: "Run",
  "bumpy vehicle": "Bumpy vehicle",
  bicycle: "Bicycle",
  "tripod pan": "Tripod pan",
  swing: "Side to side",
  reframing: "Small reframing",
};
export const moveWords = (kind: MoveKind): string => MOVE_WORDS[kind];

/** A share of the width as per cent with two useful figures. */
export function percentWords(frac: number): string {
  const percent = 100 * frac;
  return percent >= 9.95 ? percent.toFixed(0) : percent >= 0.995 ? percent.toFixed(1) : percent.toFixed(2);
}

/** Interval of a level in per cent of the width, outward. */
export function intervalWords(low: number, high: number): string {
  const digits = 100 * high >= 9.95 ? 0 : 100 * high >= 0.995 ? 1 : 2;
  const step = 10 ** digits;
  return `${(Math.floor(100 * low * step) / step).toFixed(digits)} to ${(Math.ceil(100 * high * step) / step).toFixed(digits)}`;
}
