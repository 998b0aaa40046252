// What is cooling, and until when: units whose last runs left heat in them.

import type { Kit } from "@keep-rolling/contract/kit";
import { heatShare, intervalsOf, restNeededMs, UNKNOWN_PLATEAU, WARM_SHARE } from "@keep-rolling/core/heat";
import { formatSpan } from "@keep-rolling/core/format";
import { useBenchNow, useClock } from "../../record/benchTime.ts";
import { tauOfUnit } from "../../shared/day/tau.ts";
import type { SeenRun } from "../../record/runs.ts";
import { isOpen } from "../../record/runs.ts";

export function Cooling({ unit, runs }: { unit: Kit["units"][number]; runs: readonly SeenRun[] }) {
  const clock = useClock(unit.bench);
  const nowMs = useBenchNow(clock, 5000);
  const mine = runs.filter((r) => r.fold.setup?.unit.id === unit.id);
  if (mine.length === 0 || mine.some(isOpen) || clock === undefined) return null;
  const tauMs = tauOfUnit(mine, unit.id);
  // A mode not known to shut down is taken to heat as if it just would: never cold too early.
  const heat = heatShare(
    mine.flatMap((r) => intervalsOf(r.fold, UNKNOWN_PLATEAU, nowMs)),
    tauMs,
    nowMs,
  );
  if (heat < WARM_SHARE) return null;
  return (
    <li className="hairline py-2">
      <span className="font-semibold">{unit.name}</span>{" "}
      <span className="text-soft">
        cooling, <span className="num">{Math.ceil(heat * 100)} %</span> warm: cold in {formatSpan(restNeededMs(heat, tauMs))} by a time
        constant of {formatSpan(tauMs)}
      </span>
    </li>
  );
}
