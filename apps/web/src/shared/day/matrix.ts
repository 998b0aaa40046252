// The matrix of a plan: what is wanted, what is done, what is still missing. Done are counted runs: cold, ended, not struck out, within
// their ambient; a run that does not count is named by the heat room, and its trial stays wanted.

import type { CandidateRun } from "@keep-rolling/core/cells";
import type { Counted } from "@keep-rolling/core/cells";
import type { Kit } from "@keep-rolling/contract/kit";
import type { PlanCell, PlanDoc } from "@keep-rolling/contract/plan";
import type { CellSetup } from "@keep-rolling/core/kit";
import type { Statement } from "@keep-rolling/core/cells";
import { cellKey } from "@keep-rolling/core/kit";
import { daysOfRuns, stateCell } from "@keep-rolling/core/cells";
import type { SeenRun } from "../../record/runs.ts";
import { setupOf } from "./cells.ts";

export interface CellState {
  cell: PlanCell;
  /** Null: a part of it is no longer in the kit. */
  setup: CellSetup | null;
  counted: (Counted & { startMs: number; day: string })[];
  statement: Statement | null;
  missing: number;
}

/** Days are those of `zone`; a sitting past midnight is one. */
export function cellStates(kit: Kit, plan: Pick<PlanDoc, "cells">, runs: readonly SeenRun[], zone: string): CellState[] {
  const byKey = new Map<string, CandidateRun[]>();
  for (const r of runs) {
    if (r.fold.setup === null) continue;
    const key = cellKey(r.fold.setup);
    byKey.set(key, [...(byKey.get(key) ?? []), { runId: r.id, fold: r.fold, struck: r.row?.struck ?? null }]);
  }
  const startOf = new Map(runs.map((r) => [r.id, r.fold.startMs ?? 0]));
  const days = daysByUnit(runs, zone);
  return plan.cells.map((cell) => {
    const setup = setupOf(kit, cell);
    const candidates = setup === null ? [] : (byKey.get(cellKey(setup)) ?? []);
    const reading = candidates.length === 0 ? null : stateCell(candidates, "shutdown");
    const counted = (reading?.runs.counted ?? []).map((c) => ({ ...c, startMs: startOf.get(c.runId) ?? 0, day: days.get(c.runId) ?? "" }));
    const missing = cell.skip === null ? Math.max(0, cell.trials - counted.length) : 0;
    return { cell, setup, counted, statement: reading?.statement ?? null, missing };
  });
}

function daysByUnit(runs: readonly SeenRun[], zone: string): Map<string, string> {
  const units = new Map<string, { runId: string; startMs: number }[]>();
  for (const r of runs) {
    const unit = r.fold.setup?.unit.id;
    if (unit !== undefined && r.fold.startMs !== null)
      units.set(unit, [...(units.get(unit) ?? []), { runId: r.id, startMs: r.fold.startMs }]);
  }
  return new Map([...units.values()].flatMap((mine) => [...daysOfRuns(mine, zone)]));
}
