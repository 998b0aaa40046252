// What the history says beside a mark: what became of it, where it came from, how sure its time is, how long it was on its way.

import type { HistoryLine, Mark } from "@keep-rolling/core/runs";
import { formatSpan } from "@keep-rolling/core/format";

const SURE_MS = 1000;
const UNKNOWN_MS = 86_400_000;
const AT_ONCE_MS = 2000;

const SOURCES = { pressed: null, accepted: "taken from the camera", typed: "typed", late: "entered late" } as const;

export function asides(mark: Mark, became: HistoryLine["became"]): string {
  const apart = mark.atMs - mark.madeAtMs;
  const when = apart === 0 ? null : `happened ${formatSpan(Math.abs(apart))} ${apart < 0 ? "before" : "after"} the press`;
  return [became === "taken back" ? "undone" : became, SOURCES[mark.source], when, doubt(mark.offsetErrMs)]
    .filter((words) => words !== null)
    .join(" · ");
}

/** Said only where it matters: a second and more. */
function doubt(errMs: number): string | null {
  if (errMs < SURE_MS) return null;
  return errMs >= UNKNOWN_MS ? "its clock had not been compared" : `its clock was sure to ± ${formatSpan(errMs)}`;
}

/** `receivedAtMs`: when the server stored it, server time; undefined while it has not. */
export function arrival(mark: Mark, receivedAtMs: number | undefined): string {
  if (receivedAtMs === undefined) return "not yet, kept on this device";
  const waitedMs = receivedAtMs - (mark.deviceMs + mark.offsetMs);
  // A clock that may be off by more than the wait says nothing about it.
  return waitedMs < AT_ONCE_MS || mark.offsetErrMs > waitedMs ? "at once" : `after ${formatSpan(waitedMs)}`;
}
