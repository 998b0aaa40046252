// What the crew still wants to know before the regatta, and the Sunday on which the demo opens.

import type { DayDoc, PlanCell, PlanDoc } from "@keep-rolling/contract/plan";
import { UNTIL_IT_STOPS } from "./builtIn.ts";
import { demoId } from "./ids.ts";
import { SPARE_CARD_ID } from "./items.ts";

type Named = { id: string };
interface Units {
  plover: string;
  tern: string;
  wader: string;
}
type Modes = Readonly<Record<"ploverHot" | "ploverDay" | "ternFast" | "ternDay" | "waderDay" | "waderLight", Named>>;
type Conditions = Readonly<Record<"boathouse" | "boathouseMains" | "pontoon" | "tower", Named>>;

export function planOf(units: Units, modes: Modes, conditions: Conditions): PlanDoc {
  let n = 300;
  const cell = (unitId: string, mode: Named, condition: Named, trials: number, skip: string | null = null): PlanCell => ({
    id: demoId("kit", ++n),
    unitId,
    modeId: mode.id,
    conditionId: condition.id,
    protocolId: UNTIL_IT_STOPS.id,
    trials,
    skip,
  });
  return {
    id: demoId("kit", 300),
    archived: false,
    name: "Before the regatta",
    bench: "demo",
    cells: [
      cell(units.plover, modes.ploverHot, conditions.boathouse, 6),
      cell(units.plover, modes.ploverHot, conditions.pontoon, 5),
      cell(units.plover, modes.ploverDay, conditions.boathouse, 4),
      cell(units.plover, modes.ploverDay, conditions.pontoon, 2),
      cell(units.tern, modes.ternFast, conditions.tower, 6),
      cell(units.tern, modes.ternDay, conditions.pontoon, 3),
      cell(units.tern, modes.ternFast, conditions.pontoon, 0, "the finish is only filmed from the tower"),
      cell(units.wader, modes.waderDay, conditions.boathouse, 4),
      cell(units.wader, modes.waderDay, conditions.pontoon, 4),
      cell(units.wader, modes.waderLight, conditions.tower, 3),
    ],
  };
}

const SUNNY_ID = demoId("kit", 123);

export const sundayOf = (plan: PlanDoc, units: readonly string[]): DayDoc => ({
  id: demoId("kit", 340),
  archived: false,
  name: "Sunday at the boathouse and on the pontoon",
  planId: plan.id,
  date: "2031-06-15",
  zone: "UTC",
  fromMin: 9 * 60 + 45,
  toMin: 19 * 60,
  orderSchool: "balanced",
  seed: 7,
  units: [...units],
  sun: [{ fromMin: 12 * 60, toMin: 17 * 60 }],
  weather: [
    { fromMin: 9 * 60 + 45, toMin: 12 * 60, tempC: 25, humidityPct: 55, sun: false },
    { fromMin: 12 * 60, toMin: 17 * 60, tempC: 29, humidityPct: 48, sun: false },
    { fromMin: 17 * 60, toMin: 19 * 60, tempC: 26, humidityPct: 52, sun: false },
  ],
  chargers: 1,
  turnoverMin: 15,
  // The towpath crew means to use its little spare card: the day says what that costs.
  choices: plan.cells
    .filter((c) => c.unitId === units[2] && c.conditionId === SUNNY_ID && c.trials > 0)
    .map((c) => ({ slot: `${c.id}#3`, startMin: null, cardId: SPARE_CARD_ID, swaps: null, out: false })),
});
