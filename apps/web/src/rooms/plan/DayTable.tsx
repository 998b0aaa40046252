// The day as a table: what the ruler shows, in figures.

import { formatTick } from "@keep-rolling/core/format";
import { clockOf } from "../../shared/day/frame.ts";
import type { PlannedDay } from "../../shared/day/useDay.ts";
import { aheadWords, needsWords } from "./words.ts";

export function DayTable({ planned }: { planned: PlannedDay }) {
  const { schedule, kit, day } = planned;
  return (
    <div className="mb-6 overflow-x-auto" tabIndex={0} role="region" aria-label="The day as a table">
      <table className="w-full text-sm">
        <thead>
          <tr className="text-left text-soft">
            {["Start", "Unit", "Mode", "Condition", "Lasts", "Known ends", "Heat at start", "GB", "With"].map((h) => (
              <th key={h} scope="col" className="py-1.5 pr-4 font-normal">
                {h}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {schedule.blocks.map((b) => (
            <tr key={b.slot ?? b.startMs} className="hairline align-baseline">
              <th scope="row" className="num py-1.5 pr-4 text-left font-semibold">
                {clockOf(day, b.startMs)}
              </th>
              <td className="pr-4">{kit.units.find((u) => u.id === b.unitId)?.name}</td>
              <td className="pr-4">{b.setup.mode.name}</td>
              <td className="pr-4">{b.setup.condition.name}</td>
              <td className="num pr-4 whitespace-nowrap">
                {b.state === "ended"
                  ? formatTick(b.endHiMs - b.startMs)
                  : `${formatTick(b.endLoMs - b.startMs)} to ${formatTick(b.endHiMs - b.startMs)}`}
                <span className="font-text text-soft">{b.state === "planned" ? "" : ` ${b.state}`}</span>
              </td>
              <td className="pr-4">{aheadWords(b.ahead)}</td>
              <td className="num pr-4">{`${Math.ceil(b.heatAtStart * 100 - 1e-9)} %`}</td>
              <td className="num pr-4">{Math.ceil(b.gb)}</td>
              <td>{needsWords(b) || "—"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
