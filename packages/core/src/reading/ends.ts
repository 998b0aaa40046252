// What ends it first here, from little data. Of each cause (heat, battery, card) a pair of chances is known that it has not ended the recording by a time:
// from lo to hi. What is unknown lies between 0 and 1, never at "never". Source: worked out for this project; docs/methods/ends-first.md.

import type { ChanceCurve } from "../statistics/index.ts";
import { chanceAt, normalCdf, sdBetween } from "../statistics/index.ts";

export const CAUSES = ["heat", "battery", "card"] as const;
export type EndCauseName = (typeof CAUSES)[number];

/** Plain data, so that it travels; seconds. `low`: as if this cause had ended the runs whose end nobody explained. */
export type Known =
  /** The dependable limit's own posterior. */
  | { by: "limit"; curve: ChanceCurve; ends: number; outlasted: number }
  /** Ends, and how much cameras usually scatter. */
  | { by: "presumed"; curve: ChanceCurve; ends: number; outlasted: number; low?: ChanceCurve }
  /** Never ended by it; `curve`: as if the longest had ended where it was cut. */
  | { by: "outlasted"; reachedSec: number[]; curve: ChanceCurve; path: PathAhead | null; low?: ChanceCurve }
  | { by: "size"; atSec: number; spread: number }
  | { by: "cannot end it" }
  | { by: "nothing" };

/** What the gauge of the longest such run says of the time after it. */
export interface PathAhead {
  levelsOff: number;
  climbing: boolean;
  /** Eight of ten shutdowns, given that one comes; null: not said. */
  rangeSec: { lo: number; hi: number } | null;
}
export type Ends = Record<EndCauseName, Known>;
export interface Chance {
  lo: number;
  hi: number;
}

/** Chance that this cause has not ended a recording by `sec`. */
export function chanceOf(known: Known, sec: number): Chance {
  switch (known.by) {
    case "limit": {
      const chance = chanceAt(known.curve, sec);
      return { lo: chance, hi: chance };
    }
    case "presumed": {
      const chance = chanceAt(known.curve, sec);
      return { lo: atLowest(chance, known.low, sec), hi: chance };
    }
    case "size": {
      const chance = sec <= 0 ? 1 : normalCdf(Math.log(known.atSec / sec) / known.spread);
      return { lo: chance, hi: chance };
    }
    case "outlasted":
      return unexplained(outlastedChance(known, sec), known.low, sec);
    case "cannot end it":
      return { lo: 1, hi: 1 };
    case "nothing":
      return sec <= 0 ? { lo: 1, hi: 1 } : { lo: 0, hi: 1 };
  }
}

const atLowest = (chance: number, low: ChanceCurve | undefined, sec: number): number =>
  low === undefined ? chance : Math.min(chance, chanceAt(low, sec));
const unexplained = ({ lo, hi }: Chance, low: ChanceCurve | undefined, sec: number): Chance => ({ lo: atLowest(lo, low, sec), hi });

function outlastedChance({ reachedSec, curve, path }: Known & { by: "outlasted" }, sec: number): Chance {
  const endSec = Math.max(...reachedSec);
  const upTo = (t: number): number => {
    const n = reachedSec.filter((r) => r >= t).length;
    return n === 0 ? 0 : Math.max((n + 1) / (n + 2), chanceAt(curve, t));
  };
  if (sec <= endSec) return { lo: upTo(sec), hi: 1 };
  if (path === null) return { lo: 0, hi: 1 };
  const levels = Math.min(path.levelsOff, LEVELS_OFF_MOST);
  const beyond = levels + (1 - levels) * (path.rangeSec === null ? 0 : notYet(path.rangeSec, endSec, sec));
  return { lo: Math.min(upTo(endSec), beyond), hi: path.climbing ? beyond : 1 };
}
const LEVELS_OFF_MOST = 0.95;
const ANOTHER_DAY = 0.1;

/** Lognormal through the range of the path, widened for another day, given that it lasted to `endSec`. */
function notYet({ lo, hi }: { lo: number; hi: number }, endSec: number, sec: number): number {
  const middle = (Math.log(lo) + Math.log(hi)) / 2;
  const sd = Math.hypot(sdBetween(lo, hi), ANOTHER_DAY);
  return normalCdf((middle - Math.log(sec)) / sd) / normalCdf((middle - Math.log(endSec)) / sd);
}

/** Chance that nothing ends it by `sec`, the causes taken as independent. */
export function completion(ends: Ends, sec: number): Chance {
  return CAUSES.reduce(
    (c, cause) => {
      const { lo, hi } = chanceOf(ends[cause], sec);
      return { lo: c.lo * lo, hi: c.hi * hi };
    },
    { lo: 1, hi: 1 },
  );
}

const STEPS = 2000;

/** Shares of recordings that each cause ends first by `sec`, of what is known; what is unknown has none. */
export function endsFirst(ends: Ends, sec: number): Record<EndCauseName, number> {
  if (!(sec > 0)) throw new RangeError(`sec must be positive, got ${sec}`);
  const share = { heat: 0, battery: 0, card: 0 };
  let before = hisAt(ends, 0);
  for (let i = 1; i <= STEPS; i++) {
    const after = hisAt(ends, (sec * i) / STEPS);
    for (const cause of CAUSES) {
      const others = CAUSES.reduce((p, c) => (c === cause ? p : (p * (before[c] + after[c])) / 2), 1);
      share[cause] += (before[cause] - after[cause]) * others;
    }
    before = after;
  }
  return share;
}
const hisAt = (ends: Ends, sec: number): Record<EndCauseName, number> => ({
  heat: chanceOf(ends.heat, sec).hi,
  battery: chanceOf(ends.battery, sec).hi,
  card: chanceOf(ends.card, sec).hi,
});

/** Fewer ends of a cause than this, or fewer runs that outlasted the time, give words, not per cent. */
export const ENOUGH_FOR_NUMBERS = 3;
/** Nothing is known that speaks for or against this cause at that time. */
export function isUnknown(known: Known, sec: number): boolean {
  const { lo, hi } = chanceOf(known, sec);
  return lo === 0 && hi === 1;
}
export function isThin(known: Known, sec: number): boolean {
  if (known.by === "outlasted") return known.reachedSec.filter((r) => r >= sec).length < ENOUGH_FOR_NUMBERS;
  return (known.by === "limit" || known.by === "presumed") && known.ends < ENOUGH_FOR_NUMBERS;
}
