// Runs as the limit reads them: how long each lasted, how sharply that is known, and on which day.

export type LimitRun = { day: string | null } & (
  | { kind: "exact"; sec: number }
  /** `maybeBySec`: nobody said what ended it, so the end asked for may have come in [sec, maybeBySec]. */
  | { kind: "censored"; sec: number; maybeBySec?: number }
  /** Ended somewhere in (loSec, hiSec]. */
  | { kind: "interval"; loSec: number; hiSec: number }
);

export interface LimitCell {
  key: string;
  runs: readonly LimitRun[];
}

export const isShutdown = (run: LimitRun): boolean => run.kind !== "censored";

/** Whether it may have been an end of the kind asked for, unsaid. */
export const isDoubtful = (run: LimitRun): boolean => run.kind === "censored" && run.maybeBySec !== undefined;
/** Read as the end it may have been; any other run as it is. */
export function takenAsEnd(run: LimitRun): LimitRun {
  if (run.kind !== "censored" || run.maybeBySec === undefined) return run;
  const { sec, maybeBySec, day } = run;
  return maybeBySec > sec ? { kind: "interval", loSec: sec, hiSec: maybeBySec, day } : { kind: "exact", sec, day };
}

export const shutdownsOf = (cell: LimitCell): number => cell.runs.filter(isShutdown).length;

/** The middle of what is known of its length. */
export const middleSec = (run: LimitRun): number => (run.kind === "interval" ? (run.loSec + run.hiSec) / 2 : run.sec);

/** Days that are known; a run of no known day adds none. Asked of every cell for every other. */
export function daysOf(cell: LimitCell): ReadonlySet<string> {
  const days = known.get(cell) ?? new Set(cell.runs.flatMap((r) => (r.day === null ? [] : [r.day])));
  known.set(cell, days);
  return days;
}
const known = new WeakMap<LimitCell, ReadonlySet<string>>();

/** Throws `RangeError` for a time that is not positive, or an interval the wrong way round. */
export function checkRuns(cell: LimitCell): void {
  for (const run of cell.runs) {
    if (run.kind === "interval") {
      if (!(run.loSec >= 0 && run.hiSec > run.loSec))
        throw new RangeError(`loSec and hiSec must be in order, got ${run.loSec} and ${run.hiSec}`);
    } else if (!(run.sec > 0)) throw new RangeError(`sec must be positive, got ${run.sec}`);
  }
}
