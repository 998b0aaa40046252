// The order of one unit's trials, so that carried heat, time of day and a tired tester favour no cell. Random: every round holds each
// cell once, in a seeded order. Balanced: the best of many such orders by how evenly cells share early and late places and follow one
// another. Source of the aim: Williams, E. J. (1949), "Experimental designs balanced for the estimation of residual effects of
// treatments", Aust. J. Sci. Res. A 2, 149-168; with few unequal trials no exact design exists, so the imbalance is minimised and printed.

import type { Random } from "../statistics/index.ts";
import { randomFrom } from "../statistics/index.ts";

export const ORDER_SCHOOLS = ["balanced", "random", "as listed"] as const;
export type OrderSchool = (typeof ORDER_SCHOOLS)[number];

export interface Trials {
  cell: string;
  /** 0 or more. */
  trials: number;
  /** Trials of it that were made on this day already: a claim gains more by cells, and days, that have none yet. */
  madeToday?: number;
}
export interface Ordered {
  cells: string[];
  /** Largest distance of a cell's mean place from the middle, in places; of cells with more than one trial. */
  placeOff: number;
  /** How often the most frequent follower pair of different cells occurs beyond the rarest. */
  followsOff: number;
}

const TRIES = 400;

/** Same trials, school and seed: same order. `seed` as for `randomFrom`. */
export function orderTrials(trials: readonly Trials[], school: OrderSchool, seed: number): Ordered {
  for (const t of trials)
    if (!Number.isInteger(t.trials) || t.trials < 0) throw new RangeError(`trials must be a whole number, got ${t.trials}`);
  if (school === "as listed") return judge(rounds(trials, null));
  const random = randomFrom(seed);
  let best = judge(rounds(trials, random));
  for (let i = 1; school === "balanced" && i < TRIES; i++) {
    const next = judge(rounds(trials, random));
    if (score(next) < score(best) - 1e-12) best = next;
  }
  return best;
}

const score = (o: Ordered): number => o.placeOff + 0.5 * o.followsOff;

/** Round by round: each cell that still has trials once, from the round after those made today; shuffled unless there is no generator. */
function rounds(trials: readonly Trials[], random: Random | null): string[] {
  const made = (t: Trials): number => t.madeToday ?? 0;
  const most = Math.max(0, ...trials.map((t) => made(t) + t.trials));
  return Array.from({ length: most }, (_, round) => {
    const cells = trials.filter((t) => made(t) <= round && round < made(t) + t.trials).map((t) => t.cell);
    return random === null ? cells : shuffled(cells, random);
  }).flat();
}

/** Fisher and Yates, from the end. */
function shuffled<T>(items: readonly T[], random: Random): T[] {
  const out = [...items];
  for (let i = out.length - 1; i > 0; i--) {
    const j = random.int(0, i);
    [out[i], out[j]] = [out[j] as T, out[i] as T];
  }
  return out;
}

function judge(cells: string[]): Ordered {
  const middle = (cells.length - 1) / 2;
  const places = new Map<string, number[]>();
  cells.forEach((cell, i) => places.set(cell, [...(places.get(cell) ?? []), i]));
  const offs = [...places.values()].filter((p) => p.length > 1).map((p) => Math.abs(p.reduce((a, b) => a + b, 0) / p.length - middle));
  const names = [...places.keys()];
  const follows = names.flatMap((a) =>
    names.filter((b) => b !== a).map((b) => cells.filter((c, i) => c === b && cells[i - 1] === a).length),
  );
  return {
    cells,
    placeOff: Math.max(0, ...offs),
    followsOff: follows.length === 0 ? 0 : Math.max(...follows) - Math.min(...follows),
  };
}
