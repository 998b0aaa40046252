// Runs as estimators take them: a time and whether it is an end or only "at least".

import type { LimitRun, Lifetimes } from "../statistics/index.ts";
import { fitLife } from "../statistics/index.ts";
import type { Counted } from "./eligibility.ts";

/** The little of a record that bounds need. */
export interface Timed {
  runId: string;
  timeSec: number;
  event: 0 | 1;
}
/** With how sharply its length is known, and the day: what the dependable limit reads. */
export interface Lasting extends Timed {
  lasted: LimitRun;
}

/** A found-off end and a shutdown after a gap are intervals; everything that is not the endpoint is "at least". */
type Length = Pick<Counted, "timeMs" | "event" | "noLaterMs" | "maybeByMs">;
export function lastedOf({ timeMs, event, noLaterMs, maybeByMs }: Length, day: string | null): LimitRun {
  const hiMs = event === 1 ? timeMs.hi : noLaterMs;
  if (hiMs === null)
    return { kind: "censored", sec: timeMs.lo / 1000, day, ...(maybeByMs === null ? {} : { maybeBySec: maybeByMs / 1000 }) };
  return hiMs > timeMs.lo
    ? { kind: "interval", loSec: timeMs.lo / 1000, hiSec: hiMs / 1000, day }
    : { kind: "exact", sec: timeMs.lo / 1000, day };
}

export const lifetimesOf = (records: readonly Timed[]): Lifetimes => ({
  time: records.map((r) => r.timeSec),
  event: records.map((r) => r.event),
});
export const shutdownsOf = <R extends Timed>(records: readonly R[]): R[] => records.filter((r) => r.event === 1);
export const logsOf = (records: readonly Timed[]): number[] => shutdownsOf(records).map((r) => Math.log(r.timeSec));

/**
 * Middle of a complete cell by the mean of its logs; with censored runs the fitted lognormal's, never beyond the longest record; one shutdown, or
 * several at one time, stand for themselves only if nothing outlasted them.
 */
export function typicalOf({ records }: { records: readonly Timed[] }): number | null {
  const ended = shutdownsOf(records);
  if (ended.length === 0) return null;
  if (ended.length === records.length) return Math.exp(logsOf(records).reduce((a, b) => a + b, 0) / records.length);
  // All ends at one time, and nothing cut off that outlasted it: no scatter could be fitted, and the middle is that time.
  const times = [...new Set(ended.map((r) => r.timeSec))];
  const [only] = times;
  if (only !== undefined && times.length === 1 && records.every((r) => r.timeSec <= only)) return only;
  const fit = fitLife(lifetimesOf(records), "lognormal");
  return fit.ok ? Math.min(Math.exp(fit.coef[0] ?? 0), Math.max(...records.map((r) => r.timeSec))) : null;
}
