// The chance of a run under way to reach a time, from earlier shutdowns of its cell and how fast its gauge climbs, and how well that has told
// earlier runs. Asked anew every ten seconds of recording: it moves slowly, and figures that flicker are not read.

import type { Kit } from "@keep-rolling/contract/kit";
import { calibrate, chanceToReach, hms, outlook, pastOf, pathOf, STATED, timeOfChance } from "@keep-rolling/core/reading";
import { unitKey } from "@keep-rolling/core/planning";
import { cellKey } from "@keep-rolling/core/kit";
import { eligible } from "@keep-rolling/core/cells";
import { recordedAt } from "@keep-rolling/core/runs";
import { useMemo } from "react";
import { Link } from "react-router";
import { useCellEvidence } from "../../shared/day/useDay.ts";
import type { WatchedRun } from "../../record/runs.ts";

const EVERY_SEC = 10;

export function LiveChance({ run, kit, nowMs }: { run: WatchedRun; kit: Kit; nowMs: number }) {
  const { setup } = run.fold;
  const { evidence } = useCellEvidence(kit, setup);
  const key = setup === null ? null : cellKey(setup);
  const known = useMemo(() => {
    if (evidence === null || setup === null || key === null) return null;
    const mine = evidence.runs.filter((r) => r.fold.setup !== null && cellKey(r.fold.setup) === key);
    const folds = new Map(mine.map((r) => [r.id, r.fold]));
    const { counted } = eligible(
      mine.map((r) => ({ runId: r.id, fold: r.fold, struck: r.row?.struck ?? null })),
      "shutdown",
    );
    const past = pastOf(
      counted.flatMap((c) => {
        const fold = folds.get(c.runId);
        return fold === undefined ? [] : [{ runId: c.runId, timeSec: c.timeMs.lo / 1000, event: c.event, fold }];
      }),
    );
    const scatter = evidence.earlier.scatter.get(unitKey(setup)) ?? null;
    return { past, scatter, calibration: calibrate(past, scatter) };
  }, [evidence, setup, key]);
  const sinceSec = Math.floor(recordedAt(run.fold, nowMs) / 1000 / EVERY_SEC) * EVERY_SEC;
  const words = useMemo(() => (known === null ? null : chanceWords(known, run, sinceSec)), [known, run, sinceSec]);
  if (words === null) return null;
  return (
    <section aria-label="Live chance" className="mb-3 text-sm text-soft">
      <p>
        {words} <Link to={`/heat/${setup?.unit.id ?? ""}/levelled?cell=${run.id}`}>Its runs and method</Link>
      </p>
      {known !== null && known.calibration.some((c) => c.runs > 0) && (
        <p>
          {`Of earlier runs told the same way, ${known.calibration
            .filter((c) => c.runs > 0)
            .map((c) => `${c.reached} of ${c.runs} at ${100 * c.at} % of their length`)
            .join(", ")} reached the time given ${100 * STATED} %.`}
        </p>
      )}
    </section>
  );
}

interface Known {
  past: Parameters<typeof outlook>[0];
  scatter: Parameters<typeof outlook>[3];
}
function chanceWords({ past, scatter }: Known, run: WatchedRun, sinceSec: number): string | null {
  const gauge = run.channels.find((c) => c.channel === "gauge")?.readings ?? [];
  const o = outlook(past, pathOf(run.fold, "gauge", gauge), sinceSec, scatter);
  if (!o.ok) return null;
  const chances = [300, 600, 1200].map((more) => Math.ceil((sinceSec + more) / 300) * 300);
  const list = [...new Set(chances)].map((sec) => `${hms(sec)} with ${Math.floor(100 * chanceToReach(o, sec, sinceSec))} %`).join(", ");
  const pace = o.pace === null ? "" : ` Its gauge climbs at ${Math.round(100 / o.pace)} % of the pace of earlier runs.`;
  return `Heat: reaches ${hms(timeOfChance(o, STATED, sinceSec))} with a chance of ${100 * STATED} %; ${list}.${pace}`;
}
