// How much warning, and can the countdown be believed? Leads of every shutdown; minutes shown against minutes left.

import { beliefWords, hms } from "@keep-rolling/core/reading";
import { formatShareDown } from "@keep-rolling/core/format";
import { formatDate } from "../../../shared/dates/dates.ts";
import { ChartTable, Lead, Opened, PlainTable, Reason, Reasons } from "../parts.tsx";
import type { Answerable } from "./ask.ts";

export function Warned({ full, runs, levels }: Answerable) {
  const { leads, belief } = full;
  const dateOf = (id: string): string => {
    const run = runs.find((r) => r.id === id);
    return formatDate(run?.fold.startMs ?? 0, "dayTime", run?.row?.clockKind);
  };
  return (
    <div>
      <Lead about={`${full.setup.mode.name}, ${full.setup.condition.name}:`}>
        {!leads.ok
          ? leads.reason === "not-recorded"
            ? "whether there was a warning is not recorded: these runs were entered late, or the camera told of one that nobody marked."
            : "no counted run is known to have ended by heat, so nothing is known of its warning."
          : leads.unwarned > 0
            ? `${leads.unwarned} of ${leads.leads.length} shutdowns came without a warning.`
            : `at least ${hms(leads.shortestSec)} of warning in ${formatShareDown(leads.share)} of shutdowns, ${formatShareDown(levels.confidence)} sure.`}
      </Lead>
      <Reasons>
        <Reason title="The countdown." text={beliefWords(belief, levels.confidence)} />
        {leads.ok && leads.notRecorded.length > 0 && (
          <Reason
            title={`${leads.notRecorded.length === 1 ? "1 shutdown is" : `${leads.notRecorded.length} shutdowns are`} left out:`}
            text={`no warning is recorded, but ${leads.notRecorded.length === 1 ? "it was" : "they were"} entered late, or the camera told of one that nobody marked. Add it to the run if you know.`}
          />
        )}
        {leads.ok && (
          <Reason title="Two ways." text="Obey the warning and plan to the first one, or run on: both limits can be had under Until." />
        )}
      </Reasons>
      {leads.ok && (
        <>
          <div className="print-keep mt-3 overflow-x-auto" tabIndex={0} role="region" aria-label="Warning leads">
            <PlainTable
              caption="First warning to shutdown, recorded time, shortest first"
              heads={["Run", "Lead"]}
              rows={leads.leads.map((l) => [dateOf(l.runId), l.warned ? hms(l.leadSec) : "no warning"])}
            />
          </div>
          {belief.ok && (
            <ChartTable
              what="Countdowns"
              heads={["Run", "Shown as left", "Truly left"]}
              rows={belief.countdowns.map((c) => [dateOf(c.runId), hms(c.saidSec), hms(c.leftSec)])}
            />
          )}
          <Opened
            what="the warning"
            runIds={leads.leads.map((l) => l.runId)}
            runs={runs}
            method="The shortest of n leads, without assuming a shape (Wilks 1941); a watched shutdown without a warning is a lead of zero, one entered late without a warning tells nothing. A countdown is kept when what was left is less than a minute short of it, for whole minutes are shown; shares by Clopper and Pearson, one-sided. Runs count whole: countdowns of one run are not independent."
          />
        </>
      )}
    </div>
  );
}
