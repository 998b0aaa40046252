// The chance of a run under way to reach a time, from earlier shutdowns of its cell and how fast its gauge climbs, and how well that has told
// earlier runs. Asked anew every ten seconds of recording: it moves slowly, and figures that flicker are not read.

import type { Kit } from "@keep-rolling/contract/kit";
import type { StartBody } from "@keep-rolling/core/runs";
import { protocolTauMin, timeConstantOf } from "@keep-rolling/core/heat";
import { chanceToReach, hms, limitSettings, outlook, pastOf, pathOf, STATED, timeOfChance } from "@keep-rolling/core/reading";
import { cellKey } from "@keep-rolling/core/kit";
import { DEFAULT_LEVELS } from "@keep-rolling/core/cells";
import { recordedAt } from "@keep-rolling/core/runs";
import { useMemo } from "react";
import { Link } from "react-router";
import type { Evidence } from "../../shared/day/evidence.ts";
import { useCellEvidence } from "../../shared/day/useDay.ts";
import { useLive } from "../../shared/reading/useLive.ts";
import type { WatchedRun } from "../../record/runs.ts";
import type { LiveAnswer, LiveQuestion } from "../../workers/jobs/liveChance.ts";

const EVERY_SEC = 10;

export function LiveChance({ run, kit, nowMs }: { run: WatchedRun; kit: Kit; nowMs: number }) {
  const { setup } = run.fold;
  const { evidence } = useCellEvidence(kit, setup);
  const question = useMemo(() => (evidence === null || setup === null ? null : questionOf(evidence, setup)), [evidence, setup]);
  const { answer } = useLive(question);
  const sinceSec = Math.floor(recordedAt(run.fold, nowMs) / 1000 / EVERY_SEC) * EVERY_SEC;
  const words = useMemo(
    () => (answer === null || question === null ? null : chanceWords(answer, question.past, run, sinceSec)),
    [answer, question, run, sinceSec],
  );
  if (words === null) return null;
  return (
    <section aria-label="Live chance" className="space-y-1">
      <p>
        {words} <Link to={`/heat/${setup?.unit.id ?? ""}/levelled?cell=${run.id}`}>Its runs and method</Link>
      </p>
      {answer?.calibration.some((c) => c.runs > 0) === true && (
        <p>
          {`Of earlier runs told the same way, ${answer.calibration
            .filter((c) => c.runs > 0)
            .map((c) => `${c.reached} of ${c.runs} at ${100 * c.at} % of their length`)
            .join(", ")} reached the time given ${100 * STATED} %.`}
        </p>
      )}
    </section>
  );
}

/** Null: no earlier run of this cell counts. */
function questionOf(evidence: Evidence, setup: StartBody): LiveQuestion | null {
  const key = cellKey(setup);
  const cell = evidence.earlier.cells.find((c) => c.key === key);
  if (cell === undefined) return null;
  const { cells, index, candidates } = evidence.earlier.unitOf(cell);
  const folds = new Map(candidates.map((c) => [c.runId, c.fold]));
  const past = pastOf(
    cell.records.flatMap((r) => {
      const fold = folds.get(r.runId);
      return fold === undefined ? [] : [{ ...r, fold }];
    }),
  );
  const settings = limitSettings(DEFAULT_LEVELS, timeConstantOf(candidates, protocolTauMin(candidates)));
  return { cells: cells.map((c) => ({ setup: c.setup, records: c.records })), index, past, settings };
}

function chanceWords({ curve }: LiveAnswer, past: LiveQuestion["past"], run: WatchedRun, sinceSec: number): string | null {
  const gauge = run.channels.find((c) => c.channel === "gauge")?.readings ?? [];
  const o = outlook(curve, past, pathOf(run.fold, "gauge", gauge), sinceSec);
  if (!o.ok) return null;
  const chances = [300, 600, 1200].map((more) => Math.ceil((sinceSec + more) / 300) * 300);
  const list = [...new Set(chances)].map((sec) => `${hms(sec)} with ${Math.floor(100 * chanceToReach(o, sec, sinceSec))} %`).join(", ");
  const pace = o.pace === null ? "" : ` Its gauge climbs at ${Math.round(100 / o.pace)} % of the pace of earlier runs.`;
  return `Heat: reaches ${hms(timeOfChance(o, STATED, sinceSec))} with a chance of ${100 * STATED} %; ${list}.${pace}`;
}
