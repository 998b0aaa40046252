// What ends it first here: heat, battery or card, and the chance to hold a given time. Each end has its own survival; where they do not influence
// one another the run holds with their product, and who comes first follows by adding up small steps of time.

import { studentCdf } from "../statistics/index.ts";

export type Survival = (sec: number) => number;

/** A run to come, log runtime about the middle of n known ones: Student's t, so few runs make wide ends. */
export const predictive =
  (logMiddle: number, sd: number, n: number, df: number): Survival =>
  (sec) =>
    sec <= 0 ? 1 : 1 - studentCdf((Math.log(sec) - logMiddle) / (sd * Math.sqrt(1 + 1 / n)), df);
/** An end that comes at a known time: a card of known size. */
export const certain =
  (atSec: number): Survival =>
  (sec) =>
    sec < atSec ? 1 : 0;

export interface Ends {
  heat: Survival | null;
  battery: Survival | null;
  card: Survival | null;
}
export type EndName = keyof Ends;
export const END_NAMES: readonly EndName[] = ["heat", "battery", "card"];

/** Chance that nothing known ends it before; ends that are not known count as never, and must be said so. */
export const chanceToHold = (ends: Ends, sec: number): number => END_NAMES.reduce((p, name) => p * (ends[name]?.(sec) ?? 1), 1);

export interface FirstEnd {
  share: Record<EndName, number>;
  /** Share of runs that nothing known has ended by the horizon. */
  none: number;
}
const STEPS = 500;
/** A jump is taken in a step of its own, this long, s: what falls before it is not counted as its. */
const JUMP_SEC = 1e-3;

/** `jumpsSec`: where an end comes all at once, such as a card of known size. Error of a share: below one in ten thousand. */
export function firstEnd(ends: Ends, horizonSec: number, jumpsSec: readonly number[]): FirstEnd {
  if (!(horizonSec > 0)) throw new RangeError(`horizonSec must be positive, got ${horizonSec}`);
  const share: Record<EndName, number> = { heat: 0, battery: 0, card: 0 };
  const known = END_NAMES.filter((name) => ends[name] !== null);
  const at = (sec: number): number[] => known.map((name) => ends[name]?.(sec) ?? 1);
  const product = (each: readonly number[]): number => each.reduce((p, v) => p * v, 1);
  let before = at(0);
  const even = Array.from({ length: STEPS }, (_, i) => (horizonSec * (i + 1)) / STEPS);
  const jumps = jumpsSec.flatMap((j) => [j - JUMP_SEC, j]).filter((t) => t > 0 && t < horizonSec);
  for (const sec of [...even, ...jumps].sort((a, b) => a - b)) {
    if (product(before) <= 0) break;
    const after = at(sec);
    const falls = after.map((v, k) => -Math.log(Math.max(1e-300, v / Math.max(1e-300, before[k] ?? 0))));
    const whole = falls.reduce((s, v) => s + v, 0);
    // Within one step the ends share what falls by their hazards.
    const lost = product(before) - product(after);
    if (whole > 0) known.forEach((name, k) => (share[name] += (lost * (falls[k] ?? 0)) / whole));
    before = after;
  }
  return { share, none: chanceToHold(ends, horizonSec) };
}
