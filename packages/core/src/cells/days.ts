// On which day each run of a unit was made: runs of one day share its air, its batteries and its tester. A sitting that goes on past midnight is one day.

const HOUR_MS = 3_600_000;
/** A run that starts sooner after the one before it belongs to its sitting (ours). */
const SITTING_MS = 6 * HOUR_MS;
/** No sitting is longer (ours): a rig that never stops still meets new days. */
const SITTING_MOST_MS = 20 * HOUR_MS;

/** Day of each run as "2026-06-11", in the time zone where it was made. `RangeError` for a zone nobody knows. */
export function daysOfRuns(runs: readonly { runId: string; startMs: number }[], zone: string): Map<string, string> {
  const days = new Map<string, string>();
  let [day, firstMs, lastMs] = ["", Number.NEGATIVE_INFINITY, Number.NEGATIVE_INFINITY];
  for (const { runId, startMs } of [...runs].sort((a, b) => a.startMs - b.startMs)) {
    const goesOn = startMs - lastMs < SITTING_MS && startMs - firstMs < SITTING_MOST_MS;
    if (!goesOn) [day, firstMs] = [dateIn(zone, startMs), startMs];
    lastMs = startMs;
    days.set(runId, day);
  }
  return days;
}

const formats = new Map<string, Intl.DateTimeFormat>();
function dateIn(zone: string, atMs: number): string {
  let format = formats.get(zone);
  // The Canadian form of a date is that of ISO 8601.
  if (format === undefined) formats.set(zone, (format = new Intl.DateTimeFormat("en-CA", { timeZone: zone, dateStyle: "short" })));
  return format.format(atMs);
}
