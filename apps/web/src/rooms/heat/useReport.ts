// The unit's reading, asked of the worker whenever runs, figures or what is wanted change. The last reading stays until the new one is there.

import { protocolTauMin } from "@keep-rolling/core/heat";
import type { Kit } from "@keep-rolling/contract/kit";
import type { UnitQuestion, UnitReport } from "@keep-rolling/core/reading";
import { msToFull } from "@keep-rolling/core/planning";
import type { Endpoint } from "@keep-rolling/core/runs";
import { modeKey } from "@keep-rolling/core/kit";
import { startTransition, useEffect, useMemo, useState } from "react";
import type { SeenRun } from "../../record/runs.ts";
import type { NextAnswer, NextQuestion } from "../../workers/jobs/nextRuns.ts";
import { bare, inParts, lean, RUNS_A_PART } from "../../workers/jobs/runParts.ts";
import { isAbandoned, pool } from "../../workers/pool.ts";
import type { ClaimLevels } from "./cells.ts";

export interface Reading<T> {
  answer: T | null;
  /** The answer belongs to an older question. */
  stale: boolean;
  trouble: string | null;
}

function useAnswer<Q, T>(question: Q | null, ask: (question: Q, signal: AbortSignal) => Promise<T>): Reading<T> {
  const [got, setGot] = useState<{ question: Q; answer: T } | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    if (question === null) return;
    const asking = new AbortController();
    ask(question, asking.signal).then(
      // Drawn piece by piece: keys and presses come first.
      (answer) =>
        startTransition(() => {
          setTrouble(null);
          setGot({ question, answer });
        }),
      (error: unknown) => {
        if (!isAbandoned(error)) setTrouble(error instanceof Error ? error.message : String(error));
      },
    );
    return () => asking.abort();
  }, [question, ask]);
  return { answer: got?.answer ?? null, stale: got?.question !== question, trouble };
}

const askUnit = (question: UnitQuestion, signal: AbortSignal): Promise<UnitReport> =>
  pool.call("readUnit", bare(question), { signal, parts: inParts(question.candidates, RUNS_A_PART).map((part) => part.map(lean)) });
const askNext = (question: NextQuestion, signal: AbortSignal): Promise<NextAnswer> => pool.call("nextRuns", question, { signal });

export function useReport(runs: readonly SeenRun[], kit: Kit | undefined, endpoint: Endpoint, levels: ClaimLevels, assumedSd: number) {
  const question = useMemo(() => questionOf(runs, kit, endpoint, levels, assumedSd), [runs, kit, endpoint, levels, assumedSd]);
  return useAnswer(question, askUnit);
}

function questionOf(
  runs: readonly SeenRun[],
  kit: Kit | undefined,
  endpoint: Endpoint,
  levels: ClaimLevels,
  assumedSd: number,
): UnitQuestion | null {
  if (kit === undefined) return null;
  const candidates = runs.map((r) => ({ runId: r.id, fold: r.fold, struck: r.row?.struck ?? null }));
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
    settings: { assumedSd, draws: 2000, seed: 20_310_601 },
  };
}

/** Asked only while the question is open: it draws many runs to come. */
export function useNext(report: UnitReport | null, wantedSec: number | null): Reading<NextAnswer> {
  const question = useMemo((): NextQuestion | null => {
    if (report === null) return null;
    const cells = report.cells.map((c) => ({
      key: c.key,
      setup: c.setup,
      records: c.runs,
      coolSec: COLD_REST_TAUS * report.ledger.tauMin * 60,
    }));
    return {
      cells,
      bounds: report.cells.map((c) => c.bound),
      levels: report.levels,
      wantedSec: report.cells.map((c) => wantedSec ?? wantedOf(c)),
    };
  }, [report, wantedSec]);
  return useAnswer(question, askNext);
}

/** From a shutdown to a tenth of the heat. */
const COLD_REST_TAUS = Math.log(10);
/** Without a time named: three quarters of the typical run. */
const wantedOf = ({ typicalSec }: UnitReport["cells"][number]): number | null => (typicalSec === null ? null : 0.75 * typicalSec);
