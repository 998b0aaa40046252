// From kit rows to what the core speaks of: the setup of a planned cell, traits and stock.

import type { Kit } from "@keep-rolling/contract/kit";
import type { PlanCell } from "@keep-rolling/contract/plan";
import { setupSnapshot } from "@keep-rolling/core/kit";
import type { CellSetup, KitItem, ModelTraits } from "@keep-rolling/core/kit";
import { NO_TRAITS } from "@keep-rolling/core/kit";

export type Unit = Kit["units"][number];

export const traitsOf = (kit: Kit, unit: Unit | undefined): ModelTraits =>
  kit.models.find((m) => m.id === unit?.modelId)?.traits ?? NO_TRAITS;

/** Cards, batteries, supplies and recorders in use; a lens or a tripod limits no schedule. */
export const stockOf = (kit: Kit): KitItem[] =>
  kit.items.filter((i) => !i.archived && i.count > 0).map(({ id, name, count, fits, spec }) => ({ id, name, count, fits, spec }));

type Named = Pick<PlanCell, "unitId" | "modeId" | "conditionId" | "protocolId">;

/** Null when the kit lost one of the parts. Firmware is the one on the body now. */
export function setupOf(kit: Kit, cell: Named): CellSetup | null {
  const unit = kit.units.find((u) => u.id === cell.unitId);
  const model = kit.models.find((m) => m.id === unit?.modelId);
  const mode = kit.modes.find((m) => m.id === cell.modeId);
  const condition = kit.conditions.find((c) => c.id === cell.conditionId);
  const protocol = kit.protocols.find((p) => p.id === cell.protocolId);
  if (unit === undefined || model === undefined || mode === undefined || condition === undefined || protocol === undefined) return null;
  return setupSnapshot({ unit, model, mode, condition, protocol });
}
