// Made units with a known truth: worlds in which a limit is claimed, from lognormal runs to the simulated camera's own physics, with days, unequal scatter,
// times typed to the minute, ends found off and shutdowns after gaps. Named as in docs/methods/dependable-limit.md.

import type { Lasting } from "@keep-rolling/core/cells";
import { advance, steadyState } from "@keep-rolling/core/heat";
import type { LimitRun, Random } from "@keep-rolling/core/statistics";
import { bisect, normalQuantile, randomFrom } from "@keep-rolling/core/statistics";

/** What ended a made run, on which day, and how it came to the record. */
interface Drawn {
  sec: number;
  day: string;
}
/** One unit: a draw from a cell, and the time that a share p of its runs does not reach. */
interface MadeUnit {
  draw(cell: number, run: number): Drawn;
  quantile(cell: number, p: number): number;
}
export interface World {
  name: string;
  /** Runs of each cell. */
  runs: readonly number[];
  unit(random: Random): MadeUnit;
  /** Cut by card or battery, seconds. */
  cutSec?: number;
  record?: "exact" | "minutes" | "found off" | "gaps";
}

const MIN = 60;
const TAU_SEC = 30 * MIN;
const MEDIANS = [12, 20, 32, 50, 75, 110].map((m) => m * MIN);
const medianOf = (cells: number, cell: number): number =>
  cells === 1 ? 75 * MIN : cells === 3 ? ([20, 50, 110][cell] as number) * MIN : (MEDIANS[cell] as number);

type Law = "lognormal" | "weibull";
const weibullLog = (p: number): number => Math.log(-Math.log1p(-p));
/** Of log time about the median, with this standard deviation. */
const deviation = (law: Law, sd: number, p: number): number =>
  law === "lognormal" ? sd * normalQuantile(p) : ((sd * Math.sqrt(6)) / Math.PI) * (weibullLog(p) - weibullLog(0.5));

const scattered =
  (law: Law, sds: readonly number[], cells: number) =>
  (random: Random): MadeUnit => ({
    draw: (cell) => ({ sec: medianOf(cells, cell) * Math.exp(deviation(law, sds[cell] as number, open(random))), day: "one" }),
    quantile: (cell, p) => medianOf(cells, cell) * Math.exp(deviation(law, sds[cell] as number, p)),
  });
const open = (random: Random): number => Math.min(1 - 1e-12, Math.max(1e-12, random.next()));

/** A body that nears its plateau: the share of the rise at which it shuts down scatters, so slow cells scatter widely. */
const physics = (random: Random): MadeUnit => {
  const middle = (cell: number): number => Math.log(-Math.expm1(-(MEDIANS[cell] as number) / TAU_SEC));
  const secOf = (v: number): number => (v >= 0 ? Number.POSITIVE_INFINITY : -TAU_SEC * Math.log1p(-Math.exp(v)));
  const sd = 0.03;
  return {
    draw: (cell) => ({ sec: secOf(middle(cell) + sd * random.normal()), day: "one" }),
    quantile: (cell, p) => secOf(middle(cell) + sd * normalQuantile(p)),
  };
};

/** Lognormal with `between` from day to day and `within` a day. `days`: of each run of a cell; `own`: every cell has days of its own. */
const byDays =
  (cells: number, days: readonly number[], own: boolean, between: number, within: number) =>
  (random: Random): MadeUnit => {
    const effects = new Map<string, number>();
    const dayOf = (cell: number, run: number): string => `${own ? cell : 0}.${days[run] as number}`;
    const effectOf = (day: string): number => {
      const known = effects.get(day) ?? between * random.normal();
      effects.set(day, known);
      return known;
    };
    const tested = (cell: number): number[] => [...new Set(days.map((_, run) => dayOf(cell, run)))].map(effectOf);
    return {
      draw: (cell, run) => {
        const day = dayOf(cell, run);
        return { sec: medianOf(cells, cell) * Math.exp(effectOf(day) + within * random.normal()), day };
      },
      // With fewer than three days the claim is of days like these.
      quantile: (cell, p) =>
        new Set(days).size >= 3
          ? medianOf(cells, cell) * Math.exp(Math.hypot(between, within) * normalQuantile(p))
          : medianOf(cells, cell) * Math.exp(mixtureQuantile(tested(cell), within, p)),
    };
  };

function mixtureQuantile(middles: readonly number[], sd: number, p: number): number {
  let [lo, hi] = [Math.min(...middles) - 6 * sd, Math.max(...middles) + 6 * sd];
  const below = (x: number): number => middles.reduce((sum, m) => sum + phi((x - m) / sd), 0) / middles.length;
  for (let i = 0; i < 60; i++) {
    const mid = (lo + hi) / 2;
    if (below(mid) < p) lo = mid;
    else hi = mid;
  }
  return lo;
}
/** Abramowitz and Stegun 26.2.17, seven digits: the estimator's own normal law is not used to judge it. */
function phi(z: number): number {
  const t = 1 / (1 + 0.2316419 * Math.abs(z));
  const poly = t * (0.31938153 + t * (-0.356563782 + t * (1.781477937 + t * (-1.821255978 + t * 1.330274429))));
  const upper = (Math.exp(-0.5 * z * z) / Math.sqrt(2 * Math.PI)) * poly;
  return z >= 0 ? 1 - upper : upper;
}

/** The simulated camera's body, modes and rooms; power differs from run to run as in `simulatedCamera.ts`. */
const BODY = { chipJPerK: 40, shellJPerK: 300, chipToShellKPerW: 3, shellToAirKPerW: 4.5 };
const [SHUTDOWN_C, POWER_SCATTER] = [68, 0.028];
const STAND_IN_CELLS = [
  [6.4, 24],
  [6.4, 29],
  [6.9, 24],
  [6.9, 30],
  [7.6, 22],
  [7.6, 30],
] as const;
const STAND_IN_MOST_SEC = 4 * 3600;
/** Truth of a cell of the simulated camera: so many runs of it. */
const TRUTH_RUNS = 2000;
const truths = new Map<number, number[]>();

function standInSec(cell: number, random: Random): number {
  const [watts, ambientC] = STAND_IN_CELLS[cell] as (typeof STAND_IN_CELLS)[number];
  const input = { chipW: watts * Math.exp(POWER_SCATTER * random.normal()), shellW: 0, ambientC };
  const start = { chipC: ambientC, shellC: ambientC };
  if (steadyState(BODY, input).chipC <= SHUTDOWN_C) return Number.POSITIVE_INFINITY;
  // From cold at constant power it only gets hotter.
  return bisect((sec) => advance(BODY, start, input, sec).chipC - SHUTDOWN_C, 0, 100 * STAND_IN_MOST_SEC, 0.1);
}
const standIns = (random: Random): MadeUnit => ({
  draw: (cell) => ({ sec: standInSec(cell, random), day: "one" }),
  quantile: (cell, p) => {
    const apart = randomFrom(1 + cell);
    const known = truths.get(cell) ?? Array.from({ length: TRUTH_RUNS }, () => standInSec(cell, apart)).sort((a, b) => a - b);
    truths.set(cell, known);
    return known[Math.floor(p * TRUTH_RUNS)] as number;
  },
});

const many = (n: number, runs: number): number[] => Array.from({ length: n }, () => runs);
const even = (n: number, sd: number): number[] => Array.from({ length: n }, () => sd);
const of = (name: string, runs: readonly number[], unit: World["unit"], more: Partial<World> = {}): World => ({
  name,
  runs,
  unit,
  ...more,
});
const TWO_HOURS = 2 * 3600;

export const WORLDS: readonly World[] = [
  of("W1 lognormal .10, 6 x 4", many(6, 4), scattered("lognormal", even(6, 0.1), 6)),
  of("W1 lognormal .20, 6 x 4", many(6, 4), scattered("lognormal", even(6, 0.2), 6)),
  of("W2 Weibull .10, 6 x 4", many(6, 4), scattered("weibull", even(6, 0.1), 6)),
  of("W2 Weibull .20, 6 x 4", many(6, 4), scattered("weibull", even(6, 0.2), 6)),
  of("W3 scatter .05 to .20, 6 x 4", many(6, 4), scattered("lognormal", [0.05, 0.2, 0.08, 0.15, 0.1, 0.05], 6)),
  of("W3 five of .05, one of .20", many(6, 4), scattered("lognormal", [0.05, 0.05, 0.05, 0.2, 0.05, 0.05], 6)),
  of("W4 body physics, cut at 2 h", many(6, 4), physics, { cutSec: TWO_HOURS }),
  of("W6 cut at 2 h, lognormal .20", many(6, 4), scattered("lognormal", even(6, 0.2), 6), { cutSec: TWO_HOURS }),
  of("W6 cut at 2 h, Weibull .20", many(6, 4), scattered("weibull", even(6, 0.2), 6), { cutSec: TWO_HOURS }),
  of("W7 to the minute, Weibull .20", many(6, 4), scattered("weibull", even(6, 0.2), 6), { record: "minutes" }),
  of("W7 to the minute, lognormal .02 (ties)", many(6, 4), scattered("lognormal", even(6, 0.02), 6), { record: "minutes" }),
  of("ends found off within 10 min, lognormal .10", many(6, 4), scattered("lognormal", even(6, 0.1), 6), { record: "found off" }),
  of("a third broken by a gap, lognormal .10", many(6, 4), scattered("lognormal", even(6, 0.1), 6), { record: "gaps" }),
  of("3 x 4 Weibull .20", many(3, 4), scattered("weibull", even(3, 0.2), 3)),
  of("1 x 5 Weibull .20", [5], scattered("weibull", [0.2], 1)),
  of("1 x 8 Weibull .20", [8], scattered("weibull", [0.2], 1)),
  of("1 x 3 lognormal .20", [3], scattered("lognormal", [0.2], 1)),
  of("1 x 2 lognormal .20", [2], scattered("lognormal", [0.2], 1)),
  of("4, 1, 3, 2, 1, 4 runs, lognormal .10", [4, 1, 3, 2, 1, 4], scattered("lognormal", even(6, 0.1), 6)),
  of("W5 each cell its own day", many(6, 4), byDays(6, [0, 0, 0, 0], true, 0.08, 0.06)),
  of("W5 two days crossed", many(6, 4), byDays(6, [0, 0, 1, 1], false, 0.08, 0.06)),
  of("W5 four days crossed, for new days", many(6, 4), byDays(6, [0, 1, 2, 3], false, 0.08, 0.06)),
  of("W5 1 x 6 on three days, for new days", [6], byDays(1, [0, 0, 1, 1, 2, 2], true, 0.08, 0.06)),
  of("W5 1 x 5 on one day", [5], byDays(1, [0, 0, 0, 0, 0], true, 0.08, 0.06)),
  of("simulated cameras, cut at 4 h", many(6, 4), standIns, { cutSec: STAND_IN_MOST_SEC }),
  of("simulated cameras, to the minute, cut at 2 h", many(6, 4), standIns, { record: "minutes", cutSec: TWO_HOURS }),
];

/** As the run comes to the record. */
export function recorded(
  { cutSec = Number.POSITIVE_INFINITY, record = "exact" }: World,
  { sec, day }: Drawn,
  random: Random,
  runId: string,
): Lasting {
  const atLeast = (s: number): Lasting => ({ runId, timeSec: s, event: 0, lasted: { kind: "censored", sec: s, day } });
  const ended = (lasted: LimitRun, timeSec: number): Lasting => ({ runId, timeSec, event: 1, lasted });
  const minutes = (s: number): number => Math.max(MIN, Math.round(s / MIN) * MIN);
  if (sec > cutSec) return atLeast(cutSec);
  switch (record) {
    case "exact":
      return ended({ kind: "exact", sec, day }, sec);
    case "minutes":
      return ended({ kind: "exact", sec: minutes(sec), day }, minutes(sec));
    case "found off": {
      const lastSeen = Math.max(1, sec - 10 * MIN * random.next());
      const foundOff = lastSeen + 10 * MIN;
      return ended({ kind: "interval", loSec: lastSeen, hiSec: foundOff, day }, lastSeen);
    }
    case "gaps": {
      if (random.next() > 1 / 3) return ended({ kind: "exact", sec, day }, sec);
      // A pause cools: what was recorded until the shutdown is up to half as long again.
      const atGap = sec * (0.3 + 0.5 * random.next());
      const lasted: LimitRun = { kind: "interval", loSec: atGap, hiSec: sec * (1 + 0.5 * random.next()), day };
      return { runId, timeSec: atGap, event: 0, lasted };
    }
  }
}

/** What a tester knows of the time constant: fitted, within a quarter of the truth. */
export const fittedTau = (random: Random): { tauSec: number; tauFactor: number } => ({
  tauSec: TAU_SEC * (0.75 + 0.5 * random.next()),
  tauFactor: 1.25,
});
