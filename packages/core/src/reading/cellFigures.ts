// Published times of a cell's mode: the maker's judged, other testers' explained.

import { typicalOf } from "../cells/index.ts";
import type { Figure } from "../kit/index.ts";
import { saidOf } from "../kit/index.ts";
import type { FewRuns } from "./publishedTimes.ts";
import { besideFew } from "./publishedTimes.ts";
import type { RatingCheck, WaterfallResult } from "./rating.ts";
import { checkRating, codecFactor, FAIR_C, waterfall } from "./rating.ts";
import type { CellRecords } from "./records.ts";
import type { Shared } from "./shared.ts";

export interface FigureReading {
  figure: Figure;
  check: RatingCheck | null;
  waterfall: WaterfallResult | null;
  /** Where no difference can be laid out in numbers: what can be said all the same. */
  few: FewRuns | null;
}

export function figuresOf(s: Shared, cell: CellRecords): FigureReading[] {
  const { mode } = cell.setup;
  const { firmware } = cell.setup.unit;
  const records = s.heat.cells.filter((c) => c.setup.mode.id === mode.id && c.setup.unit.firmware === firmware).flatMap((c) => c.records);
  const like = cell.records[0];
  return s.q.figures
    .filter((f) => f.modeId === mode.id)
    .map((figure) => {
      const check = figure.kind === "rated" ? checkRating(figure, records, s.q.levels, fairLimitSec(s, figure, cell)) : null;
      const codec = codecFactor(s.effects, mode, saidOf(figure.says?.compression));
      const laidOut = like === undefined ? null : waterfall(figure, like, typicalOf(cell), s.effects, codec);
      const few = figure.kind === "outside" && laidOut?.ok !== true ? besideFew(figure, records) : null;
      return { figure, check, waterfall: laidOut, few };
    });
}

/** The lowest limit of the cells that are the rating's condition, whichever cell is open; null: none of them has one. */
function fairLimitSec({ heat, heatLimits }: Shared, figure: Figure, like: CellRecords): number | null {
  const fair = heatLimits.flatMap((limit, i) => {
    const { mode, unit, condition } = (heat.cells[i] as CellRecords).setup;
    const same = mode.id === figure.modeId && unit.firmware === like.setup.unit.firmware;
    const near = figure.ambientC === null || Math.abs(condition.ambientC - figure.ambientC) <= FAIR_C;
    return limit.ok && same && near && condition.sun !== "direct" && condition.air !== "fan" ? [limit.lowerMs / 1000] : [];
  });
  return fair.length === 0 ? null : Math.min(...fair);
}
