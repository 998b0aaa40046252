// Today's planned day on the bench: what to start next, and whether something stands in its way.

import type { Kit } from "@keep-rolling/contract/kit";
import { formatSpan } from "@keep-rolling/core/format";
import { Link } from "react-router";
import { clockOf } from "../../shared/day/frame.ts";
import { useDay } from "../../shared/day/useDay.ts";

const SHOWN = 3;

export function Today({ dayId, kit }: { dayId: string; kit: Kit }) {
  const state = useDay(dayId);
  if (state.state !== "planned") return null;
  const { day, schedule, clockNowMs } = state.day;
  const next = schedule.blocks.filter((b) => b.state === "planned").slice(0, SHOWN);
  return (
    <li className="hairline py-2">
      <Link className="font-semibold" to={`/plan/days/${day.id}`}>
        {day.name}
      </Link>
      <ul>
        {next.map((b) => (
          <li key={b.slot} className="flex flex-wrap items-baseline gap-x-3 py-1">
            <span className="num font-semibold">{clockOf(day, b.startMs)}</span>
            <Link to={`/roll?day=${day.id}&slot=${encodeURIComponent(b.slot ?? "")}`}>
              {`${kit.units.find((u) => u.id === b.unitId)?.name ?? ""}, ${b.setup.mode.name}, ${b.setup.condition.name}`}
            </Link>
            <span className="text-sm text-soft">
              {b.startMs > clockNowMs ? `in ${formatSpan(b.startMs - clockNowMs)}` : "now"}
              {b.flags.length > 0 && " · see the day for what stands in its way"}
            </span>
          </li>
        ))}
        {next.length === 0 && <li className="py-1 text-soft">Nothing is left to start today.</li>}
      </ul>
      {schedule.notPlaced.length > 0 && (
        <p className="text-sm text-alert">
          {schedule.notPlaced.length === 1
            ? "One run does not fit into the day."
            : `${schedule.notPlaced.length} runs do not fit into the day.`}
        </p>
      )}
    </li>
  );
}
