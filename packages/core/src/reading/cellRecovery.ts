// How a cell comes back: its recoveries, fallbacks and duty cycles.

import type { CandidateRun } from "../cells/index.ts";
import { typicalOf } from "../cells/index.ts";
import type { Recovery } from "../heat/index.ts";
import { recoveriesOf } from "../heat/index.ts";
import { summarise } from "../runs/index.ts";
import { lessThanTypical } from "./cellReport.ts";
import type { CellLimit } from "./limit.ts";
import type { CellRecords } from "./records.ts";
import type { DutyLine, RecoveryResult } from "./recovery.ts";
import { dutyLines, fitRecovery } from "./recovery.ts";
import type { Shared } from "./shared.ts";

export interface RecoveryReading {
  points: Recovery[];
  fit: RecoveryResult;
  fallbacks: { runId: string; timeSec: number; event: 0 | 1; mode: string }[];
  duty: DutyLine[];
  /** What the duty lines rest on: the bound where there is one, else the typical time less its margin. */
  dutyFromSec: number | null;
}

/** Duty cycles are told for these minutes on, for ever and for an afternoon of four hours. */
export const DUTY_ONS_SEC = [5, 10, 15, 20, 30].map((m) => m * 60);
export const AFTERNOON_SEC = 4 * 3600;

export function recoveryOf(s: Shared, key: string, heat: CellRecords, limit: CellLimit): RecoveryReading {
  const cold = (c: CandidateRun): number | null => {
    const home = s.heat.cells.find((u) => u.key === s.cellOf.get(c.runId));
    return home === undefined ? null : typicalOf(home);
  };
  const mine = s.q.candidates.filter((c) => s.cellOf.get(c.runId) === key);
  const points = recoveriesOf(s.q.candidates, cold).filter((r) => mine.some((c) => c.runId === r.runId));
  const tauSec = s.q.tauMin * 60;
  const fit = fitRecovery(points, typicalOf(heat), tauSec, heat.records.filter((r) => r.event === 1).length);
  const parents = new Set(mine.map((c) => c.runId));
  const fallbacks = s.q.candidates
    .filter(
      (c) =>
        c.fold.setup?.runKind === "fallback" &&
        c.fold.state === "ended" &&
        c.struck === null &&
        parents.has(c.fold.setup.parentRunId ?? ""),
    )
    .map((c) => ({
      runId: c.runId,
      timeSec: summarise(c.fold, 0).recordedMs.lo / 1000,
      event: c.fold.end?.cause === "thermal shutdown" ? (1 as const) : (0 as const),
      mode: c.fold.setup?.mode.name ?? "",
    }));
  const dutyFromSec = limit.ok ? limit.lowerMs / 1000 : lessThanTypical(heat);
  const duty = !fit.ok || dutyFromSec === null ? [] : dutyLines(dutyFromSec, tauSec, fit.range.hi, AFTERNOON_SEC, DUTY_ONS_SEC);
  return { points, fit, fallbacks, duty, dutyFromSec };
}
