// Editing a plan's matrix: which cell an input stands for, and the plan with a change in it.

import { median } from "es-toolkit/math";
import type { Kit } from "@keep-rolling/contract/kit";
import type { PlanCell, PlanDoc } from "@keep-rolling/contract/plan";
import type { ModeAdvice } from "@keep-rolling/core/planning";
import { firstModes } from "@keep-rolling/core/planning";
import { observedFor } from "@keep-rolling/core/runs";
import { v7 as uuidv7 } from "uuid";
import type { CellState } from "../../shared/day/matrix.ts";
import type { SeenRun } from "../../record/runs.ts";

export type Place = Pick<PlanCell, "unitId" | "modeId" | "conditionId" | "protocolId">;

const same = (a: Place, b: Place): boolean =>
  a.unitId === b.unitId && a.modeId === b.modeId && a.conditionId === b.conditionId && a.protocolId === b.protocolId;

export const cellAt = <C extends Place>(cells: readonly C[], place: Place): C | undefined => cells.find((c) => same(c, place));
export const stateAt = (states: readonly CellState[], place: Place): CellState | undefined => states.find((s) => same(s.cell, place));

/** The plan with one cell changed; a cell of no trials and no reason is no cell. */
export function withCell(plan: PlanDoc, place: Place, more: Partial<Pick<PlanCell, "trials" | "skip">>): PlanDoc {
  const old = cellAt(plan.cells, place) ?? { id: uuidv7(), ...place, trials: 0, skip: null };
  const next: PlanCell = { ...old, ...more };
  const empty = next.trials === 0 && next.skip === null;
  if (cellAt(plan.cells, place) === undefined) return { ...plan, cells: empty ? plan.cells : [...plan.cells, next] };
  return { ...plan, cells: empty ? plan.cells.filter((c) => !same(c, place)) : plan.cells.map((c) => (same(c, place) ? next : c)) };
}

/** A unit's modes in the order to test them, with the reason. */
export function advised(
  kit: Kit,
  unitId: string,
  runs: readonly SeenRun[],
  states: readonly CellState[],
): { mode: Kit["modes"][number]; advice: ModeAdvice }[] {
  const modelId = kit.units.find((u) => u.id === unitId)?.modelId;
  const modes = kit.modes.filter((m) => m.modelId === modelId && !m.archived);
  const mine = runs.filter((r) => r.fold.setup?.unit.id === unitId && r.fold.setup.startState.state === "cold" && r.row?.struck == null);
  const advice = firstModes(
    modes.map((mode) => {
      const heats = mine
        .filter((r) => r.fold.setup?.mode.id === mode.id)
        .flatMap(({ fold }) => {
          const seen = observedFor(fold, "shutdown");
          return seen.ok && seen.event === 1 ? [seen.timeMs.lo] : [];
        })
        .sort((a, b) => a - b);
      const n = states.filter((s) => s.cell.unitId === unitId && s.cell.modeId === mode.id).reduce((sum, s) => sum + s.counted.length, 0);
      return { mode, typicalHeatMs: heats.length === 0 ? null : median(heats), n: Math.max(n, heats.length) };
    }),
  );
  return advice.flatMap((a) => modes.filter((m) => m.id === a.modeId).map((mode) => ({ mode, advice: a })));
}

/** Conditions with a cell on this unit first, in the order of the kit. */
export function columnsOf(kit: Kit, plan: PlanDoc, unitId: string, protocolId: string, added: readonly string[]): Kit["conditions"] {
  const used = new Set(plan.cells.filter((c) => c.unitId === unitId && c.protocolId === protocolId).map((c) => c.conditionId));
  return kit.conditions.filter((c) => used.has(c.id) || (!c.archived && added.includes(c.id)));
}
