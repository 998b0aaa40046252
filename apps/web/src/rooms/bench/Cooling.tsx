// Which bodies may still be cooling: those powered within a day. Only for them runs are read and the heat is fetched and computed.

import type { Kit } from "@keep-rolling/contract/kit";
import { useBenchNow, useClock } from "../../record/benchTime.ts";
import { useRuns } from "../../record/runs.ts";
import { Later, laterPart } from "../../shared/ui/Later.tsx";

const CoolingNow = laterPart(async () => (await import("./CoolingNow.tsx")).CoolingNow);

const MINUTE_MS = 60_000;
/** After a day nothing is left in any body: its time constant would have to be ten hours. */
const COLD_AFTER_MS = 24 * 3_600_000;

export function Cooling({ unit }: { unit: Kit["units"][number] }) {
  const clock = useClock(unit.bench);
  const nowMs = useBenchNow(clock, MINUTE_MS);
  const { runs } = useRuns({ unit: unit.id, latest: 1 });
  const lastMs = runs[0]?.fold.end?.hiMs ?? runs[0]?.fold.startMs ?? null;
  if (lastMs === null || nowMs - lastMs > COLD_AFTER_MS) return null;
  return (
    <Later>
      <CoolingNow unit={unit} />
    </Later>
  );
}
