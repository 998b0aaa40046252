// Why do runs differ? What was recorded with them, compared; the price of each cause; what cannot be told apart; what to ask for.

import { capital } from "@keep-rolling/core/format";
import { timeConstantWords } from "@keep-rolling/core/heat";
import type { Effect } from "@keep-rolling/core/reading";
import { causeWords, costWords, effectsRefusal, effectWords, hms, leftWords, SLOPES, unsaidWords } from "@keep-rolling/core/reading";
import { ambientWords, lastedWords, observedFor } from "@keep-rolling/core/runs";
import { Link } from "react-router";
import { formatDate } from "../../../shared/dates/dates.ts";
import { useSettings } from "../../../shared/settings/settings.ts";
import type { FactorRow } from "../../../rulers/strips/FactorRuler.tsx";
import { FactorRuler } from "../../../rulers/strips/FactorRuler.tsx";
import { useWidth } from "../../../shared/ui/useWidth.ts";
import { ChartTable, Lead, Opened, PlainTable, Reason, Reasons } from "../parts.tsx";
import type { Answerable } from "./ask.ts";

const percent = (v: number): string => `${(100 * v).toFixed(0)} %`;
const BY = {
  exact: "all runs ended, so the t intervals are exact",
  pivot: "some runs are only at least, so the interval is a bootstrap of the pivot with 1,000 draws",
  "large-sample": "many runs, so Wald intervals with t and a scatter freed of its bias",
} as const;

export function Why(a: Answerable) {
  const { effects } = a.report;
  const [ref, width] = useWidth<HTMLDivElement>(520);
  const strongest = effects.ok ? strongestOf(effects.effects) : null;
  return (
    <div ref={ref}>
      <Lead about="Why runs of this unit differ:">
        {!effects.ok
          ? effectsRefusal(effects)
          : strongest === null
            ? "no single cause stands out of the scatter."
            : `${effectWords(strongest)}.`}
      </Lead>
      {effects.ok && (
        <>
          <FactorRuler rows={effects.effects.map(rowOf)} width={width} label="What each cause does to the runtime" />
          <ChartTable
            what="Causes"
            heads={["Cause", "Runtime", "90 % interval", "Runs with", "without"]}
            rows={effects.effects.map((e) => [
              causeWords(e.cause),
              percent(e.factor.mid),
              `${percent(e.factor.lo)} to ${percent(e.factor.hi)}`,
              e.yes ?? "–",
              e.no ?? "–",
            ])}
          />
        </>
      )}
      <Reasons>
        {effects.ok && effects.effects.map((e) => <Reason key={e.cause} title={`${capital(effectWords(e))}.`} text={sides(e)} />)}
        {effects.ok &&
          effects.effects
            .filter((e) => e.together.length > 0)
            .map((e) => (
              <Reason
                key={`with ${e.cause}`}
                title="Cannot be told apart:"
                text={`${[e.cause, ...e.together].map(causeWords).join(", ")} always came together. One run with only one of them would separate them.`}
              />
            ))}
        {effects.ok &&
          effects.withMode.map((cause) => (
            <Reason
              key={cause}
              title={`${capital(causeWords(cause))} came with one mode only,`}
              text="so its price and the mode's cannot be told apart."
            />
          ))}
        {effects.ok &&
          effects.unbounded.map((u) => (
            <Reason
              key={u.cause}
              title={`No run ${u.value ? "with" : "without"} ${causeWords(u.cause)} ended by heat unbroken:`}
              text={`${u.runs === 1 ? "1 run" : `${u.runs} runs`}, so its effect has no end that can be given.`}
            />
          ))}
        {a.full.scatter.tooWide && (
          <Reason
            title="These runs spread too far to average."
            text={`A log scatter of ${percent(a.full.scatter.sd ?? 0)} is far beyond what cold runs of one condition show. Ask for the cause before trusting any middle.`}
          />
        )}
        {a.full.scatter.unsaid.map((u) => (
          <Reason key={u} title="Not alike, or not recorded:" text={`${unsaidWords(u)}.`} />
        ))}
      </Reasons>
      <RunByRun {...a} />
      <Recorded {...a} />
      {effects.ok && (
        <Opened
          what="the causes"
          runIds={effects.runIds}
          runs={a.runs}
          method={`Log runtime on modes, ambient, start heat and settings, one lognormal scatter of ${percent(effects.sd)} (accelerated failure time), ${effects.n} runs of which ${effects.shutdowns} ended; ${BY[effects.by]}. Warm starts and recoveries join with the heat we estimate they still carried (time constant ${timeConstantWords(a.report.ledger)}). Taken for granted: causes multiply, and do not change one another.`}
        />
      )}
    </div>
  );
}

const SHOWN = 12;

/** The runs of this mode against the longest of them: what each cause took, and what is left. */
function RunByRun({ full, runs }: Answerable) {
  const { temperature } = useSettings();
  const { differences } = full;
  if (!differences.ok) return null;
  const dateOf = (id: string): string => {
    const run = runs.find((r) => r.id === id);
    return formatDate(run?.fold.startMs ?? 0, "dayTime", run?.row?.clockKind);
  };
  return (
    <section aria-label="Run by run" className="mt-4">
      <h3 className="font-semibold">{`${full.setup.mode.name}, run by run against the longest from cold: ${hms(differences.referenceSec)}, ${dateOf(differences.referenceId)}`}</h3>
      <ol className="text-sm">
        {differences.runs.slice(-SHOWN).map((d) => (
          <li key={d.runId} className="hairline py-1.5">
            <Link to={`/runs/${d.runId}`}>{dateOf(d.runId)}</Link>
            {d.lessSec < 1
              ? ` lasted as long.`
              : ` lasted ${hms(d.timeSec)}, ${lessWords(d.lessSec)} less: ${[...d.costs.map((c) => costWords(c, temperature)), leftWords(d)].join("; ")}.`}
          </li>
        ))}
      </ol>
      {differences.runs.length > SHOWN && (
        <p className="text-sm text-soft">{`The ${SHOWN} shortest of ${differences.runs.length} are told.`}</p>
      )}
    </section>
  );
}

const lessWords = (sec: number): string => (sec < 60 ? `${Math.round(sec)} s` : `${Math.round(sec / 60)} min`);
const sides = ({ yes, no, byPair }: Effect): string =>
  yes === null || no === null
    ? ""
    : `${yes} runs with, ${no} without.${byPair === true ? " The number is that of the two sets of runs that differ in it alone, as under before and after." : ""}`;
const rowOf = (e: Effect): FactorRow => ({
  key: e.cause,
  label: `${e.cause}${SLOPES[e.cause] === undefined ? "" : e.cause === "ambient" ? ", a degree" : ", a tenth"}`,
  ...e.factor,
});

/** The yes/no cause whose interval lies farthest from no change; a slope only without one. */
function strongestOf(effects: readonly Effect[]): Effect | null {
  const clear = effects.filter((e) => e.factor.hi < 1 || e.factor.lo > 1);
  const far = (e: Effect): number => Math.min(Math.abs(Math.log(e.factor.lo)), Math.abs(Math.log(e.factor.hi)));
  const yesNo = clear.filter((e) => SLOPES[e.cause] === undefined);
  return (yesNo.length > 0 ? yesNo : clear).reduce<Effect | null>((best, e) => (best === null || far(e) > far(best) ? e : best), null);
}

/** What was recorded with each run of the cell, left-out ones too, shortest first. */
function Recorded({ cell, runs, full, report }: Answerable) {
  const { temperature } = useSettings();
  const heat = new Map(full.runs.map((r) => [r.runId, r.startHeat]));
  const rows = cell.rows
    .filter((r) => r.run.fold.state === "ended")
    .map((r) => runs.find((x) => x.id === r.run.id) ?? r.run)
    .sort((x, y) => lastedMs(x) - lastedMs(y));
  return (
    <div className="mt-4 overflow-x-auto" tabIndex={0} role="region" aria-label="Recorded with these runs">
      <PlainTable
        caption="Recorded with these runs, shortest first"
        heads={["Run", "Recorded", "Ambient", "Start", "Heat left, by our estimate", "Pauses"]}
        rows={rows.map((run) => [
          formatDate(run.fold.startMs ?? 0, "dayTime", run.row?.clockKind),
          lastedWords(run.fold, "shutdown"),
          run.fold.setup === null ? "–" : ambientWords(run.fold.setup.ambient, temperature),
          run.fold.setup?.startState.state ?? "–",
          percent(report.startHeat[run.id] ?? heat.get(run.id) ?? 0),
          run.fold.gaps.length,
        ])}
      />
    </div>
  );
}
function lastedMs({ fold }: { fold: Answerable["runs"][number]["fold"] }): number {
  const seen = observedFor(fold, "shutdown");
  return seen.ok ? seen.timeMs.lo : 0;
}
