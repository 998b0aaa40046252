// The matrix of a plan: what is wanted, what is done, what is still missing. Done are counted runs: cold, ended, not struck out, within
// their ambient; a run that does not count is named by the heat room, and its trial stays wanted.

import type { CandidateRun } from "@keep-rolling/core/cells";
import type { Counted } from "@keep-rolling/core/cells";
import type { Kit } from "@keep-rolling/contract/kit";
import type { PlanCell, PlanDoc } from "@keep-rolling/contract/plan";
import type { CellSetup } from "@keep-rolling/core/kit";
import type { Statement } from "@keep-rolling/core/cells";
import { cellKey } from "@keep-rolling/core/kit";
import { stateCell } from "@keep-rolling/core/cells";
import type { SeenRun } from "../../record/runs.ts";
import { setupOf } from "./cells.ts";

export interface CellState {
  cell: PlanCell;
  /** Null: a part of it is no longer in the kit. */
  setup: CellSetup | null;
  counted: (Counted & { startMs: number })[];
  statement: Statement | null;
  missing: number;
}

export function cellStates(kit: Kit, plan: Pick<PlanDoc, "cells">, runs: readonly SeenRun[]): CellState[] {
  const byKey = new Map<string, CandidateRun[]>();
  for (const r of runs) {
    if (r.fold.setup === null) continue;
    const key = cellKey(r.fold.setup);
    byKey.set(key, [...(byKey.get(key) ?? []), { runId: r.id, fold: r.fold, struck: r.row?.struck ?? null }]);
  }
  const startOf = new Map(runs.map((r) => [r.id, r.fold.startMs ?? 0]));
  return plan.cells.map((cell) => {
    const setup = setupOf(kit, cell);
    const candidates = setup === null ? [] : (byKey.get(cellKey(setup)) ?? []);
    const reading = candidates.length === 0 ? null : stateCell(candidates, "shutdown");
    const counted = (reading?.runs.counted ?? []).map((c) => ({ ...c, startMs: startOf.get(c.runId) ?? 0 }));
    const missing = cell.skip === null ? Math.max(0, cell.trials - counted.length) : 0;
    return { cell, setup, counted, statement: reading?.statement ?? null, missing };
  });
}
