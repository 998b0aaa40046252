// What a run counts as, in words.

import type { Observation, RunFold } from "@keep-rolling/core/runs";
import { dutyResult, isRefusal } from "@keep-rolling/core/runs";
import { formatHms, formatSpan } from "@keep-rolling/core/format";

export function verdictWords(seen: Observation, fold: RunFold): string {
  if (isRefusal(fold)) return "refused to record";
  if (!seen.ok) return seen.reason === "not-ended" ? "not yet" : "nothing: void";
  return seen.event === 1 ? `heat limit ${formatHms(seen.timeMs.lo)}` : `at least ${formatHms(seen.timeMs.lo)}`;
}

/** Duty-cycle and idle runs are their own kinds; null for the others. */
export function kindVerdict(fold: RunFold, nowMs: number): { value: string; note: string } | null {
  if (fold.setup?.runKind === "idle") {
    const heat = fold.end?.cause === "thermal shutdown";
    return {
      value: heat ? "overheated while idle" : "an idle run",
      note: "powered on and not recording: it speaks for no limit, its heat counts for what comes after",
    };
  }
  const duty = dutyResult(fold, nowMs);
  if (duty === null) return null;
  const { onMin, offMin, power } = duty.cycle;
  const cycle = `${onMin} min on, ${offMin} min ${power === "on" ? "paused with the body on" : "powered off"}`;
  const held = duty.completed === 1 ? "1 cycle" : `${duty.completed} cycles`;
  return {
    value: duty.byHeat ? `${held}, then shut down` : `held ${held}`,
    note: `${cycle}${duty.byHeat ? `; the last phase lasted ${formatSpan(duty.phaseMs)}` : "; heat did not end it, so it holds at least that many"}`,
  };
}
