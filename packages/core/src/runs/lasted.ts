// What a run is told to have lasted: what the observation counts, never what the name of its end suggests.

import { formatHms } from "../format/index.ts";
import type { RunFold } from "./fold.ts";
import type { Endpoint, Observation } from "./observe.ts";
import { LENIENT_RULE, observe } from "./observe.ts";

/** For one endpoint by the run's own rule; null: all that was recorded, whatever paused it, and whether heat ended it. */
export function observedFor(fold: RunFold, endpoint: Endpoint | null): Observation {
  const rule = endpoint === null ? LENIENT_RULE : (fold.setup?.protocol.continuity ?? LENIENT_RULE);
  return observe(fold, rule, endpoint ?? "shutdown");
}

const WITHOUT = { void: "void", "no-start": "not started", "not-ended": "rolling", refused: formatHms(0) } as const;

/** "≥" where the endpoint did not come, or not by the rule; a range where its moment was found late. Fit to stand in a table. */
export function lastedWords(fold: RunFold, endpoint: Endpoint | null): string {
  const seen = observedFor(fold, endpoint);
  if (!seen.ok) return WITHOUT[seen.reason];
  const [lo, hi] = [formatHms(seen.timeMs.lo), formatHms(seen.timeMs.hi)];
  if (seen.event === 0) return `≥\u00a0${lo}`;
  return lo === hi ? lo : `${lo} to ${hi}`;
}
