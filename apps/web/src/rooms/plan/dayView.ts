// What the day's ruler shows: lanes with their notes, and the real run behind a block.

import { heatShare, WARM_SHARE } from "@keep-rolling/core/heat";
import type { Block } from "@keep-rolling/core/planning";
import { isBattery } from "@keep-rolling/core/kit";
import type { PlannedDay } from "../../shared/day/useDay.ts";
import type { SeenRun } from "../../record/runs.ts";
import type { DayLane } from "../../rulers/strips/dayLane.ts";

export function lanesOf({ question, schedule, nowMs }: Pick<PlannedDay, "question" | "schedule" | "nowMs">): DayLane[] {
  const { fromMs, toMs, stock, units } = question.request;
  return units.map((unit) => {
    // A block started on another day has its place there.
    const blocks = schedule.blocks.filter((b) => b.unitId === unit.id && b.startMs < toMs && b.endHiMs > fromMs);
    const note = [powerNote(blocks, stock), ...heatNote(unit, nowMs)];
    return { unitId: unit.id, name: unit.name, note, blocks, outs: unit.outs, tauMs: unit.tauMs };
  });
}

/** The ledger now, while the day lasts. */
function heatNote(unit: PlannedDay["question"]["request"]["units"][number], nowMs: number | null): string[] {
  if (nowMs === null) return [];
  const heat = heatShare(unit.heat, unit.tauMs, nowMs);
  const percent = Math.ceil(heat * 100 - 1e-9);
  return [heat < WARM_SHARE ? `now cold (${percent} %)` : `now ${percent} % warm`];
}

function powerNote(blocks: readonly Block[], stock: PlannedDay["question"]["request"]["stock"]): string {
  if (blocks.length === 0) return "nothing planned";
  const mains = blocks.filter((b) => b.setup.condition.power === "dummy or mains").length;
  if (mains === blocks.length) return "dummy or mains";
  const used = new Set(blocks.flatMap((b) => b.needs.map((n) => n.itemId)));
  const batteries = stock.filter((i) => isBattery(i) && used.has(i.id)).reduce((sum, i) => sum + i.count, 0);
  const words = batteries === 0 ? "own batteries" : batteries === 1 ? "one battery" : `${batteries} batteries`;
  return mains > 0 ? `${words}, and mains` : words;
}

export function realRunOf({ evidence, day }: Pick<PlannedDay, "evidence" | "day">, block: Block): SeenRun | null {
  if (block.state === "planned") return null;
  return (
    evidence.runs.find((r) =>
      block.slot === null
        ? r.fold.startMs === block.startMs && r.fold.setup?.unit.id === block.unitId
        : r.fold.startMs === block.startMs && r.fold.setup?.slot?.slot === block.slot && r.fold.setup.slot.dayId === day.id,
    ) ?? null
  );
}

/** Runs of stand-ins are named on every print and export. */
export const dayNote = ({ plan }: Pick<PlannedDay, "plan">): string =>
  plan.bench === "real" ? "" : `Runs of simulated bodies on the ${plan.bench} clock: never mixed with real ones.`;
