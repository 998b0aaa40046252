// The unit's reading, asked of the worker whenever runs, figures or what is wanted change. The last reading stays until the new one is there.

import { protocolTauMin } from "@keep-rolling/core/heat";
import type { Kit } from "@keep-rolling/contract/kit";
import type { UnitQuestion, UnitReport } from "@keep-rolling/core/reading";
import { limitSettings } from "@keep-rolling/core/reading";
import { msToFull } from "@keep-rolling/core/planning";
import type { Endpoint } from "@keep-rolling/core/runs";
import { modeKey } from "@keep-rolling/core/kit";
import { useMemo } from "react";
import type { SeenRun } from "../../record/runs.ts";
import { zoneOf } from "../../shared/dates/dates.ts";
import type { NextAnswer, NextQuestion } from "../../workers/jobs/nextRuns.ts";
import { bare, inParts, lean, RUNS_A_PART } from "../../workers/jobs/runParts.ts";
import type { Reading } from "../../shared/reading/useAnswer.ts";
import { useAnswer } from "../../shared/reading/useAnswer.ts";
import { pool } from "../../workers/pool.ts";
import type { ClaimLevels } from "./cells.ts";
import { candidateOf } from "./cells.ts";

const askUnit = (question: UnitQuestion, signal: AbortSignal): Promise<UnitReport> =>
  pool.call("readUnit", bare(question), { signal, parts: inParts(question.candidates, RUNS_A_PART).map((part) => part.map(lean)) });
const askNext = (question: NextQuestion, signal: AbortSignal): Promise<NextAnswer> => pool.call("nextRuns", question, { signal });

export function useReport(runs: readonly SeenRun[], kit: Kit | undefined, endpoint: Endpoint, levels: ClaimLevels) {
  const question = useMemo(() => questionOf(runs, kit, endpoint, levels), [runs, kit, endpoint, levels]);
  return useAnswer(question, askUnit);
}

function questionOf(runs: readonly SeenRun[], kit: Kit | undefined, endpoint: Endpoint, levels: ClaimLevels): UnitQuestion | null {
  if (kit === undefined) return null;
  const candidates = runs.map(candidateOf);
  const modes = runs.flatMap((r) => (r.fold.setup === null ? [] : [r.fold.setup.mode]));
  const cards = kit.items.flatMap((i) => (i.spec.kind === "card" && !i.archived ? [i.spec.capacityGb] : []));
  const largest = cards.length === 0 ? null : Math.max(...cards);
  const cardSec = Object.fromEntries(largest === null ? [] : modes.map((m) => [modeKey(m), msToFull(largest, m.mbps) / 1000]));
  return {
    candidates,
    endpoint,
    levels,
    tauMin: protocolTauMin(candidates),
    figures: kit.figures.filter((f) => !f.archived),
    cardSec,
    zone: zoneOf(runs[0]?.row?.clockKind ?? "real"),
  };
}

/** Asked only while the question is open: it draws many runs to come. `wantedSec`: of the cell with this key; null: three quarters of its typical run. */
export function useNext(report: UnitReport | null, key: string, wantedSec: number | null): Reading<NextAnswer> {
  const question = useMemo((): NextQuestion | null => {
    if (report === null) return null;
    const coolSec = COLD_REST_TAUS * report.ledger.tauMin * 60;
    const here = report.cells.find((c) => c.key === key);
    return {
      cells: report.cells.map((c) => ({ key: c.key, setup: c.setup, records: c.runs, coolSec })),
      settings: limitSettings(report.levels, report.ledger),
      key,
      wantedSec: wantedSec ?? (here === undefined ? null : wantedOf(here)),
    };
  }, [report, key, wantedSec]);
  return useAnswer(question, askNext);
}

/** From a shutdown to a tenth of the heat. */
const COLD_REST_TAUS = Math.log(10);
/** Without a time named: three quarters of the typical run. */
const wantedOf = ({ typicalSec }: UnitReport["cells"][number]): number | null => (typicalSec === null ? null : 0.75 * typicalSec);
