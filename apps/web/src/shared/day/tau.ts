import { DEFAULT_TAU_MIN } from "@keep-rolling/core/heat";
import type { SeenRun } from "../../record/runs.ts";

/** The time constant of a body for its ledger: the longest its runs' protocols name, else the default. */
export function tauOfUnit(runs: readonly SeenRun[], unitId: string): number {
  const said = runs.flatMap((r) =>
    r.fold.setup?.unit.id === unitId && r.fold.setup.protocol.schools != null ? [r.fold.setup.protocol.schools.tauMin] : [],
  );
  return 60_000 * (said.length === 0 ? DEFAULT_TAU_MIN : Math.max(...said));
}
