// The next best run: the cell and the number of runs that raise the wanted bound most per hour of testing, by drawing runs to come from the
// current fit and climbing the ladder again; and how many runs until a claim can be made.

import { logsOf } from "../cells/index.ts";
import type { Timed } from "../cells/index.ts";
import { typicalOf } from "../cells/index.ts";
import { randomFrom } from "../statistics/index.ts";
import type { Random } from "../statistics/index.ts";
import type { ClaimLevels } from "../cells/index.ts";
import { ASSUMED_SD, varianceOf } from "../statistics/index.ts";
import type { CellBound, LadderCell, LadderSettings } from "./ladder.ts";
import { climb, LADDER_SETTINGS } from "./ladder.ts";

export interface NextCell extends LadderCell {
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

export const NEXT_DRAWS = 40;
const COUNTS = [1, 2, 3] as const;

/** Best first. Cells without a shutdown have nothing to draw from and are left out. */
export function nextRuns(
  cells: readonly NextCell[],
  bounds: readonly CellBound[],
  levels: ClaimLevels,
  seed = 20_310_604,
  draws = NEXT_DRAWS,
): NextRun[] {
  const settings = { ...LADDER_SETTINGS, draws: 200 };
  const out: NextRun[] = [];
  cells.forEach((cell, i) => {
    const law = lawOf(cell, bounds[i]);
    if (law === null) return;
    const bound = bounds[i];
    const nowSec = bound?.ok === true ? bound.lowerMs / 1000 : null;
    for (const runs of COUNTS) {
      // The same draws for every candidate: they differ by their runs, not by luck.
      const random = randomFrom(seed);
      const after = Array.from({ length: draws }, () => boundWith(cells, i, runs, law, levels, settings, random)).sort((a, b) => a - b);
      const expectedSec = after[after.length >> 1] ?? 0;
      const hours = (runs * (Math.min(Math.exp(law.log), law.cutSec) + cell.coolSec)) / 3600;
      out.push({ key: cell.key, runs, hours, nowSec, expectedSec, gainPerHour: (expectedSec - (nowSec ?? 0)) / hours });
    }
  });
  return out.sort((a, b) => b.gainPerHour - a.gainPerHour);
}

interface Law {
  /** Middle of the log seconds, censored runs included; scatter of the rung in hand. */
  log: number;
  sd: number;
  /** What cut earlier runs cuts those to come too: the longest that anything but this end has let one run. */
  cutSec: number;
}
function lawOf({ records }: LadderCell, bound: CellBound | undefined): Law | null {
  const logs = logsOf(records);
  const middle = typicalOf({ records });
  if (logs.length === 0 || middle === null) return null;
  const own = Math.sqrt(varianceOf(logs));
  const cuts = records.filter((r) => r.event === 0).map((r) => r.timeSec);
  return {
    log: Math.log(middle),
    sd: bound?.ok === true ? bound.sd : own > 0 ? own : ASSUMED_SD,
    cutSec: cuts.length === 0 ? Number.POSITIVE_INFINITY : Math.max(...cuts),
  };
}

function drawnRun({ log, sd, cutSec }: Law, k: number, random: Random): Timed {
  const sec = Math.exp(log + sd * random.normal());
  return { runId: `drawn ${k}`, timeSec: Math.min(sec, cutSec), event: sec <= cutSec ? 1 : 0 };
}

function boundWith(
  cells: readonly NextCell[],
  i: number,
  runs: number,
  law: Law,
  levels: ClaimLevels,
  settings: LadderSettings,
  random: Random,
): number {
  const more = Array.from({ length: runs }, (_, k) => drawnRun(law, k, random));
  const grown = cells.map((c, k) => (k === i ? { ...c, records: [...c.records, ...more] } : c));
  const bound = climb(grown, levels, settings, i)[0];
  return bound?.ok === true ? bound.lowerMs / 1000 : 0;
}

export type RunsUntil = { ok: true; more: number } | { ok: false; reason: "beyond-reach" | "no-shutdown" };
const MOST_MORE = 20;

/** Further runs of cell `i` until the middle of the bounds reaches `wantedSec`; "beyond-reach" after twenty, or when the quantile itself lies below. */
export function runsUntil(
  cells: readonly NextCell[],
  bounds: readonly CellBound[],
  i: number,
  wantedSec: number,
  levels: ClaimLevels,
  seed = 20_310_605,
): RunsUntil {
  const cell = cells[i];
  const law = cell === undefined ? null : lawOf(cell, bounds[i]);
  if (cell === undefined || law === null) return { ok: false, reason: "no-shutdown" };
  const bound = bounds[i];
  if (bound?.ok === true && bound.lowerMs / 1000 >= wantedSec) return { ok: true, more: 0 };
  const settings = { ...LADDER_SETTINGS, draws: 200 };
  const reaches = (more: number): boolean => {
    const random = randomFrom(seed);
    const after = Array.from({ length: NEXT_DRAWS }, () => boundWith(cells, i, more, law, levels, settings, random)).sort((a, b) => a - b);
    return (after[after.length >> 1] ?? 0) >= wantedSec;
  };
  let [lo, hi] = [0, MOST_MORE];
  if (!reaches(hi)) return { ok: false, reason: "beyond-reach" };
  while (hi - lo > 1) {
    const mid = (lo + hi) >> 1;
    if (reaches(mid)) hi = mid;
    else lo = mid;
  }
  return { ok: true, more: hi };
}
