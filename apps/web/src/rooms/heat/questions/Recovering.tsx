// How does it come back? Recovery against rest, zero included; the rest to plan with; fallback runs; duty cycles that can go on.

import { timeConstantWords } from "@keep-rolling/core/heat";
import { shareAfterRest } from "@keep-rolling/core/heat";
import { LEAST_RECOVERIES } from "@keep-rolling/core/heat";
import type { TimeConstant } from "@keep-rolling/core/heat";
import { hms, recoveryWords } from "@keep-rolling/core/reading";
import { formatSpan } from "@keep-rolling/core/format";
import { RecoveryChart } from "../charts.tsx";
import { ChartTable, Lead, Opened, PlainTable, Reason, Reasons } from "../parts.tsx";
import type { Answerable } from "./ask.ts";

const span = (sec: number): string => formatSpan(Math.round(sec) * 1000);

export function Recovering({ full, runs, report }: Answerable) {
  const { points, fit, fallbacks, duty, dutyFromSec } = full.recovery;
  const zero = points.filter((p) => p.timeSec === 0);
  return (
    <div>
      <Lead about={`${full.setup.mode.name}, ${full.setup.condition.name}, after a shutdown:`}>{recoveryWords(fit)}</Lead>
      {points.length > 0 && (
        <>
          <Chart {...{ full, report }} />
          <ChartTable
            what="Recoveries"
            heads={["Rest", "Recorded then", "Of the cold time"]}
            rows={points.map((p) => [
              span(p.restSec),
              p.timeSec === 0 ? "refused: zero" : `${p.event === 1 ? "" : "≥ "}${hms(p.timeSec)}`,
              `${Math.floor(100 * p.share)} %`,
            ])}
          />
        </>
      )}
      <Reasons>
        {zero.map((p) => (
          <Reason
            key={p.runId}
            title={`Zero after ${span(p.restSec)}:`}
            text="the body refused the same mode. A result, and part of the fit."
          />
        ))}
        {fallbacks.map((f) => (
          <Reason
            key={f.runId}
            title={`Fallback: ${f.mode}`}
            text={`recorded ${f.event === 1 ? "" : "at least "}${hms(f.timeSec)} right after a shutdown.`}
          />
        ))}
        {points.length > 0 && <Reason title="The heat left in the body" text={ledgerWords(report.ledger)} />}
        {fit.ok && duty.length === 0 && (
          <Reason title="No duty cycle." text="It needs a dependable limit or a typical cold time to start from." />
        )}
      </Reasons>
      {duty.length > 0 && dutyFromSec !== null && (
        <div className="print-keep mt-4 overflow-x-auto" tabIndex={0} role="region" aria-label="Duty cycles">
          <PlainTable
            caption="Minutes on, and the powered-off rest between"
            heads={["On", "Off, for ever", "Off, for four hours"]}
            rows={duty.map((d) => [minutes(d.onSec), restWords(d.offForeverSec), restWords(d.offForSec)])}
          />
          <p className="mt-1 text-sm text-soft">
            {`From a cold time of ${hms(dutyFromSec)}, staying a tenth below shutdown, cooling by the slow end of the range. Predicted, not tested: let a duty run prove it. The maker's manual comes first.`}
          </p>
        </div>
      )}
      {points.length > 0 && (
        <Opened
          what="the recovery"
          runIds={points.map((p) => p.runId)}
          runs={runs}
          method={`One body, all of one heat: heat is 1 at a shutdown and falls with a cooling constant${fit.ok ? ` of ${span(fit.tauCoolSec)} (range ${span(fit.range.lo)} to ${span(fit.range.hi)})` : ""}, fitted by least squares to the shares; the mode then runs τ ln((p − h) / (p − 1)), τ ${report.tauMin} min. Taken for granted: one body, powered off meanwhile, the same room.`}
        />
      )}
    </div>
  );
}

/** What planner, console and start heats work with now. */
const ledgerWords = (t: TimeConstant): string =>
  t.by === "recoveries"
    ? `works with a time constant of ${timeConstantWords(t)} of this unit; the planner and the console take it too.`
    : `works with ${timeConstantWords(t)}: ${NO_FIT[t.because]}.`;
const NO_FIT = {
  "too-few-recoveries": `it is fitted from ${LEAST_RECOVERIES} recoveries on that ended by heat`,
  "one-rest": "recoveries after different rests would fit it",
  "range-too-wide": "the recoveries scatter too much to fit it",
} as const;

const minutes = (sec: number): string =>
  sec < 3600 ? `${Math.round(sec / 60)} min` : `${Math.floor(sec / 3600)} h ${String(Math.round((sec % 3600) / 60)).padStart(2, "0")} min`;
const restWords = (sec: number | null): string => (sec === null ? "not within four hours" : minutes(sec));

function Chart({ full, report }: Pick<Answerable, "full" | "report">) {
  const { points, fit } = full.recovery;
  const dots = points.map((p) => ({ restSec: p.restSec, run: p.share }));
  const cold = full.typicalSec;
  if (!fit.ok || cold === null)
    return <RecoveryChart rows={[{ restSec: 0 }, { restSec: Math.max(...dots.map((d) => d.restSec)) }]} runs={dots} />;
  const most = Math.max(fit.rest80Safe * 1.15, ...points.map((p) => p.restSec));
  const tau = report.tauMin * 60;
  const curve = Array.from({ length: 61 }, (_, i) => {
    const restSec = (most * i) / 60;
    const share = (t: number): number => Math.min(1, shareAfterRest(restSec, cold, tau, t));
    return { restSec, fitted: share(fit.tauCoolSec), band: [share(fit.range.hi), share(fit.range.lo)] as [number, number] };
  });
  return <RecoveryChart rows={curve} runs={dots} />;
}
