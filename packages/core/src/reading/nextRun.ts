// The next best run: the cell and the number of runs that raise the wanted limit most per hour of testing, by drawing runs to come from what is
// known and reading the limit again; and how many runs until a claim can be made.

import { logsOf, typicalOf } from "../cells/index.ts";
import type { Lasting } from "../cells/index.ts";
import { randomFrom } from "../statistics/index.ts";
import type { LimitSettings, Random } from "../statistics/index.ts";
import type { CellLimit, CellLimits, LimitedCell } from "./limit.ts";
import { cellLimits } from "./limit.ts";

export interface NextCell extends LimitedCell {
  key: string;
  /** Rest before a cold start, seconds. */
  coolSec: number;
}
export interface NextRun {
  key: string;
  runs: number;
  hours: number;
  nowSec: number | null;
  /** Middle of the bounds over the draws. */
  expectedSec: number;
  /** Seconds of bound gained per hour of testing. */
  gainPerHour: number;
}

export const NEXT_DRAWS = 15;
const COUNTS = [1, 2, 3] as const;

/** Best first. Cells without a shutdown have nothing to draw from and are left out. */
export function nextRuns(cells: readonly NextCell[], settings: LimitSettings, seed = 20_310_604, draws = NEXT_DRAWS): NextRun[] {
  const limits = cellLimits(cells, settings);
  const out: NextRun[] = [];
  cells.forEach((cell, i) => {
    const limit = limits.of(i);
    const law = lawOf(cell, limit);
    if (law === null) return;
    const nowSec = limit.ok ? limit.lowerMs / 1000 : null;
    for (const runs of COUNTS) {
      const expectedSec = expectedWith(limits, cells, i, runs, law, seed, draws);
      const hours = (runs * (Math.min(Math.exp(law.log), law.cutSec) + cell.coolSec)) / 3600;
      out.push({ key: cell.key, runs, hours, nowSec, expectedSec, gainPerHour: (expectedSec - (nowSec ?? 0)) / hours });
    }
  });
  return out.sort((a, b) => b.gainPerHour - a.gainPerHour);
}

interface Law {
  /** Middle of the log seconds, censored runs included, and the cell's own scatter as the limit reads it. */
  log: number;
  sd: number;
  /** What cut earlier runs cuts those to come too: the longest that anything but this end has let one run. */
  cutSec: number;
}
function lawOf({ records }: LimitedCell, limit: CellLimit): Law | null {
  const middle = typicalOf({ records });
  if (!("scatter" in limit) || logsOf(records).length === 0 || middle === null) return null;
  const cuts = records.filter((r) => r.event === 0).map((r) => r.timeSec);
  return { log: Math.log(middle), sd: limit.scatter, cutSec: cuts.length === 0 ? Number.POSITIVE_INFINITY : Math.max(...cuts) };
}

/** A run of the days that were tested: what another day would show nobody knows before. */
function drawnRun({ log, sd, cutSec }: Law, k: number, day: string | null, random: Random): Lasting {
  const sec = Math.exp(log + sd * random.normal());
  const [timeSec, event] = sec <= cutSec ? [sec, 1 as const] : [cutSec, 0 as const];
  return { runId: `drawn ${k}`, timeSec, event, lasted: { kind: event === 1 ? "exact" : "censored", sec: timeSec, day } };
}

/** Middle of the claims over sets of runs to come; no claim counts as nothing. The same draws for every candidate: they differ by their runs, not by luck. */
function expectedWith(
  limits: CellLimits,
  cells: readonly LimitedCell[],
  i: number,
  runs: number,
  law: Law,
  seed: number,
  draws: number,
): number {
  const random = randomFrom(seed);
  const { records } = cells[i] as LimitedCell;
  const day = records.at(-1)?.lasted.day ?? null;
  const after = Array.from({ length: draws }, () => {
    const more = Array.from({ length: runs }, (_, k) => drawnRun(law, k, day, random));
    return limits.claimWith(i, [...records, ...more]) ?? 0;
  });
  return after.sort((a, b) => a - b)[after.length >> 1] ?? 0;
}

export type RunsUntil = { ok: true; more: number } | { ok: false; reason: "beyond-reach" | "no-shutdown" };
const MOST_MORE = 20;

/** Further runs of cell `i` until the middle of the limits reaches `wantedSec`; "beyond-reach" after twenty, or when the quantile itself lies below. */
export function runsUntil(
  cells: readonly NextCell[],
  i: number,
  wantedSec: number,
  settings: LimitSettings,
  seed = 20_310_605,
  draws = NEXT_DRAWS,
): RunsUntil {
  const limits = cellLimits(cells, settings);
  const limit = limits.of(i);
  const law = lawOf(cells[i] as NextCell, limit);
  if (law === null) return { ok: false, reason: "no-shutdown" };
  if (limit.ok && limit.lowerMs / 1000 >= wantedSec) return { ok: true, more: 0 };
  const reaches = (more: number): boolean => expectedWith(limits, cells, i, more, law, seed, draws) >= wantedSec;
  let [lo, hi] = [0, MOST_MORE];
  if (!reaches(hi)) return { ok: false, reason: "beyond-reach" };
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if (reaches(mid)) hi = mid;
    else lo = mid;
  }
  return { ok: true, more: hi };
}
