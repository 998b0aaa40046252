// How warm a body still is, and until when. Every run of the unit speaks, as on the other pages.

import { bodyHeat, WARM_SHARE } from "@keep-rolling/core/heat";
import type { Kit } from "@keep-rolling/contract/kit";
import { useMemo } from "react";
import { useBenchNow, useClock } from "../../record/benchTime.ts";
import { isOpen, useRuns } from "../../record/runs.ts";
import { warmWords } from "../../shared/body-heat/words.ts";

const MINUTE_MS = 60_000;

export function CoolingNow({ unit }: { unit: Kit["units"][number] }) {
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
