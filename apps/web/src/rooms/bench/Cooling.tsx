// What is cooling, and until when: units whose runs left heat in them. Every run of the unit speaks, as on the other pages.

import { bodyHeat } from "@keep-rolling/core/heat";
import type { Kit } from "@keep-rolling/contract/kit";
import { WARM_SHARE } from "@keep-rolling/core/heat";
import { useMemo } from "react";
import { useBenchNow, useClock } from "../../record/benchTime.ts";
import { isOpen, useRuns } from "../../record/runs.ts";
import { warmWords } from "../../shared/body-heat/words.ts";

const MINUTE_MS = 60_000;

/** After a day nothing is left in any body: its time constant would have to be ten hours. */
const COLD_AFTER_MS = 24 * 3_600_000;

/** The unit's runs are read only when the last of them is recent enough to have left heat. */
export function Cooling({ unit }: { unit: Kit["units"][number] }) {
  const clock = useClock(unit.bench);
  const nowMs = useBenchNow(clock, MINUTE_MS);
  const { runs } = useRuns({ unit: unit.id, latest: 1 });
  const lastMs = runs[0]?.fold.end?.hiMs ?? runs[0]?.fold.startMs ?? null;
  return lastMs === null || nowMs - lastMs > COLD_AFTER_MS ? null : <CoolingNow unit={unit} />;
}

function CoolingNow({ unit }: { unit: Kit["units"][number] }) {
  const clock = useClock(unit.bench);
  const nowMs = Math.floor(useBenchNow(clock, 5000) / MINUTE_MS) * MINUTE_MS;
  const { runs, isLoading } = useRuns({ unit: unit.id });
  const body = useMemo(
    () =>
      bodyHeat(
        runs.map((r) => ({ runId: r.id, fold: r.fold, struck: r.row?.struck ?? null })),
        nowMs,
      ),
    [runs, nowMs],
  );
  if (isLoading || runs.length === 0 || runs.some(isOpen) || clock === undefined || body.share < WARM_SHARE) return null;
  return (
    <li className="hairline py-2">
      <span className="font-semibold">{unit.name}</span> <span className="text-soft">cooling, {warmWords(body)}</span>
    </li>
  );
}
